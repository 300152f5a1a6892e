import { judge } from '@careful-seam/core/proof/judge';
import type { Judgement, ShowerState } from '@careful-seam/core/proof/state';
import { findDisagreement, positionEffect, standingPosition } from '@careful-seam/core/rules/positions';
import { useTranslation } from 'react-i18next';
import { Sheet } from '../shell/Sheet';
import { useStore } from '../state/store';

interface Props {
  showerId: string;
  state: ShowerState;
  stage: string;
  mayInspect: boolean;
  onClose: () => void;
}

/** The questions of a stage on which the trade disagrees, as they stand on this shower. */
function openQuestions(state: ShowerState, stage: string): Judgement[] {
  return state.requirements
    .filter((r) => r.stage.key === stage && r.check.kind === 'position')
    .map((r) => judge(state, r));
}

/** How this shower was built where the trade disagrees: the firm's own way until another one is found. */
export function WaysSheet({ showerId, state, stage, mayInspect, onClose }: Props) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const { book, pinned } = state.rules!;
  const say = (check: string, position: string, effect: string) =>
    void writeAll(showerId, [
      {
        kind: 'look',
        body: {
          stage,
          checks: [check],
          places: [{ element: 'shower' }],
          answer: effect === 'defect' ? 'defect' : 'ok',
          position,
        },
      },
    ]);
  return (
    <Sheet title={t('ways.title')} onClose={onClose}>
      <p className="text-soft text-sm">{t('ways.what')}</p>
      {openQuestions(state, stage).map((j) => {
        const question =
          j.requirement.check.kind === 'position' && findDisagreement(book, j.requirement.check.disagreement);
        if (!question) return null;
        const own = standingPosition(book, question, pinned.method);
        const now = j.position ?? own;
        return (
          <fieldset key={question.id} className="border-hair border-t pt-2">
            <legend className="font-semibold">{question.question}</legend>
            <p className="text-soft text-sm">{question.note}</p>
            <div className="flex flex-col gap-1">
              {question.positions.map((p) => {
                const effect = positionEffect(book, question, pinned.method, p.key);
                return (
                  <button
                    type="button"
                    key={p.key}
                    className="key px-2 text-left text-sm"
                    aria-pressed={p.key === now}
                    disabled={!mayInspect}
                    onClick={() => say(question.id, p.key, effect)}
                  >
                    {p.text}
                    {p.key === own
                      ? ` · ${t('ways.own')}`
                      : effect === 'accept'
                        ? ''
                        : ` · ${t(`ways.effect.${effect}`)}`}
                  </button>
                );
              })}
            </div>
          </fieldset>
        );
      })}
    </Sheet>
  );
}
