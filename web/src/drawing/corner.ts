import type { Details } from '@careful-seam/core/rules/ruleBook';
import type { Point2, Point3 } from '@careful-seam/core/shower/geometry/point';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';

/** Ways that three planes meet, as unit directions from their point. */
export type Axes = readonly [Point3, Point3, Point3];

/** A stroke or a patch of a drawing, in drawing units, with how it is painted. */
export interface Mark {
  /** An SVG path in the units of the drawing. */
  path: string;
  /** How it is painted. */
  className: string;
}

/** How each layer is painted. */
export const PAINT = {
  plane: 'fill-leaf stroke-edge [stroke-width:1.2]',
  piece: 'fill-rule stroke-ink [stroke-width:1.4]',
  band: 'fill-water/25 stroke-ink [stroke-width:1.4]',
  mesh: 'fill-none stroke-soft [stroke-width:1] [stroke-dasharray:3_2]',
  bead: 'fill-none stroke-ink [stroke-width:5] [stroke-linecap:round]',
  wrong: 'fill-none stroke-hold [stroke-width:3] [stroke-linecap:round]',
  wrongFill: 'fill-hold/30 stroke-hold [stroke-width:2]',
} as const;

/** The ways in which each kind of corner goes wrong. */
export const CORNER_WRONGS = {
  preformed: ['pinhole', 'bandShort', 'wrongSide'],
  filled: ['open', 'meshIn', 'meshShows'],
  fabric: ['noFabric', 'thick', 'pinhole'],
  folded: ['cut', 'screw', 'short'],
  lip: ['behind', 'empty', 'noGap'],
} as const satisfies Record<Details['corner'], readonly string[]>;

/** Directions of the three lines that meet at a corner of the shower, as it was drawn; null where fewer than three do. */
export function cornerAxes(model: ShowerModel, element: string): Axes | null {
  const corner = model.corners.find((c) => c.id === element);
  if (!corner) return null;
  const near = (p: Point3) => Math.hypot(p[0] - corner.point[0], p[1] - corner.point[1], p[2] - corner.point[2]) < 1;
  const found: Point3[] = [];
  for (const seam of model.seams) {
    const ends = [
      [seam.points[0]!, seam.points[1]!],
      [seam.points.at(-1)!, seam.points.at(-2)!],
    ] as const;
    for (const [here, there] of ends) {
      if (!near(here) || !seam.faces.every((f) => corner.faces.includes(f))) continue;
      const d: Point3 = [there[0] - here[0], there[1] - here[1], there[2] - here[2]];
      const length = Math.hypot(...d);
      const unit: Point3 = [d[0] / length, d[1] / length, d[2] / length];
      if (length > 0 && !found.some((f) => f[0] * unit[0] + f[1] * unit[1] + f[2] * unit[2] > 0.99)) found.push(unit);
    }
  }
  if (found.length < 3) return null;
  // The steepest line is drawn upright, the two others lie.
  found.sort((a, b) => Math.abs(a[2]) - Math.abs(b[2]));
  return [found[0]!, found[1]!, found[2]!];
}

/** How the three edges of a corner run on the sheet: one down, one to each side. */
export const USUAL_AXES: Axes = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

/** A point as an SVG path says it. */
const pathPoint = ([x, y]: Point2): string => `${x.toFixed(1)} ${y.toFixed(1)}`;

