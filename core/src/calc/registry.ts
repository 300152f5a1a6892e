import { z } from 'zod';
import { fallDesign } from '../floor/fall/fallDesign';
import { lapLeg, lapVerdict } from '../membrane/laps';
import { type Outcome, refuse } from '../outcome/outcome';
import { PlanPoint } from '../shower/geometry/point';
import { ShowerGeometry } from '../shower/geometry/showerGeometry';
import { showerModel } from '../shower/geometry/showerModel';
import { howMany, lengthMm, oneOrMore, positiveMm } from '../units/bounded';
import { LENGTH_UNITS, parseLength } from '../units/length';
import { benchSpan } from '../walls/benchSpan';
import { boardLayout } from '../walls/boardLayout';
import { CURB_GAPS, curbCut } from '../walls/curbCut';
import { FastenerGridInput, fastenerGrid } from '../walls/fastenerGrid';
import { nicheLayout } from '../walls/nicheLayout';
import { type Calculation, calculation, mm } from './calculation';
import { CREW_CALCULATIONS } from './crewCalculations';
import { FLOOD_CALCULATIONS } from './floodCalculations';
import { FLOOR_CALCULATIONS } from './floorCalculations';
import { MEMBRANE_CALCULATIONS } from './membraneCalculations';
import { PLAN_CALCULATIONS } from './planCalculations';
import { TRACE_CALCULATIONS } from './traceCalculations';

/** Faces as a caller sends them; more of them is let through. */
const Faces = z.array(z.object({ id: z.string(), kind: z.string(), areaMm2: z.number() }).loose());
/** Seams as a caller sends them; more of them is let through. */
const Seams = z.array(
  z.object({ id: z.string(), kind: z.string(), lengthMm: z.number(), lowMm: z.number(), highMm: z.number() }).loose(),
);

