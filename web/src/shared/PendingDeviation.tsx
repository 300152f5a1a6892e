import type { Deviation } from '@careful-seam/core/log/judgement';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from '../tablet/store';

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
