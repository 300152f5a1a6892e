import { z } from 'zod';
import { TraceRankInput, traceRank } from '../trace/bayes';
import { TraceNextInput, traceNext } from '../trace/nextTest';
import { TraceWetsInput, traceWets } from '../trace/traceWets';
import { WaterPathsInput, waterPaths } from '../trace/waterPaths';
import { type Calculation, calculation } from './calculation';

/** Where water comes through: which cause, which test next, what a test wets, which barriers are left. */
export const TRACE_CALCULATIONS: readonly Calculation[] = [
  calculation(
    'trace-rank',
    'How likely each cause of a leak is, by what was seen',
    'Bayes’ rule, evidence independent given the cause',
    TraceRankInput,
    z.object({ causes: z.array(z.object({ name: z.string(), probability: z.number().min(0).max(1) })) }),
    traceRank,
  ),
  calculation(
    'trace-next',
    'What each test would tell of the causes of a leak, in bits and in bits a minute',
    'expected drop of entropy: Lindley 1956; Shannon 1948',
    TraceNextInput,
    z.object({
      tests: z.array(
        z.object({ name: z.string(), informationBits: z.number().min(0), bitsPerMinute: z.number().min(0) }),
      ),
    }),
    traceNext,
  ),
  calculation(
    'trace-wets',
    'Which seams, corners and openings a test wets, and how much of each',
    'geometry of the shower; what a spray runs to: common practice, no source',
    TraceWetsInput,
    z.object({
      elements: z.array(z.object({ id: z.string(), lengthMm: z.number().min(0) })),
      totalMm: z.number().min(0),
    }),
    traceWets,
  ),
  calculation(
    'water-paths',
    'How many barriers stand between water and where it must not come, and which broken ones let it through',
    'least cuts: Ford and Fulkerson 1956; 0-1 breadth-first search',
    WaterPathsInput,
    z.object({
      barriersLeft: z.number().int().min(0).nullable(),
      cut: z.array(z.string()),
      paths: z.array(z.array(z.string())),
      more: z.boolean(),
    }),
    waterPaths,
  ),
];
