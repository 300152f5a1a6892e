import { z } from 'zod';
import { BEFORE_AFTER_WARNINGS, FunnelGroup, SIGNALS } from '../crews/codes';
import { EscapeMatrixInput, escapeMatrix } from '../crews/escapeMatrix';
import { FalseDiscoveryInput, falseDiscovery } from '../crews/falseDiscovery';
import { FunnelInput, funnel } from '../crews/funnel';
import { KappaInput, kappa } from '../crews/kappa';
import { ParetoInput, pareto } from '../crews/pareto';
import { RateIntervalInput, rateInterval, ShareIntervalInput, shareInterval } from '../crews/rateInterval';
import { TimeToFixInput, timeToFix } from '../crews/timeToFix';
import { BeforeAfterInput, beforeAfter, TwoRatesInput, twoRates } from '../crews/twoRates';
import { UChartInput, uChart } from '../crews/uChart';
import { WhereToLookInput, whereToLook } from '../crews/whereToLook';
import { howMany } from '../units/bounded';
import { type Calculation, calculation } from './calculation';

/** A rate, a ratio or a bound of one: never below zero. */
const rate = z.number().min(0);
/** A share or a chance. */
const share = z.number().min(0).max(1);
/** What two rates come to. */
const compared = { ratio: rate.nullable(), low: rate, high: rate.nullable(), p: share };

/** What is worked out across crews: whether a difference is one, where things slip through, how long they stand. */
export const CREW_CALCULATIONS: readonly Calculation[] = [
  calculation(
    'rate-interval',
    'A rate with its exact interval',
    'Garwood 1936, exact Poisson interval',
    RateIntervalInput,
    z.object({ rate, low: rate, high: rate }),
    rateInterval,
  ),
  calculation(
    'share-interval',
    'A share with its exact interval',
    'Clopper and Pearson 1934',
    ShareIntervalInput,
    z.object({ share, low: share, high: share }),
    shareInterval,
  ),
  calculation(
    'two-rates',
    'Two rates compared, given how many there are in all',
    'conditional exact test, Przyborowski and Wilenski 1940; interval by Clopper and Pearson',
    TwoRatesInput,
    z.object(compared),
    twoRates,
  ),
  calculation(
    'before-after',
    'A rate after a change against the rate before it, with what that can not tell',
    'as two-rates; regression to the mean: any handbook of statistics',
    BeforeAfterInput,
    z.object({ ...compared, warning: z.enum(BEFORE_AFTER_WARNINGS).nullable() }),
    beforeAfter,
  ),
  calculation(
    'false-discovery',
    'Which of many comparisons may be named',
    'Benjamini and Hochberg 1995',
    FalseDiscoveryInput,
    z.object({ found: z.array(z.boolean()), adjusted: z.array(share) }),
    falseDiscovery,
  ),
  calculation(
    'funnel',
    'Whether a group is really different, or whether it is chance',
    'funnel plot with overdispersion, Spiegelhalter 2005; gamma-Poisson shrinkage by moments',
    FunnelInput,
    z.object({
      overall: rate,
      overdispersion: z.number().min(1),
      groups: z.array(FunnelGroup),
    }),
    funnel,
  ),
  calculation(
    'u-chart',
    'Rates by month against their own level',
    'NIST/SEMATECH e-Handbook 6.3.3.1 and the Western Electric rule of eight, values from memory',
    UChartInput,
    z.object({
      centre: rate,
      points: z.array(
        z.object({
          rate: rate.nullable(),
          low: rate.nullable(),
          high: rate.nullable(),
          signal: z.enum(SIGNALS).nullable(),
        }),
      ),
    }),
    uChart,
  ),
  calculation(
    'pareto',
    'The few kinds that make the most, by count or by cost',
    'own arithmetic',
    ParetoInput,
    z.object({
      items: z.array(z.object({ name: z.string(), value: rate, share, cumulative: z.number().min(0).max(1.000001) })),
    }),
    pareto,
  ),
  calculation(
    'escape-matrix',
    'Stage made against stage found: what slips past the checks of its own stage',
    'own arithmetic',
    EscapeMatrixInput,
    z.object({
      rows: z.array(
        z.object({
          made: z.string(),
          found: z.array(z.number().int().min(0)),
          total: z.number().int().min(0),
          caught: z.number().int().min(0),
          escaped: share.nullable(),
          stagesLate: rate.nullable(),
        }),
      ),
      total: z.number().int().min(0),
      escaped: share.nullable(),
    }),
    escapeMatrix,
  ),
  calculation(
    'time-to-fix',
    'How long holds stand, the open ones counted',
    'Kaplan and Meier 1958; Greenwood’s variance on the log-log scale',
    TimeToFixInput,
    z.object({
      medianDays: rate.nullable(),
      steps: z.array(z.object({ days: rate, open: share, low: share, high: share })),
    }),
    timeToFix,
  ),
  calculation(
    'kappa',
    'How far two inspectors agree beyond chance',
    'Cohen 1960; variance by Fleiss, Cohen and Everitt 1969',
    KappaInput,
    z.object({
      kappa: z.number().min(-1).max(1).nullable(),
      low: z.number().min(-1).max(1).nullable(),
      high: z.number().min(-1).max(1).nullable(),
    }),
    kappa,
  ),
  calculation(
    'where-to-look',
    'Where a number of readings finds the most',
    'gamma-Poisson rates and an exponential detection function, own derivation',
    WhereToLookInput,
    z.object({
      cells: z.array(z.object({ crew: z.string(), kind: z.string(), rate, share, readings: howMany.max(10_000_000) })),
      riskLeft: share,
    }),
    whereToLook,
  ),
];