/** Draws a corner from where its three planes are all seen: places are shares along its three lines. */
export function cornerView(axes: Axes, size: number) {
  const turn = ([x, y, z]: Point3): Point2 => [(x - y) * 0.82, -(x + y) * 0.42 * Math.sign(1) - z * 0.86];
  const raw = axes.map(turn);
  const all: Point2[] = [[0, 0], ...raw, [raw[0]![0] + raw[1]![0], raw[0]![1] + raw[1]![1]]];
  all.push([raw[0]![0] + raw[2]![0], raw[0]![1] + raw[2]![1]], [raw[1]![0] + raw[2]![0], raw[1]![1] + raw[2]![1]]);
  const [xs, ys] = [all.map((p) => p[0]), all.map((p) => p[1])];
  const span = Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
  const k = (size - 12) / span;
  const put = (a: number, b: number, c: number): Point2 => [
    6 + (a * raw[0]![0] + b * raw[1]![0] + c * raw[2]![0] - Math.min(...xs)) * k,
    6 + (a * raw[0]![1] + b * raw[1]![1] + c * raw[2]![1] - Math.min(...ys)) * k,
  ];
  /** A rectangle on the plane of two of the lines (0, 1, 2). */
  const quad = (i: 0 | 1 | 2, j: 0 | 1 | 2, [i0, i1]: Point2, [j0, j1]: Point2): string => {
    const at = (u: number, v: number) => {
      const s: [number, number, number] = [0, 0, 0];
      s[i] = u;
      s[j] = v;
      return put(...s);
    };
    return `M${[at(i0, j0), at(i1, j0), at(i1, j1), at(i0, j1)].map(pathPoint).join('L')}Z`;
  };
  const line = (...points: readonly [number, number, number][]) =>
    `M${points.map((p) => pathPoint(put(...p))).join('L')}`;
  const ring = (a: number, b: number, c: number, r: number) => {
    const [x, y] = put(a, b, c);
    return `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;
  };
  return { quad, line, ring };
}

/** Where the planes of a corner lie on the sheet. */
type View = ReturnType<typeof cornerView>;
/** Each plane with the two edges that span it. */
const PLANES = [
  [0, 1],
  [0, 2],
  [1, 2],
] as const;
/** How far a corner piece reaches along an edge, as a share of the edge. */
const LEG = 0.36;
/** How wide a band is, as a share of the edge. */
const BAND = 0.24;

/** The bare corner. */
const planes = (v: View): Mark[] =>
  PLANES.map(([i, j]) => ({ path: v.quad(i, j, [0, 1], [0, 1]), className: PAINT.plane }));
/** A corner piece that covers a part of each plane. */
const piece = (v: View, className: string, leg = LEG): Mark[] =>
  PLANES.map(([i, j]) => ({ path: v.quad(i, j, [0, leg], [0, leg]), className }));
/** A strip along each of the three lines, on both of its planes, from a share on. */
const strips = (v: View, className: string, from: number, wide = BAND): Mark[] =>
  PLANES.flatMap(([i, j]) => [
    { path: v.quad(i, j, [from, 1], [0, wide]), className },
    { path: v.quad(j, i, [from, 1], [0, wide]), className },
  ]);
/** Sealant along the edges, from a share of the edge on. */
const beads = (v: View, from: number): Mark[] =>
  (
    [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ] as const
  ).map(([a, b, c]) => ({
    path: v.line([a * from, b * from, c * from], [a, b, c]),
    className: PAINT.bead,
  }));

/** What right looks like at a corner of this kind, or one of the usual wrongs. */
export function cornerMarks(v: View, kind: Details['corner'], wrong: string | null): Mark[] {
  const base = planes(v);
  switch (kind) {
    case 'preformed':
      return [
        ...base,
        ...(wrong === 'wrongSide'
          ? [...strips(v, PAINT.band, 0.04), ...piece(v, PAINT.wrongFill, LEG * 0.8)]
          : [...piece(v, PAINT.piece), ...strips(v, PAINT.band, wrong === 'bandShort' ? LEG + 0.14 : 0.05)]),
        ...(wrong === 'bandShort' ? [{ path: v.line([LEG, 0, 0], [LEG + 0.14, 0, 0]), className: PAINT.wrong }] : []),
        ...(wrong === 'pinhole' ? [{ path: v.ring(0, 0, 0, 7), className: PAINT.wrong }] : []),
      ];
    case 'filled':
      return [
        ...base,
        ...strips(v, PAINT.mesh, wrong === 'meshIn' ? 0 : 0.3, 0.16),
        ...beads(v, wrong === 'open' ? 0.16 : 0),
        ...(wrong === 'open' ? [{ path: v.ring(0, 0, 0, 9), className: PAINT.wrong }] : []),
        ...(wrong === 'meshIn' ? [{ path: v.quad(0, 1, [0, 0.22], [0, 0.22]), className: PAINT.wrongFill }] : []),
        ...(wrong === 'meshShows'
          ? [{ path: v.quad(0, 1, [0.4, 0.8], [0.03, 0.18]), className: PAINT.wrongFill }]
          : []),
      ];
    case 'fabric':
      return [
        ...base.map((m) => ({ ...m, className: 'fill-water/20 stroke-edge [stroke-width:1.2]' })),
        ...(wrong === 'noFabric' ? [] : [...piece(v, PAINT.mesh, 0.3), ...strips(v, PAINT.mesh, 0.1, 0.2)]),
        ...(wrong === 'noFabric'
          ? [{ path: v.line([0.7, 0, 0], [0.3, 0.02, 0], [0, 0, 0], [0, 0.02, 0.4]), className: PAINT.wrong }]
          : []),
        ...(wrong === 'thick'
          ? [
              ...piece(v, PAINT.wrongFill, 0.26),
              { path: v.line([0.22, 0.1, 0], [0.05, 0.04, 0], [0, 0.08, 0.2]), className: PAINT.wrong },
            ]
          : []),
        ...(wrong === 'pinhole' ? [{ path: v.ring(0, 0, 0, 7), className: PAINT.wrong }] : []),
      ];
    case 'folded': {
      const up = wrong === 'short' ? 0.16 : 0.46;
      const liner = [
        { path: v.quad(0, 1, [0, 1], [0, 1]), className: PAINT.band },
        { path: v.quad(0, 2, [0, 1], [0, up]), className: PAINT.band },
        { path: v.quad(1, 2, [0, 1], [0, up]), className: PAINT.band },
      ];
      return [
        ...base,
        ...liner,
        ...(wrong === 'cut'
          ? [{ path: v.line([0, 0, 0], [0, 0, up]), className: PAINT.wrong }]
          : [{ path: v.line([0, 0, 0], [0, 0.2, up], [0, 0, up]), className: PAINT.mesh }]),
        ...(wrong === 'screw' ? [{ path: v.ring(0.5, 0, 0.2, 6), className: PAINT.wrong }] : []),
        ...(wrong === 'short' ? [{ path: v.line([0.1, 0, up], [0.9, 0, up]), className: PAINT.wrong }] : []),
      ];
    }
    case 'lip': {
      const gap = wrong === 'noGap' ? 0.3 : 0.36;
      const foot = wrong === 'behind' ? 0 : gap;
      return [
        ...base,
        { path: v.quad(0, 2, [0, 1], [foot, 1]), className: PAINT.piece },
        { path: v.quad(1, 2, [0, 1], [foot, 1]), className: PAINT.piece },
        { path: v.quad(0, 1, [0, 1], [0, 1]), className: PAINT.band },
        { path: v.quad(0, 2, [0, 1], [0, 0.3]), className: PAINT.band },
        { path: v.quad(1, 2, [0, 1], [0, 0.3]), className: PAINT.band },
        ...(wrong === null
          ? [{ path: v.line([1, 0, 0.33], [0, 0, 0.33], [0, 1, 0.33]), className: PAINT.bead }]
          : [{ path: v.line([1, 0, 0.33], [0, 0, 0.33], [0, 1, 0.33]), className: PAINT.wrong }]),
      ];
    }
  }
}
