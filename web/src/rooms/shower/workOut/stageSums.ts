import { BASE_SUMS } from './baseSums';
import { DRAIN_SUMS } from './drainSums';
import { FRAMING_SUMS } from './framingSums';
import { MEMBRANE_SUMS } from './membraneSums';
import type { StageSum } from './stageSum';

/** All sums that are worked out on site, by their stages. */
export const STAGE_SUMS: readonly StageSum[] = [...FRAMING_SUMS, ...DRAIN_SUMS, ...BASE_SUMS, ...MEMBRANE_SUMS];
