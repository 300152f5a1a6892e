import type { Point2 } from '@careful-seam/core/shower/geometry/point';
import { type PlacedPanel, toSheet } from '@careful-seam/core/shower/map/arrange';

/** Something on the map that can be chosen, in sheet units. */
export interface Spot {
  /** Id of the seam, corner, opening, drain or face. */
  element: string;
  /** Its outline on the sheet, px: one for a point, two for a line, more for an area. */
  points: Point2[];
  /** A line is chosen before the area it lies on, a point before both. */
  kind: 'point' | 'line' | 'area';
}

/** Distance from a point to a stretch between two others, px. */
function toSegment(p: Point2, a: Point2, b: Point2): number {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const size = dx * dx + dy * dy;
  const t = size === 0 ? 0 : Math.max(0, Math.min(1, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / size));
  return Math.hypot(p[0] - a[0] - t * dx, p[1] - a[1] - t * dy);
}

/** Distance from a point to what can be chosen, px. */
function distance(spot: Spot, p: Point2): number {
  if (spot.points.length === 1) return Math.hypot(p[0] - spot.points[0]![0], p[1] - spot.points[0]![1]);
  return Math.min(...spot.points.slice(1).map((b, i) => toSegment(p, spot.points[i]!, b)));
}

/** True inside an area. */
function contains(spot: Spot, [x, y]: Point2): boolean {
  let inside = false;
  spot.points.forEach((a, i) => {
    const b = spot.points[(i + 1) % spot.points.length]!;
    if (a[1] > y !== b[1] > y && x < ((b[0] - a[0]) * (y - a[1])) / (b[1] - a[1]) + a[0]) inside = !inside;
  });
  return inside;
}

/** A small part weighs more than a long line that passes it; a face is chosen where no line is near. */
const POINT_ADVANTAGE = 10;

/** What a tap at p means: the nearest point or seam within reach, else the face under it. */
export function nearest(spots: readonly Spot[], p: Point2, reach: number): Spot | null {
  let best: { spot: Spot; score: number } | null = null;
  for (const spot of spots) {
    if (spot.kind === 'area') continue;
    const away = distance(spot, p);
    const score = spot.kind === 'point' ? away - POINT_ADVANTAGE : away;
    if (away <= reach && (!best || score < best.score)) best = { spot, score };
  }
  return best?.spot ?? spots.find((s) => s.kind === 'area' && contains(s, p)) ?? null;
}

/** Where each arrow key goes. */
const DIRECTIONS: Record<string, Point2> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** Where the arrows start from. */
const middle = (spot: Spot): Point2 => [
  spot.points.reduce((sum, p) => sum + p[0], 0) / spot.points.length,
  spot.points.reduce((sum, p) => sum + p[1], 0) / spot.points.length,
];

/** The next seam or point from the chosen one in an arrow's direction; the first one when nothing is chosen. */
export function neighbour(spots: readonly Spot[], chosen: string | null, key: string): Spot | null {
  const direction = DIRECTIONS[key];
  const walkable = spots.filter((s) => s.kind !== 'area');
  const from = walkable.find((s) => s.element === chosen);
  if (!direction || !from) return walkable.find((s) => s.kind === 'line') ?? null;
  const [x, y] = middle(from);
  let best: { spot: Spot; score: number } | null = null;
  for (const spot of walkable) {
    if (spot.element === chosen) continue;
    const [mx, my] = middle(spot);
    const ahead = (mx - x) * direction[0] + (my - y) * direction[1];
    const aside = Math.abs((mx - x) * direction[1]) + Math.abs((my - y) * direction[0]);
    const score = ahead + aside * 2;
    if (ahead > 1 && (!best || score < best.score)) best = { spot, score };
  }
  return best?.spot ?? null;
}

/** Everything on the map that a tap or an arrow can choose. */
export function spotsOf(panels: readonly PlacedPanel[]): Spot[] {
  const points = panels.flatMap((placed) =>
    placed.panel.points.map((p) => ({ element: p.element, points: [toSheet(placed, p.at)], kind: 'point' as const })),
  );
  const seams = panels.flatMap((placed) =>
    placed.panel.seams.map((d) => ({
      element: d.seam,
      points: d.points.map((p) => toSheet(placed, p)),
      kind: 'line' as const,
    })),
  );
  const faces = panels.flatMap((placed) =>
    placed.panel.faces.map((f) => ({
      element: f.face,
      points: f.outline.map((p) => toSheet(placed, p)),
      kind: 'area' as const,
    })),
  );
  return [...points, ...seams, ...faces];
}
