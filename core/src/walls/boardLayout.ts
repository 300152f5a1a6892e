import { done, type Outcome, refuse } from '../outcome/outcome';

/** Sheets on one wall, mm. */
export interface BoardLayoutInput {
  wallLengthMm: number;
  wallHeightMm: number;
  sheetLongMm: number;
  sheetShortMm: number;
  /** Long side level, or standing upright. */
  run: 'level' | 'upright';
  /** How far each next course starts into a sheet, mm; 0 lets all joints line up. */
  offsetMm: number;
}

/** A joint between boards. */
export interface BoardJoint {
  run: 'level' | 'upright';
  /** Height over the foot, or distance from the wall’s left end, mm. */
  atMm: number;
  fromMm: number;
  toMm: number;
}

/** Sheets on a wall. */
export interface BoardLayout {
  joints: BoardJoint[];
  /** Pieces on the wall, and sheets to buy when each offcut that fits is used again. */
  pieces: number;
  sheets: number;
  /** mm of joints. */
  jointMm: number;
  /** The narrowest piece, mm. */
  narrowestMm: number;
}

/** Ends of the pieces of one course along its run, mm: the first is cut by the offset. */
function courseEnds(lengthMm: number, sheetMm: number, startMm: number): number[] {
  const ends: number[] = [];
  for (let at = startMm > 0 ? startMm : sheetMm; at < lengthMm - 0.01; at += sheetMm) ends.push(at);
  return [...ends, lengthMm];
}

/** Sheets that the pieces of one width are cut from, longest first into the first offcut that still holds them. */
function sheetsFor(pieces: readonly number[], sheetMm: number): number {
  const left: number[] = [];
  for (const piece of [...pieces].sort((a, b) => b - a)) {
    const k = left.findIndex((room) => room >= piece - 0.01);
    if (k < 0) left.push(sheetMm - piece);
    else left[k]! -= piece;
  }
  return left.length;
}

/**
 * Lays sheets on a wall in courses from its foot (or from its left end when they stand), each course starting with a
 * cut sheet where an offset is asked for. Counts pieces and sheets; offcuts of the same width are used again.
 * [common practice, no source]
 */
export function boardLayout(input: BoardLayoutInput): Outcome<BoardLayout> {
  for (const key of ['wallLengthMm', 'wallHeightMm', 'sheetLongMm', 'sheetShortMm'] as const)
    if (!(input[key] > 0)) return refuse('board-size-missing', key);
  if (input.offsetMm < 0 || input.offsetMm >= input.sheetLongMm) return refuse('offset-too-long', 'offsetMm');
  const level = input.run === 'level';
  const along = level ? input.wallLengthMm : input.wallHeightMm;
  const across = level ? input.wallHeightMm : input.wallLengthMm;
  const joints: BoardJoint[] = [];
  const byWidth = new Map<number, number[]>();
  const courses = courseEnds(across, input.sheetShortMm, 0);
  courses.forEach((top, c) => {
    const low = c === 0 ? 0 : courses[c - 1]!;
    if (c > 0) joints.push({ run: level ? 'level' : 'upright', atMm: low, fromMm: 0, toMm: along });
    const ends = courseEnds(along, input.sheetLongMm, (c * input.offsetMm) % input.sheetLongMm);
    const width = Math.round((top - low) * 100) / 100;
    ends.forEach((end, k) => {
      if (k > 0) joints.push({ run: level ? 'upright' : 'level', atMm: ends[k - 1]!, fromMm: low, toMm: top });
      byWidth.set(width, [...(byWidth.get(width) ?? []), end - (ends[k - 1] ?? 0)]);
    });
  });
  const pieces = [...byWidth.values()].flat();
  return done({
    joints,
    pieces: pieces.length,
    sheets: sheetCount(byWidth, input),
    jointMm: joints.reduce((sum, j) => sum + j.toMm - j.fromMm, 0),
    narrowestMm: Math.min(...pieces, ...byWidth.keys()),
  });
}

/** Ripped courses share a sheet where two fit beside each other. */
function sheetCount(
  byWidth: ReadonlyMap<number, readonly number[]>,
  { sheetLongMm, sheetShortMm }: BoardLayoutInput,
): number {
  let sheets = 0;
  for (const [width, pieces] of byWidth) {
    const strips = sheetsFor(pieces, sheetLongMm);
    sheets += Math.ceil(strips / Math.max(1, Math.floor((sheetShortMm + 0.01) / width)));
  }
  return sheets;
}
