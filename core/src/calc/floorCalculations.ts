import { z } from 'zod';
import { FallSurveyInput, fallSurvey } from '../floor/fall/fallSurvey';
import {
  DrainCentreInput,
  drainCentre,
  FlangeLevelInput,
  flangeLevel,
  PipeCutInput,
  pipeCut,
} from '../floor/flangeLevel';
import { FlatnessInput, flatness } from '../floor/flatness/flatness';
import { MortarBedInput, MortarMixInput, mortarBed, mortarMix } from '../floor/mortarBed';
import { PondingInput, ponding } from '../floor/ponding/ponding';
import { TrayCutInput, trayCut } from '../floor/trayCut';
import { PlanPoint } from '../shower/geometry/point';
import { StallFitInput, StudShimsInput, stallFit, studShims } from '../walls/stallFit';
import { type Calculation, calculation, mm } from './calculation';

/** Said where the trade agrees and nobody has published it. */
const NO_SOURCE = 'common practice, no source';
/** How a check comes out. */
const verdict = z.enum(['pass', 'fail', 'undecided']);
/** A length for each side, mm. */
const bySide = z.object({ left: mm, right: mm, front: mm, back: mm });
/** A side of the floor, seen from its front. */
const side = z.enum(['left', 'right', 'front', 'back']);

/** What is worked out of a floor from its subfloor to its base. */
export const FLOOR_CALCULATIONS: readonly Calculation[] = [
  calculation(
    'flatness',
    'Worst gap under a rigid straightedge along a profile',
    '1/16 in under 24 in: common practice, no source; large tile ANSI A108.02, value from memory',
    FlatnessInput,
    z.object({ gapMm: mm, fromMm: mm, toMm: mm, verdict }),
    flatness,
  ),
  calculation(
    'fall-survey',
    'Least and greatest fall from a level survey',
    'IRC P2709.1 (1/4 to 1/2 in per ft), value from memory',
    FallSurveyInput,
    z.object({
      leastFall: mm,
      greatestFall: mm,
      at: PlanPoint,
      greatestAt: PlanPoint,
      verdict,
      probabilityBelow: z.number().nullable(),
      outOfLevelMm: mm,
    }),
    fallSurvey,
  ),
  calculation(
    'ponding',
    'Where water stands on a floor, how deep and how much',
    'Barnes, Lehman & Mulla 2014, "Priority-flood"; limit 1/16 in: common practice, no source',
    PondingInput,
    z.object({
      ponds: z.array(z.object({ deepestMm: mm, areaMm2: mm, volumeL: mm, at: PlanPoint, levelMm: mm })),
      deepestMm: mm,
      verdict: verdict.optional(),
    }),
    ponding,
  ),
  calculation(
    'mortar-bed',
    'Mean and least thickness and volume of a bed to a level edge',
    NO_SOURCE,
    MortarBedInput,
    z.object({ meanMm: mm, leastMm: mm, volumeL: mm }),
    mortarBed,
  ),
  calculation(
    'mortar-mix',
    'Dry mix, bags and water for a bed',
    NO_SOURCE,
    MortarMixInput,
    z.object({ dryKg: mm, bags: z.number().int(), lastBagShare: mm, sandL: mm, cementL: mm, waterL: mm }),
    mortarMix,
  ),
  calculation(
    'tray-cut',
    'What comes off each side of a tray so that its drain stays',
    NO_SOURCE,
    TrayCutInput,
    z.object({
      cutsMm: bySide,
      rimsMm: bySide,
      dropsMm: bySide,
      notchAgain: z.array(side),
      slivers: z.array(side),
      short: z.array(side),
      level: z.boolean(),
    }),
    trayCut,
  ),
  calculation(
    'flange-level',
    'How far a flange is out of level, and which side to raise',
    NO_SOURCE,
    FlangeLevelInput,
    z.object({ outMm: mm, tiltDeg: mm, raiseAtDeg: mm.nullable(), raiseMm: mm, verdict }),
    flangeLevel,
  ),
  calculation(
    'pipe-cut',
    'What is cut off the drain pipe so that the flange comes down to its seat, at first a little less',
    NO_SOURCE,
    PipeCutInput,
    z.object({ cutOffMm: mm, firstCutOffMm: mm }),
    pipeCut,
  ),
  calculation(
    'stall-fit',
    'Whether a pan fits its frame at every height',
    NO_SOURCE,
    StallFitInput,
    z.object({ leastGapMm: mm, mostGapMm: mm, outOfSquareMm: mm, verdict }),
    stallFit,
  ),
  calculation(
    'stud-shims',
    'Shims that bring the studs of a wall into one plane',
    NO_SOURCE,
    StudShimsInput,
    z.object({ shimsMm: z.array(mm), worstMm: mm, worstStud: z.number().int(), verdict }),
    studShims,
  ),
  calculation(
    'drain-centre',
    'Middle of the finished floor from the bare walls',
    NO_SOURCE,
    DrainCentreInput,
    z.object({ xMm: mm, yMm: mm, widthMm: mm, depthMm: mm }),
    drainCentre,
  ),
];
