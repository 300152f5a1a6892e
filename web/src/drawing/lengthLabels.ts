import type { Point2 } from '@careful-seam/core/shower/geometry/point';

/** A line that may be told its length, in sheet units. */
export interface Measured {
  /** Id of the seam. */
  seam: string;
  /** As it is drawn, px. */
  points: readonly Point2[];
  /** Its length in words. */
  text: string;
  /** The wall, floor or part that it is drawn on: its length stands on that, too. */
  on: Box;
}

/** A length where it stands on the sheet. */
export interface LengthLabel {
  /** Id of the seam. */
  seam: string;
  /** Its length in words. */
  text: string;
  /** Its middle, px. */
  at: Point2;
  /** Upright beside a line that stands. */
  isUpright: boolean;
}

/** A stretch of the sheet, px. */
export interface Box {
  minX: number;
  minY: number;
  maxX: number;
  maxY: number;
}

/** Height of a label and width of a letter, px. */
const HIGH = 12;
const LETTER = 6.2;
/** From the line to the middle of its label, px: past the teeth of a defect. */
const AWAY = 17;
/** Room that a label keeps to all else, px. */
const ROOM = 3;

const meets = (a: Box, b: Box): boolean => a.minX < b.maxX && b.minX < a.maxX && a.minY < b.maxY && b.minY < a.maxY;

/** Whether a stretch between two points runs through a box. */
function crosses(box: Box, [ax, ay]: Point2, [bx, by]: Point2): boolean {
  let [from, to] = [0, 1];
  for (const [start, along, least, most] of [
    [ax, bx - ax, box.minX, box.maxX],
    [ay, by - ay, box.minY, box.maxY],
  ] as const) {
    if (along === 0) {
      if (start < least || start > most) return false;
      continue;
    }
    const [one, other] = [(least - start) / along, (most - start) / along];
    from = Math.max(from, Math.min(one, other));
    to = Math.min(to, Math.max(one, other));
  }
  return from < to;
}

/** The longest straight piece of a line. */
function longest(points: readonly Point2[]): { a: Point2; b: Point2; px: number } | null {
  let best: { a: Point2; b: Point2; px: number } | null = null;
  points.slice(1).forEach((b, k) => {
    const a = points[k]!;
    const px = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (!best || px > best.px) best = { a, b, px };
  });
  return best;
}

/** Where a label may stand beside a piece: at its middle, then towards its ends, on either side. */
function* placesAt({ a, b, px }: { a: Point2; b: Point2; px: number }): Generator<Point2> {
  const normal: Point2 = [-(b[1] - a[1]) / px, (b[0] - a[0]) / px];
  for (const share of [0.5, 0.3, 0.7])
    for (const side of [1, -1])
      yield [
        a[0] + (b[0] - a[0]) * share + normal[0] * AWAY * side,
        a[1] + (b[1] - a[1]) * share + normal[1] * AWAY * side,
      ];
}

/**
 * Lengths beside their lines, the longest first, on the part that they are drawn on. None stands on another, on a line, or on what is `taken`, and a line that is
 * shorter than its length is long gets none: who wants that one taps it.
 */
export function lengthLabels(lines: readonly Measured[], taken: readonly Box[]): LengthLabel[] {
  const labels: LengthLabel[] = [];
  const boxes = [...taken];
  const pieces = lines.flatMap(({ points }) => points.slice(1).map((b, k) => [points[k]!, b] as const));
  const told = new Set<string>();
  const all = lines.flatMap((line) => {
    const piece = longest(line.points);
    return piece ? [{ line, piece }] : [];
  });
  for (const { line, piece } of all.sort((x, y) => y.piece.px - x.piece.px)) {
    const wide = line.text.length * LETTER;
    if (told.has(line.seam) || piece.px < wide + 2 * HIGH) continue;
    const isUpright = Math.abs(piece.b[1] - piece.a[1]) > Math.abs(piece.b[0] - piece.a[0]);
    const [w, h] = isUpright ? [HIGH, wide] : [wide, HIGH];
    for (const at of placesAt(piece)) {
      const box = {
        minX: at[0] - w / 2 - ROOM,
        minY: at[1] - h / 2 - ROOM,
        maxX: at[0] + w / 2 + ROOM,
        maxY: at[1] + h / 2 + ROOM,
      };
      const { on } = line;
      const inside = box.minX > on.minX && box.maxX < on.maxX && box.minY > on.minY && box.maxY < on.maxY;
      if (!inside || boxes.some((b) => meets(box, b)) || pieces.some(([a, b]) => crosses(box, a, b))) continue;
      labels.push({ seam: line.seam, text: line.text, at, isUpright });
      boxes.push(box);
      told.add(line.seam);
      break;
    }
  }
  return labels;
}
