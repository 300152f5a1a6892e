import type { Point2 } from '../../shower/geometry/point';
import { drawnLengthMm } from '../../shower/map/unfold';
import type { LineState, SeamLine } from './seamLine';

/** One stroke of a seam's line work as an SVG path; the state tells its weight, dash and colour. */
export interface Stroke {
  state: LineState | 'tick' | 'water';
  path: string;
}

/** Sizes of the marks, in drawing units. */
export interface LineWorkSize {
  tooth: number;
  tick: number;
  gap: number;
}

const round = (x: number): number => Math.round(x * 100) / 100;
const pathPoint = (p: Point2): string => `${round(p[0])} ${round(p[1])}`;

interface OnLine {
  at: Point2;
  /** Unit normal, to the left of the direction of travel. */
  normal: Point2;
}

/** The point a share t of the way along a drawn line, with its normal. */
export function alongLine(points: readonly Point2[], t: number): OnLine {
  const total = drawnLengthMm(points);
  let left = Math.max(0, Math.min(1, t)) * total;
  for (let i = 0; i + 1 < points.length; i += 1) {
    const [a, b] = [points[i]!, points[i + 1]!];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (left <= length + 1e-9 || i + 2 === points.length) {
      const s = length === 0 ? 0 : left / length;
      const [dx, dy] = length === 0 ? [1, 0] : [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
      return { at: [a[0] + (b[0] - a[0]) * s, a[1] + (b[1] - a[1]) * s], normal: [-dy, dx] };
    }
    left -= length;
  }
  return { at: points[0]!, normal: [0, 1] };
}

function shifted({ at, normal }: OnLine, by: number): Point2 {
  return [at[0] + normal[0] * by, at[1] + normal[1] * by];
}

/** The part of a line between two shares of its length, moved sideways by `by`. */
function part(points: readonly Point2[], from: number, to: number, by = 0): Point2[] {
  const total = drawnLengthMm(points);
  const inner: number[] = [];
  let run = 0;
  for (let i = 1; i + 1 < points.length; i += 1) {
    run += drawnLengthMm([points[i - 1]!, points[i]!]);
    if (run / total > from && run / total < to) inner.push(run / total);
  }
  return [from, ...inner, to].map((t) => shifted(alongLine(points, t), by));
}

const polyline = (points: readonly Point2[]): string => `M${points.map(pathPoint).join('L')}`;

function sawTooth(points: readonly Point2[], from: number, to: number, size: LineWorkSize): string {
  const length = (to - from) * drawnLengthMm(points);
  const teeth = Math.max(6, Math.round(length / (size.tooth * 0.9)));
  const corners = Array.from({ length: teeth + 1 }, (_, k) => {
    const up = k === 0 || k === teeth ? 0 : k % 2 === 0 ? -size.tooth * 0.7 : size.tooth * 0.7;
    return shifted(alongLine(points, from + ((to - from) * k) / teeth), up);
  });
  return polyline(corners);
}

const crossBar = (points: readonly Point2[], t: number, half: number): string => {
  const on = alongLine(points, t);
  return polyline([shifted(on, -half), shifted(on, half)]);
};

/**
 * Evidence as line work, readable without colour: unseen dotted, seen thin, measured thick with cross ticks at its
 * readings, defect as saw-tooth, covered broken with a bar across, proved by water doubled. The drawn points run as
 * the seam does, in any units; dashes are the painter's (by state).
 */
export function lineWork(
  line: SeamLine,
  seamLengthMm: number,
  points: readonly Point2[],
  size: LineWorkSize,
): Stroke[] {
  const strokes: Stroke[] = [];
  for (const piece of line.pieces) {
    const [from, to] = [piece.fromMm / seamLengthMm, piece.toMm / seamLengthMm];
    if (piece.water && piece.state !== 'defect') {
      strokes.push({ state: 'water', path: polyline(part(points, from, to, size.gap)) });
    }
    const path = piece.state === 'defect' ? sawTooth(points, from, to, size) : polyline(part(points, from, to));
    strokes.push({ state: piece.state, path });
    if (piece.state === 'covered')
      strokes.push({ state: 'tick', path: crossBar(points, (from + to) / 2, size.tick * 1.6) });
  }
  for (const at of line.ticksMm) strokes.push({ state: 'tick', path: crossBar(points, at / seamLengthMm, size.tick) });
  return strokes;
}
