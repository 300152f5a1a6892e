import type { Evidence, ShowerState } from '../log/state';
import type { PositionCheck } from '../rules/checks/position';
import { drawnVariants } from '../rules/combineMethods';
import { type BuiltAs, findDisagreement, positionEffect } from '../rules/positions';
import type { Judge } from './checkJudge';
import { type Measured, plain } from './found';
import { lastLook } from './looks';

/** How a shower is built: as it was drawn and as was said when its rules were pinned. */
export function builtAs({ rules, geometry }: Pick<ShowerState, 'rules' | 'geometry'>): BuiltAs {
  const { method, variants = [] } = rules!.pinned;
  return { method, variants: [...(geometry ? drawnVariants(geometry.model.geometry) : []), ...variants] };
}

/** Until somebody says otherwise the firm's own position is taken; one that deviates fails, and may be accepted. */
function positionFound(state: ShowerState, check: PositionCheck, looks: readonly Evidence[]): Measured {
  const { book } = state.rules!;
  const question = findDisagreement(book, check.disagreement);
  const found = lastLook(looks)?.position ?? null;
  if (!question || found === null) return plain('pass');
  const effect = positionEffect(book, question, builtAs(state), found);
  // Another position than the accepted one is another finding: each letter is a direction of its own.
  return plain(effect === 'deviation' || effect === 'defect' ? 'fail' : 'pass', { [found]: 1 });
}

/** Which of the trade's positions was found. */
export const positionJudge: Judge<PositionCheck> = {
  answeredBy: () => 'way',
  judge: ({ state, requirement, looks }) => ({ measured: positionFound(state, requirement.check, looks) }),
};
