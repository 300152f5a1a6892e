import { benchPlan } from '../geometry/bench';
import { bodyTopMm, edgeAt, riseOf } from '../geometry/outline';
import { edgeId, type ShowerGeometry, type WallLine } from '../geometry/showerGeometry';
import { isLow, isWall, onWall, type WallFrame, wallFrame } from '../geometry/wallFrame';
import { type Stretch, subtract } from './intervals';
import { makeSeam, type Seam } from './seam';

/** Rectangles of a wall that niches open and benches hide, mm from its left end and its foot. */
function holes(g: ShowerGeometry, i: number) {
  const niches = (g.niches ?? []).filter((n) => n.edge === i);
  const benches = (g.benches ?? []).flatMap((b) =>
    benchPlan(g, b)
      .contacts.filter((c) => c.edge === i)
      .map((c) => ({ left: c.fromMm, right: c.toMm, low: b.undersideMm ?? 0, high: b.topMm })),
  );
  return [
    ...niches.map((n) => ({
      left: n.alongMm,
      right: n.alongMm + n.widthMm,
      low: n.sillMm,
      high: n.sillMm + n.heightMm,
    })),
    ...benches,
  ];
}

/** How far a line of a wall runs: over the whole wall, out beside a lower curb, or from and to where it was drawn. */
function extent(g: ShowerGeometry, f: WallFrame, line: WallLine): Stretch {
  if (line.run === 'upright') return { fromMm: line.fromMm ?? 0, toMm: line.toMm ?? f.heightMm };
  const clears = (k: number) => {
    const edge = edgeAt(g, k);
    return !isLow(edge) || bodyTopMm(g, edge) <= riseOf(g) + line.atMm;
  };
  const left = clears(f.edge + 1) ? -f.beyondLeftMm : 0;
  const right = f.lengthMm + (clears(f.edge - 1) ? f.beyondRightMm : 0);
  return {
    fromMm: line.fromMm ? line.fromMm : left,
    toMm: line.toMm === undefined || line.toMm >= f.lengthMm - 0.01 ? right : line.toMm,
  };
}

const LEAST_MM = 1;

function lineSeams(g: ShowerGeometry, i: number, kind: 'board-joint' | 'sheet-lap', line: WallLine): Seam[] {
  const f = wallFrame(g, i);
  const face = `wall:${edgeId(g, i)}`;
  const level = line.run === 'level';
  const hidden = holes(g, i)
    .filter((h) => (level ? h.low < line.atMm && line.atMm < h.high : h.left < line.atMm && line.atMm < h.right))
    .map((h) => (level ? { fromMm: h.left, toMm: h.right } : { fromMm: h.low, toMm: h.high }));
  const place = (mm: number) => (level ? onWall(f, mm, line.atMm) : onWall(f, line.atMm, mm));
  return subtract([extent(g, f, line)], hidden)
    .filter((s) => s.toMm - s.fromMm > LEAST_MM)
    .map((s, k) => {
      const id = `${kind}|${face}|${line.id}${k > 0 ? `|${k + 1}` : ''}`;
      return makeSeam(id, kind, [face], [place(s.fromMm), place(s.toMm)], `${face}:${line.run}`);
    });
}

/** The board joints and sheet laps of one wall as seams, without what niches open and benches hide. */
export function wallLineSeams(g: ShowerGeometry, i: number): Seam[] {
  const edge = g.edges[i]!;
  if (!isWall(edge)) return [];
  return [
    ...(edge.boardJoints ?? []).flatMap((line) => lineSeams(g, i, 'board-joint', line)),
    ...(edge.sheetLaps ?? []).flatMap((line) => lineSeams(g, i, 'sheet-lap', line)),
  ];
}
