import type { Blocker } from '@careful-seam/core/log/judgement';
import type { ShowerState } from '@careful-seam/core/log/state';
import { blockerSentence } from '@careful-seam/words/sentences/sentences';
import { elementName } from '@careful-seam/words/texts/names';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';

/** The element that a blocker lies on; null for one of the whole stage. */
const elementOf = (b: Blocker): string | null => {
  if (b.kind === 'check') return b.element;
  if (b.kind === 'defect') return b.defect.places[0]?.element ?? null;
  return b.kind === 'deviation-pending' ? b.deviation.asked.place.element : null;
};

/** What speaks against a release. */
interface Props {
  /** The shower as it stands now. */
  state: ShowerState;
  /** What speaks against a release. */
  blockers: readonly Blocker[];
  /** It is released already: what is missing came later. */
  released: boolean;
  /** Goes to an element. */
  onChoose: (element: string) => void;
}

/** Exactly what is missing before a stage may be released, place by place; a place opens with a tap. */
export function WhatIsMissing({ state, blockers, released, onChoose }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const model = state.geometry!.model;
  const groups = new Map<string, Blocker[]>();
  for (const b of blockers) {
    const key = elementOf(b) ?? '';
    groups.set(key, [...(groups.get(key) ?? []), b]);
  }
  return (
    <div className="min-h-0 flex-1 overflow-y-auto">
      {blockers.length === 0 && !released && <p className="font-semibold">{t('stage.nothingMissing')}</p>}
      {blockers.length > 0 && !released && (
        <p className="font-semibold">{t('stage.missing', { count: blockers.length })}</p>
      )}
      {released && <p>{t('stage.released')}</p>}
      <ul>
        {!released &&
          [...groups].map(([element, list]) => {
            const lines = [...new Set(list.map((b) => blockerSentence(t, model, state.rules!.book, b, unit)))];
            const hold = list.some((b) => b.kind === 'defect' || (b.kind === 'check' && b.verdict === 'fail'));
            return (
              <li key={element} className="border-hair border-b">
                {element === '' ? (
                  <p className="py-2 text-sm">{lines.join(' ')}</p>
                ) : (
                  <button
                    type="button"
                    className="min-h-12 w-full cursor-pointer py-1 text-left"
                    onClick={() => onChoose(element)}
                  >
                    <span className={`font-semibold ${hold ? 'text-hold' : ''}`}>{elementName(t, model, element)}</span>
                    <span className="block text-sm text-soft">{lines.join(' ')}</span>
                  </button>
                )}
              </li>
            );
          })}
      </ul>
    </div>
  );
}
