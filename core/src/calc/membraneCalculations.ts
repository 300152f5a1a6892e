import { z } from 'zod';
import { CureAgeInput, CureTimeInput, cureAge, cureTime } from '../cure/cureAge';
import { DryingTimeInput, dryingTime } from '../cure/drying';
import { CutRollsInput, cutRolls } from '../materials/cutRolls';
import { BandPlanInput, bandPlan } from '../membrane/bandPlan';
import {
  FilmFromVolumeInput,
  FilmNeededInput,
  filmFromVolume,
  filmNeeded,
  PrimerMixInput,
  primerMix,
} from '../membrane/film/filmArithmetic';
import { FilmSpotsInput, filmSpots } from '../membrane/film/filmSpots';
import { LayerStackInput, layerStack } from '../membrane/layerStack';
import { LinerWidthInput, linerWidth } from '../membrane/linerWidth';
import { SamplingPlanInput, samplingPlan } from '../membrane/samplingPlan';
import { PlanPoint } from '../shower/geometry/point';
import { BoardCutInput, boardCut } from '../walls/boardCut';
import { type Calculation, calculation, mm } from './calculation';

/** Said where the trade agrees and nobody has published it. */
const NO_SOURCE = 'common practice, no source';
/** Why a film needs no source: it is a matter of units. */
const IDENTITY = '231 in³ in a US gallon and 1/1000 in in a mil: 1604.17 ft² · mil / gal, an identity';
/** Where the schools of counting cement come from. */
const C1074 = 'form of ASTM C1074, constants from memory; Nurse-Saul as the other school';
/** A thickness, µm. */
const um = z.number().min(-10_000_000).max(10_000_000);
/** A whole number of things. */
const count = z.number().int().min(-1_000_000).max(1_000_000);

/** What is worked out of membranes, films and their cure. */
export const MEMBRANE_CALCULATIONS: readonly Calculation[] = [
  calculation(
    'layer-stack',
    'Most layers and highest place of what is laid on a face',
    'own arithmetic',
    LayerStackInput,
    z.object({ mostLayers: count, highestUm: um, at: PlanPoint }),
    layerStack,
  ),
  calculation(
    'band-plan',
    'Legs and laps of a creased band, onto the corner piece too',
    NO_SOURCE,
    BandPlanInput,
    z.object({
      legsMm: z.tuple([mm, mm]),
      lapsMm: z.tuple([mm, mm]),
      onCornerMm: mm,
      verdict: z.enum(['pass', 'fail']),
      roomMm: mm,
      stopAtMostMm: mm,
    }),
    bandPlan,
  ),
  calculation(
    'sampling-plan',
    'Clean readings at random places that show how few can be short',
    'zero-failure binomial plan, any statistics handbook',
    SamplingPlanInput,
    z.object({ readings: count }),
    samplingPlan,
  ),
  calculation(
    'film-from-volume',
    'Mean film that a volume makes on an area',
    IDENTITY,
    FilmFromVolumeInput,
    z.object({ wetUm: um, dryUm: um }),
    filmFromVolume,
  ),
  calculation(
    'film-needed',
    'Volume for a dry film, and the wet film of each coat',
    IDENTITY,
    FilmNeededInput,
    z.object({ volumeL: z.number(), wetUmPerCoat: um }),
    filmNeeded,
  ),
  calculation(
    'film-spots',
    'Dry film by spots of three readings',
    'SSPC-PA 2, values from memory; written for gauges on metal',
    FilmSpotsInput,
    z.object({ verdict: z.enum(['pass', 'fail']), meanUm: um, lowestSpotUm: um, highestSpotUm: um }),
    filmSpots,
  ),
  calculation(
    'primer-mix',
    'Water and product of a thinned first coat',
    `4 : 1: ${NO_SOURCE}; the label comes first`,
    PrimerMixInput,
    z.object({ mixL: z.number(), productL: z.number(), waterL: z.number() }),
    primerMix,
  ),
  calculation(
    'cure-age',
    'Equivalent age of cement from a temperature log',
    C1074,
    CureAgeInput,
    z.object({ equivalentHours: z.number() }),
    cureAge,
  ),
  calculation(
    'cure-time',
    'Hours at one temperature that come to hours at the reference',
    C1074,
    CureTimeInput,
    z.object({ hours: z.number().nullable() }),
    cureTime,
  ),
  calculation(
    'drying-time',
    'Hours until a coat is dry in the air there is',
    'vapour pressure deficit by ASHRAE Fundamentals (Hyland and Wexler); the form is our own',
    DryingTimeInput,
    z.object({ hours: z.number().nullable(), deficitPa: z.number() }),
    dryingTime,
  ),
  calculation(
    'liner-width',
    'Width of liner to buy, and where a seam falls',
    NO_SOURCE,
    LinerWidthInput,
    z.object({
      acrossMm: mm,
      alongMm: mm,
      rollMm: mm,
      turnUpGivenMm: mm,
      shortMm: mm,
      seamAtMm: mm.nullable(),
      turned: z.boolean(),
    }),
    linerWidth,
  ),
  calculation(
    'board-cut',
    'Size of a wall board and place of its valve hole',
    NO_SOURCE,
    BoardCutInput,
    z.object({
      topMm: mm,
      bottomMm: mm,
      heightMm: mm,
      taper: z.boolean(),
      hole: z.object({ fromEdgeMm: mm, fromFootMm: mm }).nullable(),
    }),
    boardCut,
  ),
  calculation(
    'cut-rolls',
    'Pieces cut from rolls with few rolls',
    'best fit decreasing and a bounded search; lower bound L2 of Martello & Toth 1990',
    CutRollsInput,
    z.object({
      rolls: z.array(z.array(mm)),
      pieceOf: z.array(z.array(count)),
      wasteMm: mm,
      atLeastRolls: count,
      proved: z.boolean(),
    }),
    cutRolls,
  ),
];
