import { done, type Outcome, refuse } from '../outcome/outcome';

/** How much larger than the niche its rough opening is made, mm: 1/4 in [common practice, no source]. */
const OPENING_OVER_MM = 6.35;

export interface NicheLayoutInput {
  tileHeightMm: number;
  tileWidthMm: number;
  jointMm: number;
  /** Height of any level joint over the wall's foot, and place of any upright one from its left end, mm. */
  levelJointMm: number;
  uprightJointMm: number;
  /** Where the niche is wanted: its sill over the foot, its height and width, its left side from the wall's left end. */
  sillMm: number;
  heightMm: number;
  widthMm: number;
  alongMm: number;
  /** Middles of the studs from the wall's left end, and how wide a stud is. */
  studsAtMm: readonly number[];
  studMm: number;
}

export interface NicheLayout {
  /** Sill and height moved to the joints nearest to what was wanted; whole courses high. */
  sillMm: number;
  heightMm: number;
  courses: number;
  /** The tile left to its left and to its right in the course, mm; a whole tile where a joint falls there. */
  leftTileMm: number;
  rightTileMm: number;
  openingWidthMm: number;
  openingHeightMm: number;
  /** True when the opening lies between two studs without cutting one. */
  fitsBetweenStuds: boolean;
}

const mod = (x: number, by: number): number => ((x % by) + by) % by;

/** The cut that is left of a tile between a joint and a side, mm; a whole tile when they fall together. */
function cutBeside(distanceMm: number, moduleMm: number, tileMm: number): number {
  const rest = mod(distanceMm, moduleMm);
  return rest < 0.5 || rest > tileMm ? tileMm : rest;
}

/**
 * Moves a niche to the courses of its tile: its sill and its head on joints, so that no sliver is cut there, and tells
 * what is cut at its sides and whether its opening fits between the studs.
 */
export function nicheLayout(input: NicheLayoutInput): Outcome<NicheLayout> {
  for (const key of ['tileHeightMm', 'tileWidthMm', 'heightMm', 'widthMm'] as const)
    if (!(input[key] > 0)) return refuse('range-invalid', key, 'Tile and niche need a size above zero. Check them.');
  if (input.jointMm < 0)
    return refuse('range-invalid', 'jointMm', 'A joint can’t be narrower than nothing. Check its width.');
  const course = input.tileHeightMm + input.jointMm;
  const module = input.tileWidthMm + input.jointMm;
  const sillMm = input.levelJointMm + Math.round((input.sillMm - input.levelJointMm) / course) * course;
  const courses = Math.max(1, Math.round((input.heightMm + input.jointMm) / course));
  const heightMm = courses * course - input.jointMm;
  const [left, right] = [input.alongMm, input.alongMm + input.widthMm];
  const openingWidthMm = input.widthMm + OPENING_OVER_MM;
  const [from, to] = [left - OPENING_OVER_MM / 2, right + OPENING_OVER_MM / 2];
  const fitsBetweenStuds = input.studsAtMm.every(
    (s) => s + input.studMm / 2 <= from + 0.01 || s - input.studMm / 2 >= to - 0.01,
  );
  return done({
    sillMm,
    heightMm,
    courses,
    leftTileMm: cutBeside(left - input.uprightJointMm, module, input.tileWidthMm),
    rightTileMm: cutBeside(input.uprightJointMm - input.jointMm - right, module, input.tileWidthMm),
    openingWidthMm,
    openingHeightMm: heightMm + OPENING_OVER_MM,
    fitsBetweenStuds,
  });
}
