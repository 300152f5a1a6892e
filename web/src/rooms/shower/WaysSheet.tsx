import { builtAs } from '@careful-seam/core/checks/position';
import type { ShowerState } from '@careful-seam/core/log/state';
import { waysOf } from '@careful-seam/core/proof/shown/waysOf';
import { findDisagreement, positionEffect, standingPosition } from '@careful-seam/core/rules/positions';
import { useTranslation } from 'react-i18next';
import { useStore } from '../../tablet/store';
import { Sheet } from '../../ui/Sheet';

/** The stage whose questions are asked. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** Key of the stage that is looked at. */
  stage: string;
  /** The person may read, look and release. */
  mayInspect: boolean;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** How this shower was built where the trade disagrees: the firm's own way until another one is found. */
export function WaysSheet({ showerId, state, stage, mayInspect, onClose }: Props) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const { book } = state.rules!;
  const built = builtAs(state);
  const ways = waysOf(state).filter((way) => way.stage === stage);
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
      {ways.map((way) => {
        const question = findDisagreement(book, way.id)!;
        const own = standingPosition(book, question, built);
        return (
          <fieldset key={question.id} className="border-hair border-t pt-2">
            <legend className="font-semibold">
              {question.question} <span className="font-normal text-soft text-sm">{question.id}</span>
            </legend>
            <p className="text-soft text-sm">{question.note}</p>
            <div className="flex flex-col gap-1">
              {question.positions.map((p) => {
                const effect = positionEffect(book, question, built, p.key);
                return (
                  <button
                    type="button"
                    key={p.key}
                    className="key px-2 text-left text-sm"
                    aria-pressed={p.key === way.position}
                    disabled={!mayInspect}
                    onClick={() => say(question.id, p.key, effect)}
                  >
                    {p.key}) {p.text}
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
