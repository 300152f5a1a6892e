import type { Requirement } from '@careful-seam/core/log/judgement';
import type { ShowerState } from '@careful-seam/core/log/state';
import { answeredWithOf } from '@careful-seam/core/rules/tools';

/** The check that a substrate's readiness answers, or null where a stage has none. */
export function readyCheck(state: ShowerState, stage: string): Requirement | null {
  return state.requirements.find((r) => r.stage.key === stage && answeredWithOf(r.check) === 'readiness') ?? null;
}
