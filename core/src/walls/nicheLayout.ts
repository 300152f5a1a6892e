import { done, type Outcome, refuse } from '../outcome/outcome';

/** How much larger than the niche its rough opening is made, mm: 1/4 in [common practice, no source]. */
const OPENING_OVER_MM = 6.35;

/** Room that a vent or supply pipe takes in the wall, mm: a 2 in pipe outside [nominal size, from memory]. */
const PIPE_MM = 60.3;

/** A niche among tiles and studs. */
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
  /** A bought niche keeps its height; what is made on site is moved to whole courses. */
  fixedSize?: boolean | undefined;
  /** Middles of the studs from the wall's left end, and how wide a stud is. */
  studsAtMm: readonly number[];
  studMm: number;
  /** Where a shelf is wanted over the sill, mm; it goes to the joint nearest to it. */
  shelfMm?: number | undefined;
  /** Middles of pipes in the wall from its left end, mm. */
  pipesAtMm?: readonly number[] | undefined;
}

/** A niche moved so that its cuts look meant. */
export interface NicheLayout {
  /** Sill moved to the joint nearest to what was wanted, and the height to whole courses unless it is fixed. */
  sillMm: number;
  heightMm: number;
  /** Courses of tile that it is high. */
  courses: number;
  /** The tile left over a head that falls between two joints, mm; null where the head stands on one. */
  headTileMm: number | null;
  /** The tile left to its left and to its right in the course, mm; a whole tile where a joint falls there. */
  leftTileMm: number;
  rightTileMm: number;
  /** How far the niche moves to the right (left when negative) for even cuts at both sides, and how wide those are. */
  evenShiftMm: number;
  evenCutMm: number;
  /** A cut under half a tile [ANSI A108.02, value from memory]. */
  sliver: boolean;
  openingWidthMm: number;
  openingHeightMm: number;
  /** True when the opening lies between two studs without cutting one. */
  fitsBetweenStuds: boolean;
  /** A pipe runs through the opening: it is rerouted before the framing, or the niche moves. */
  pipeInTheWay: boolean;
  /** The shelf's underside over the sill on a joint, mm; null without one, or in a niche of one course. */
  shelfAtMm: number | null;
}

const mod = (x: number, by: number): number => ((x % by) + by) % by;

/** The cut that is left of a tile between a joint and a side, mm; a whole tile when they fall together. */
function cutBeside(distanceMm: number, moduleMm: number, tileMm: number): number {
  const rest = mod(distanceMm, moduleMm);
  return rest < 0.5 || rest > tileMm ? tileMm : rest;
}

/** The nearest place where joint or tile stands in the niche's middle, so that both sides are cut alike; the wider cut wins. */
function evenCuts(input: NicheLayoutInput, module: number): { shiftMm: number; cutMm: number } {
  const middle = input.alongMm + input.widthMm / 2;
  const origin = input.uprightJointMm - input.jointMm / 2;
  const step = Math.floor((middle - origin) / (module / 2));
  return [step, step + 1]
    .map((k) => {
      const shiftMm = origin + (k * module) / 2 - middle;
      const left = input.alongMm + shiftMm - input.uprightJointMm;
      return { shiftMm, cutMm: cutBeside(left, module, input.tileWidthMm) };
    })
    .reduce((a, b) => (b.cutMm > a.cutMm + 0.01 ? b : a));
}

/**
 * Moves a niche to the courses of its tile: its sill and its head on joints, so that no sliver is cut there, and tells
 * what is cut at its sides and whether its opening fits between the studs.
 */
export function nicheLayout(input: NicheLayoutInput): Outcome<NicheLayout> {
  for (const key of ['tileHeightMm', 'tileWidthMm', 'heightMm', 'widthMm'] as const)
    if (!(input[key] > 0)) return refuse('niche-tile-not-positive', key);
  if (input.jointMm < 0) return refuse('joint-negative', 'jointMm');
  const course = input.tileHeightMm + input.jointMm;
  const module = input.tileWidthMm + input.jointMm;
  const sillMm = input.levelJointMm + Math.round((input.sillMm - input.levelJointMm) / course) * course;
  const courses = Math.max(1, Math.round((input.heightMm + input.jointMm) / course));
  const heightMm = input.fixedSize ? input.heightMm : courses * course - input.jointMm;
  const overHead = mod(-(sillMm + heightMm - input.levelJointMm), course);
  const headTileMm = overHead - input.jointMm < 0.5 || overHead > course - 0.5 ? null : overHead - input.jointMm;
  const [left, right] = [input.alongMm, input.alongMm + input.widthMm];
  const openingWidthMm = input.widthMm + OPENING_OVER_MM;
  const [from, to] = [left - OPENING_OVER_MM / 2, right + OPENING_OVER_MM / 2];
  const free = (middle: number, width: number): boolean =>
    middle + width / 2 <= from + 0.01 || middle - width / 2 >= to - 0.01;
  const leftTileMm = cutBeside(left - input.uprightJointMm, module, input.tileWidthMm);
  const rightTileMm = cutBeside(input.uprightJointMm - input.jointMm - right, module, input.tileWidthMm);
  const even = evenCuts(input, module);
  const inside = Math.floor((heightMm + input.jointMm) / course + 1e-9);
  const shelfCourses = Math.min(
    heightMm > inside * course ? inside : inside - 1,
    Math.max(1, Math.round((input.shelfMm ?? 0) / course)),
  );
  return done({
    sillMm,
    heightMm,
    courses,
    headTileMm,
    leftTileMm,
    rightTileMm,
    evenShiftMm: even.shiftMm,
    evenCutMm: even.cutMm,
    sliver: Math.min(leftTileMm, rightTileMm) < input.tileWidthMm / 2,
    openingWidthMm,
    openingHeightMm: heightMm + OPENING_OVER_MM,
    fitsBetweenStuds: input.studsAtMm.every((s) => free(s, input.studMm)),
    pipeInTheWay: !(input.pipesAtMm ?? []).every((p) => free(p, PIPE_MM)),
    shelfAtMm: input.shelfMm === undefined || shelfCourses < 1 ? null : shelfCourses * course - input.jointMm,
  });
}
