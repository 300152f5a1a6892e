import { placeOf } from '@careful-seam/core/checks/place';
import type { Judgement } from '@careful-seam/core/log/judgement';
import type { ShowerState } from '@careful-seam/core/log/state';
import { verdictSentence } from '@careful-seam/words/sentences/sentences';
import { elementName } from '@careful-seam/words/texts/names';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from '../tablet/store';
import { Choice } from '../ui/Choice';
import { usePreferences } from '../ui/preferences';
import { Sheet } from '../ui/Sheet';

/** What a manager is asked to accept. */
interface Asking {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** What is not satisfied on one element. */
  judgements: readonly Judgement[];
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** Asks a manager to accept what can't be shown, with a reason. It keeps the hold until it is decided. */
export function DeviationSheet({ showerId, state, judgements: asked, onClose }: Asking) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const writeAll = useStore((s) => s.writeAll);
  // As they were when it was opened: what is asked of a manager waits from then on, and is asked no more.
  const [judgements] = useState(asked);
  const [chosen, setChosen] = useState(0);
  const [reason, setReason] = useState('');
  const model = state.geometry!.model;
  const j = judgements[chosen]!;
  const { requirement } = j;
  const ask = async () => {
    const body = {
      stage: requirement.stage.key,
      check: requirement.check.id,
      place: placeOf(state, requirement.element, requirement.side ? { side: requirement.side } : {}),
      geometryVersion: state.geometry!.version,
      ruleVersion: state.rules!.book.version,
      verdict: j.verdict,
      reason: reason.trim(),
    };
    await writeAll(showerId, [{ kind: 'deviation-asked', body }]);
    onClose();
  };
  return (
    <Sheet title={t('deviation.title', { where: elementName(t, model, requirement.element) })} onClose={onClose}>
      <Choice
        label={t('deviation.what')}
        value={chosen}
        options={judgements.map((x, key) => ({ key, label: verdictSentence(t, model, x, unit) }))}
        onChoose={setChosen}
        isList
      />
      <label>
        <span className="text-soft text-sm">{t('deviation.reason')}</span>
        <textarea className="field min-h-24 py-2" value={reason} onChange={(e) => setReason(e.target.value)} />
      </label>
      <p className="border-cure border-l-4 pl-2">{t('deviation.means')}</p>
      <button type="button" className="key key-main text-lg" disabled={reason.trim() === ''} onClick={() => void ask()}>
        {t('deviation.ask')}
      </button>
    </Sheet>
  );
}
