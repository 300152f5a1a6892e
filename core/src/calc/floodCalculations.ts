import { z } from 'zod';
import { air } from '../cure/air';
import { done } from '../outcome/outcome';
import { areaM2, degreesC, positiveMm, volumeL } from '../units/bounded';
import { evaporationMmPerHour } from '../water/evaporation';
import { fillTime } from '../water/fillTime';
import { FloodPlanInput, floodPlan } from '../water/floodPlan';
import { FLOOD_REASONS, floodVerdict } from '../water/floodVerdict';
import { Climate, FloodVerdictInput } from '../water/floodVerdictInput';
import { FloodVolumeInput, floodVolume } from '../water/floodVolume';
import { floorLoad } from '../water/floorLoad';
import { LeakHeightInput, leakHeight } from '../water/leakHeight';
import { leakSize } from '../water/leakSize';
import { type Calculation, calculation, mm } from './calculation';

/** How a check comes out. */
const verdict = z.enum(['pass', 'fail', 'undecided']);
/** Where the evaporation of still water comes from. */
const ASHRAE = 'ASHRAE Applications (natatoriums), value from memory';

/** The sums of the flood and of the air. */
export const FLOOD_CALCULATIONS: readonly Calculation[] = [
  calculation(
    'air',
    'Saturation pressure, vapour pressure deficit and dew point of air',
    'ASHRAE Fundamentals (Hyland and Wexler)',
    z.object({ temperatureC: degreesC, relativeHumidity: z.number().min(0).max(1) }),
    z.object({ saturationPa: z.number(), deficitPa: z.number(), dewPointC: z.number() }),
    air,
  ),
  calculation(
    'evaporation',
    'Fall of an open water surface by evaporation',
    ASHRAE,
    Climate.extend({ activity: z.number().positive().max(5).default(1) }),
    z.object({ mmPerHour: z.number() }),
    ({ activity, ...climate }) => done({ mmPerHour: evaporationMmPerHour(climate, activity) }),
  ),
  calculation(
    'flood-volume',
    'Water in a flooded shower: volume, mass, wetted floor, both depths',
    'Integral of the depth over the floor',
    FloodVolumeInput,
    z.object({
      volumeL: mm,
      massKg: mm,
      wettedM2: mm,
      depthAtThresholdMm: mm,
      lbPerFt2: mm,
      shareOfLiveLoad: mm,
    }),
    (input) => {
      const volume = floodVolume(input);
      return volume.ok ? done({ ...volume.value, ...floorLoad(volume.value) }) : volume;
    },
  ),
  calculation(
    'flood-verdict',
    'Verdict on a flood test from its readings, evaporation taken off',
    `Marks as intervals; logger by restricted likelihood with correlated errors; ${ASHRAE}; pan ratio 1 ± 0.15: common practice, no source`,
    FloodVerdictInput,
    z.object({
      verdict,
      netLossMmPerDay: z.number().nullable(),
      lowMmPerDay: z.number().nullable(),
      highMmPerDay: z.number().nullable(),
      failBoundMmPerDay: z.number().nullable(),
      hoursStillNeeded: z.number().nullable(),
      reasons: z.array(z.enum(FLOOD_REASONS)),
      questions: z.array(z.object({ kind: z.string(), atHours: z.number(), byMm: z.number() })),
      hoursRun: z.number(),
      lossMmPerDay: z.number().nullable(),
      evaporation: z.object({
        from: z.enum(['pan', 'climate', 'nothing']),
        mmPerDay: z.number().nullable(),
        lowMmPerDay: z.number(),
        highMmPerDay: z.number().nullable(),
      }),
      leakHeight: z.object({ heightMm: mm, lowMm: mm, highMm: mm }).nullable(),
      stepMm: mm,
      formula: z.string(),
    }),
    floodVerdict,
  ),
  calculation(
    'flood-plan',
    'What a planned flood test can exclude before it starts',
    'flood-verdict itself over simulated tight showers; scatter of a logger, error of an eye: common practice, no source',
    FloodPlanInput,
    z.object({
      halfWidthMmPerDay: z.number().nullable(),
      excludesMmPerDay: z.number().nullable(),
      verdict: z.enum(['can-pass', 'may-pass', 'can-not-pass']),
      hoursNeeded: z.number().nullable(),
    }),
    floodPlan,
  ),
  calculation(
    'fill-time',
    'Minutes to fill a volume',
    'Volume over flow',
    z.object({ volumeL: z.number().min(0).max(1_000_000), litresPerMinute: volumeL }),
    z.object({ minutes: z.number() }),
    fillTime,
  ),
  calculation(
    'leak-size',
    'A net loss of level in litres, cups and as one round hole',
    'Torricelli with a discharge coefficient of 0.6',
    z.object({ lossMmPerHour: z.number().min(0).max(10_000), wettedM2: areaM2, headMm: positiveMm }),
    z.object({ litresPerHour: z.number(), cupsPerDay: z.number(), holeMm: z.number() }),
    leakSize,
  ),
  calculation(
    'leak-height',
    'Height of a leak from a loss of level that slows',
    'Torricelli with evaporation, fitted; 95 % interval of the likelihood',
    LeakHeightInput,
    z.object({ heightMm: mm, lowMm: mm, highMm: mm }),
    leakHeight,
  ),
];
