import { placeOf } from '@careful-seam/core/checks/place';
import type { Deviation, Judgement } from '@careful-seam/core/log/judgement';
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
export function DeviationSheet({ showerId, state, judgements, onClose }: Asking) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const writeAll = useStore((s) => s.writeAll);
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

/** A deviation that waits: its reason, and for a manager who did not ask for it the two keys that decide. */
export function PendingDeviation({ showerId, deviation }: { showerId: string; deviation: Deviation }) {
  const { t } = useTranslation();
  const person = useStore((s) => s.person)!;
  const write = useStore((s) => s.write);
  const [reason, setReason] = useState('');
  const mayDecide = person.role === 'manager' && deviation.askedBy !== person.id;
  const decide = (accepted: boolean) =>
    void write(showerId, 'deviation-decided', { asked: deviation.id, accepted, reason: reason.trim() });
  return (
    <div className="flex flex-col gap-1.5 border-cure border-l-4 pl-2" data-testid="deviation">
      <p>
        <span className="font-semibold">{t('deviation.waits')}</span> {deviation.asked.reason}
      </p>
      {mayDecide && (
        <>
          <input
            className="field"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            aria-label={t('deviation.decisionReason')}
            placeholder={t('deviation.decisionReason')}
          />
          <div className="grid grid-cols-2 gap-1.5">
            <button type="button" className="key" disabled={reason.trim() === ''} onClick={() => decide(false)}>
              {t('deviation.refuse')}
            </button>
            <button type="button" className="key key-main" disabled={reason.trim() === ''} onClick={() => decide(true)}>
              {t('deviation.accept')}
            </button>
          </div>
        </>
      )}
    </div>
  );
}
