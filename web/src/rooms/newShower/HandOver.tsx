import type { ShowerState } from '@careful-seam/core/log/state';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { standingCrews } from '../../shared/standingCrews';
import { useParts } from '../../tablet/store';
import { SelectField } from '../../ui/fields';
import { Sheet } from '../../ui/Sheet';

/**
 * Gives a shower, or one stage of it, to another crew: a correction of its first entry, which keeps what it said. What was built stays with
 * who built it.
 */
export function HandOver({ showerId, state }: { showerId: string; state: ShowerState }) {
  const { t } = useTranslation();
  const { crews, person, write } = useParts('crews', 'person', 'write');
  const [open, setOpen] = useState(false);
  const created = state.created;
  const [stage, setStage] = useState('');
  const [chosen, setChosen] = useState<string | null>(null);
  if (!created || person?.role !== 'manager') return null;
  const { crewId: own, stageCrews = {} } = created.body;
  const now = stage === '' ? own : (stageCrews[stage] ?? own);
  const crewId = chosen ?? now;
  const nameOf = (id: string) => crews.find((c) => c.id === id)?.name ?? id;
  const stages = state.rules?.method.stages.filter((s) => s.checks.length > 0) ?? [];
  const keep = async () => {
    const { [stage]: _before, ...others } = stageCrews;
    // A stage that goes back to the shower's own crew is no other's any more.
    const handed = crewId === own ? others : { ...others, [stage]: crewId };
    const body = stage === '' ? { ...created.body, crewId } : { ...created.body, stageCrews: handed };
    await write(showerId, 'correction', {
      ...{ target: created.id, action: 'replace', body, reason: t('handOver.reason') },
    });
    setOpen(false);
    setChosen(null);
  };
  return (
    <>
      <button type="button" className="key" onClick={() => setOpen(true)}>
        {t('handOver.open')}
      </button>
      {open && (
        <Sheet title={t('handOver.open')} onClose={() => setOpen(false)}>
          <SelectField
            label={t('handOver.what')}
            none={t('handOver.whole')}
            options={stages.map((s) => ({
              id: s.key,
              label: stageCrews[s.key]
                ? t('handOver.stageOf', { stage: s.label, crew: nameOf(stageCrews[s.key]!) })
                : s.label,
            }))}
            value={stage}
            onChange={(e) => {
              setStage(e.target.value);
              setChosen(null);
            }}
          />
          <SelectField
            label={t('new.crew')}
            options={standingCrews(crews).map((c) => ({ id: c.id, label: c.name }))}
            value={crewId}
            onChange={(e) => setChosen(e.target.value)}
          />
          <p className="text-soft text-sm">{t(stage === '' ? 'handOver.means' : 'handOver.meansStage')}</p>
          <button type="button" className="key key-main text-lg" disabled={crewId === now} onClick={() => void keep()}>
            {t('handOver.keep')}
          </button>
        </Sheet>
      )}
    </>
  );
}
