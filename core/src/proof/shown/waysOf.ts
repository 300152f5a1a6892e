import { judge } from '../../checks/judge';
import { builtAs } from '../../checks/position';
import type { ShowerState } from '../../log/state';
import { questionOf } from '../../rules/checks/check';
import { findDisagreement, positionEffect, standingPosition } from '../../rules/positions';
import type { Effect } from '../../rules/ruleBook';

/** How one question that the trade disagrees on stands on a shower. */
export interface Way {
  id: string;
  /** Key of the stage. */
  stage: string;
  question: string;
  position: string;
  text: string;
  /** Somebody said that it was found so; else it is the firm's own way, taken until then. */
  found: boolean;
  effect: Effect;
}

/** Every question that concerns a shower, in the order of its stages. */
export function waysOf(state: ShowerState): Way[] {
  const { rules } = state;
  if (!rules) return [];
  const built = builtAs(state);
  return state.requirements.flatMap((r) => {
    const asked = questionOf(r.check);
    const question = asked === null ? null : findDisagreement(rules.book, asked);
    if (!question) return [];
    const said = judge(state, r).position;
    const position = said ?? standingPosition(rules.book, question, built);
    const text = question.positions.find((p) => p.key === position)?.text ?? position;
    const effect = positionEffect(rules.book, question, built, position);
    return [
      {
        id: question.id,
        stage: r.stage.key,
        question: question.question,
        position,
        text,
        found: said !== null,
        effect,
      },
    ];
  });
}

/** Labels of the stages that were built before the inspection began, lowest first. */
export function notInspected(state: ShowerState): string[] {
  const stages = (state.rules?.method.stages ?? []).filter((s) => s.notInspected);
  return stages.sort((a, b) => a.order - b.order).map((s) => s.label);
}
