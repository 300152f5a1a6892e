import type { StageSumKey } from '@careful-seam/core/rules/tools';
import { BASE_SUMS } from './baseSums';
import { DRAIN_SUMS } from './drainSums';
import { FRAMING_SUMS } from './framingSums';
import { MEMBRANE_SUMS } from './membraneSums';
import type { SumWork } from './stageSum';

/** All sums that are worked out on site. Which stage offers which says the rule book; one that it may name must stand here. */
export const SUMS: Readonly<Record<StageSumKey, SumWork>> = {
  ...FRAMING_SUMS,
  ...DRAIN_SUMS,
  ...BASE_SUMS,
  ...MEMBRANE_SUMS,
};
