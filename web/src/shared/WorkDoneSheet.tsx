import type { ShowerState } from '@careful-seam/core/log/state';
import { DateTime } from 'luxon';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParts } from '../tablet/store';
import { Sheet } from '../ui/Sheet';

interface Props {
  showerId: string;
  state: ShowerState;
  stage: string;
  onClose: () => void;
}

/** "Done" for a stage: who worked, on which day, with which product and batch; and whether it is ready for a look. */
export function WorkDoneSheet({ showerId, state, stage, onClose }: Props) {
  const { t } = useTranslation();
  const { person, writeAll } = useParts('person', 'writeAll');
  const { timeZone, crewId } = state.created!.body;
  const last = [...state.stages.values()].flatMap((s) => s.work).at(-1)?.body;
  const label = state.rules!.method.stages.find((s) => s.key === stage)!.label;
  const [who, setWho] = useState(last?.who ?? person?.name ?? '');
  const [day, setDay] = useState(DateTime.now().setZone(timeZone).toISODate()!);
  const [productLine, setProduct] = useState(last?.productLine ?? '');
  const [batch, setBatch] = useState('');
  const [ready, setReady] = useState(true);
  const keep = async () => {
    const trimmed = { productLine: productLine.trim(), batch: batch.trim() };
    const body = {
      stage,
      crewId: person?.crewId ?? crewId,
      who: who.trim(),
      day,
      ...(trimmed.productLine ? { productLine: trimmed.productLine } : {}),
      ...(trimmed.batch ? { batch: trimmed.batch } : {}),
    };
    await writeAll(showerId, [
      { kind: 'work-done', body },
      ...(ready ? [{ kind: 'look-requested' as const, body: { stage } }] : []),
    ]);
    onClose();
  };
  const field = (text: string, value: string, onChange: (typed: string) => void, type = 'text') => (
    <label className="flex flex-col gap-1">
      <span className="text-soft text-sm">{text}</span>
      <input className="field" type={type} value={value} onChange={(e) => onChange(e.target.value)} />
    </label>
  );
  return (
    <Sheet title={t('work.title', { stage: label })} onClose={onClose}>
      {field(t('work.who'), who, setWho)}
      {field(t('work.day'), day, setDay, 'date')}
      {field(t('work.product'), productLine, setProduct)}
      {field(t('work.batch'), batch, setBatch)}
      <label className="flex min-h-12 items-center gap-3">
        <input type="checkbox" className="h-12 w-12" checked={ready} onChange={(e) => setReady(e.target.checked)} />
        {t('work.ready')}
      </label>
      <p className="border-cure border-l-4 pl-2 text-sm">{t('work.covers')}</p>
      {(who.trim() === '' || !day) && <p className="text-hold">{t('work.needs')}</p>}
      <button
        type="button"
        className="key key-main text-lg"
        disabled={who.trim() === '' || !day}
        onClick={() => void keep()}
      >
        {t('work.keep', { stage: label })}
      </button>
    </Sheet>
  );
}