/** The catalogue: every sum that can be asked for by its name, with its source and schemas. */
export const CALCULATIONS: readonly Calculation[] = [
  calculation(
    'length-parse',
    'Reads a length as people write it',
    '1 in = 25.4 mm exactly (international inch, 1959)',
    z.object({ text: z.string().max(200), assume: z.enum(LENGTH_UNITS).optional() }),
    z.object({ mm: z.number(), unit: z.enum(LENGTH_UNITS), shown: z.string() }),
    ({ text, assume }) => parseLength(text, assume),
  ),
  calculation(
    'shower-model',
    'Faces, seams and corners of a shower from its dimensions',
    'Euler-Poincaré formula; seam kinds: common practice, no source',
    ShowerGeometry,
    z.object({
      faces: Faces,
      seams: Seams,
      corners: z.array(z.object({ id: z.string(), kind: z.string() }).loose()),
      totals: z.object({
        seamMm: z.number(),
        seamMmByKind: z.record(z.string(), z.number()),
        cornersByKind: z.record(z.string(), z.number()),
        floorMm2: z.number(),
      }),
      euler: z.object({ v: z.number(), e: z.number(), f: z.number(), r: z.number(), g: z.number() }),
    }),
    showerModel,
  ),
  calculation(
    'fall-design',
    'Rise of a level perimeter and the steepest path it makes',
    'IRC P2709.1 (1/4 to 1/2 in per ft), value from memory',
    z.object({
      footprint: z.array(PlanPoint).min(3).max(200),
      drain: PlanPoint,
      minFall: z.number().min(0).max(1),
      maxFall: z.number().min(0).max(1),
      reserveMm: lengthMm,
    }),
    z.object({
      longestMm: mm,
      shortestMm: mm,
      riseMm: mm,
      steepestFall: mm,
      verdict: z.enum(['pass', 'fail']),
      riseWithReserveMm: mm,
      steepestFallWithReserve: mm,
      reserveThatFitsMm: mm,
    }),
    fallDesign,
  ),
  calculation(
    'lap-leg',
    'Legs of a creased band',
    'common practice, no source',
    z.object({ bandWidthMm: positiveMm, lossMm: lengthMm, offCentreMm: mm }),
    z.object({ legsMm: z.tuple([mm, mm]) }),
    lapLeg,
  ),
  calculation(
    'lap-verdict',
    'Verdict on a lap from its readings',
    'common practice, no source',
    z.object({
      lengthMm: positiveMm,
      limitMm: lengthMm,
      readings: z.array(z.object({ atMm: mm, lapMm: lengthMm })).max(2000),
      speaksForMm: positiveMm,
      readingsAtLeast: oneOrMore.optional(),
      endWithinMm: positiveMm.optional(),
      gapAtMostMm: positiveMm.optional(),
      lookOnWhole: z.boolean().optional(),
    }),
    z.object({
      verdict: z.enum(['pass', 'fail', 'undecided']),
      lowestMm: mm.nullable(),
      spokenForMm: mm,
      nextAtMm: mm.nullable(),
    }),
    lapVerdict,
  ),
  calculation(
    'fastener-grid',
    'Rows and count of fasteners on a wall',
    'common practice, no source',
    FastenerGridInput,
    z.object({ count: z.number().int(), rowsAtMm: z.array(mm) }),
    fastenerGrid,
  ),
  calculation(
    'bench-span',
    'Layers of board that a bench needs over its span',
    'common practice, no source',
    z.object({ spanMm: mm, layers: howMany }),
    z.object({ verdict: z.enum(['pass', 'fail']), layersNeeded: z.number().int().nullable() }),
    benchSpan,
  ),
  calculation(
    'board-layout',
    'Joints, pieces and sheets of boards on a wall',
    'common practice, no source',
    z.object({
      wallLengthMm: mm,
      wallHeightMm: mm,
      sheetLongMm: mm,
      sheetShortMm: mm,
      run: z.enum(['level', 'upright']),
      offsetMm: mm,
    }),
    z.object({
      joints: z.array(z.object({ run: z.enum(['level', 'upright']), atMm: mm, fromMm: mm, toMm: mm })),
      pieces: z.number().int(),
      sheets: z.number().int(),
      jointMm: mm,
      narrowestMm: mm,
    }),
    boardLayout,
  ),
  calculation(
    'curb-cut',
    'Length that a foam curb is cut to',
    'common practice, no source',
    z.object({ distancesMm: z.array(mm).max(40), gap: z.enum(CURB_GAPS) }),
    z.object({ cutMm: mm, spreadMm: mm, widestGapMm: mm }),
    curbCut,
  ),
  calculation(
    'niche-layout',
    'A niche moved to the courses of its tile, with its cuts and its opening',
    'common practice, no source',
    z.object({
      tileHeightMm: mm,
      tileWidthMm: mm,
      jointMm: mm,
      levelJointMm: mm,
      uprightJointMm: mm,
      sillMm: mm,
      heightMm: mm,
      widthMm: mm,
      alongMm: mm,
      studsAtMm: z.array(mm).max(60),
      studMm: mm,
      shelfMm: mm.optional(),
      pipesAtMm: z.array(mm).max(20).optional(),
    }),
    z.object({
      sillMm: mm,
      heightMm: mm,
      courses: z.number().int(),
      leftTileMm: mm,
      rightTileMm: mm,
      evenShiftMm: mm,
      evenCutMm: mm,
      sliver: z.boolean(),
      openingWidthMm: mm,
      openingHeightMm: mm,
      fitsBetweenStuds: z.boolean(),
      pipeInTheWay: z.boolean(),
      shelfAtMm: mm.nullable(),
    }),
    nicheLayout,
  ),
  ...FLOOR_CALCULATIONS,
  ...FLOOD_CALCULATIONS,
  ...MEMBRANE_CALCULATIONS,
  ...CREW_CALCULATIONS,
  ...PLAN_CALCULATIONS,
  ...TRACE_CALCULATIONS,
];

/** The calculation of that name, or null. */
export function findCalculation(name: string): Calculation | null {
  return CALCULATIONS.find((c) => c.name === name) ?? null;
}

/** Runs a calculation by name; an unknown name is an expected failure. */
export function runCalculation(name: string, input: unknown): Outcome<unknown> {
  const found = findCalculation(name);
  return found ? found.run(input) : refuse('calculation-unknown', 'name', { name });
}

/** Input and output as JSON Schema. */
export function calculationSchema(c: Calculation): { input: unknown; output: unknown } {
  return { input: z.toJSONSchema(c.input, { io: 'input' }), output: z.toJSONSchema(c.output) };
}
