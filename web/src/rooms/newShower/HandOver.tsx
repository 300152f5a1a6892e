import type { ShowerState } from '@careful-seam/core/log/state';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { standingCrews } from '../../shared/standingCrews';
import { useParts } from '../../tablet/store';
import { SelectField } from '../../ui/fields';
import { Sheet } from '../../ui/Sheet';

/** Gives a shower to another crew: a correction of its first entry, which keeps what it said. What was built stays with who built it. */
export function HandOver({ showerId, state }: { showerId: string; state: ShowerState }) {
  const { t } = useTranslation();
  const { crews, person, write } = useParts('crews', 'person', 'write');
  const [open, setOpen] = useState(false);
  const created = state.created;
  const [crewId, setCrewId] = useState(created?.body.crewId ?? '');
  if (!created || person?.role !== 'manager') return null;
  const keep = async () => {
    await write(showerId, 'correction', {
      target: created.id,
      action: 'replace',
      body: { ...created.body, crewId },
      reason: t('handOver.reason'),
    });
    setOpen(false);
  };
  return (
    <>
      <button type="button" className="key" onClick={() => setOpen(true)}>
        {t('handOver.open')}
      </button>
      {open && (
        <Sheet title={t('handOver.open')} onClose={() => setOpen(false)}>
          <SelectField
            label={t('new.crew')}
            options={standingCrews(crews).map((c) => ({ id: c.id, label: c.name }))}
            value={crewId}
            onChange={(e) => setCrewId(e.target.value)}
          />
          <p className="text-soft text-sm">{t('handOver.means')}</p>
          <button
            type="button"
            className="key key-main text-lg"
            disabled={crewId === created.body.crewId}
            onClick={() => void keep()}
          >
            {t('handOver.keep')}
          </button>
        </Sheet>
      )}
    </>
  );
}
