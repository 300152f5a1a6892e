import type { Defect } from '@careful-seam/core/log/defect';
import type { ShowerState } from '@careful-seam/core/log/state';
import { DateTime } from 'luxon';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParts } from '../../tablet/store';
import { Choice } from '../../ui/Choice';

interface Props {
  showerId: string;
  state: ShowerState;
  defect: Defect;
  /** It was answered or built again and is not right yet. */
  again: boolean;
  onDone: () => void;
}

const DAYS = [0, 1, 2, 7] as const;

/** Gives a defect to a crew, with the day by which it must be put right; past it, the next layer waits. */
export function AssignForm({ showerId, state, defect, again, onDone }: Props) {
  const { t } = useTranslation();
  const { crews, write } = useParts('crews', 'write');
  const { crewId: usual, timeZone: zone } = state.created!.body;
  const [crewId, setCrew] = useState(defect.assignments.at(-1)?.crewId ?? usual);
  const [due, setDue] = useState(DateTime.now().setZone(zone).plus({ days: 1 }).toISODate()!);
  const [words, setWords] = useState('');
  const dayAfter = (days: number) => DateTime.now().setZone(zone).plus({ days }).toISODate()!;
  const give = async () => {
    const end = due ? DateTime.fromISO(due, { zone }).endOf('day').toUTC().toISO() : null;
    await write(showerId, 'defect-assigned', {
      defect: defect.id,
      crewId,
      words: words.trim(),
      again,
      ...(due && end ? { due, dueAt: end } : {}),
    });
    onDone();
  };
  return (
    <section className="flex flex-col gap-2 border-edge border-t pt-2">
      <h3 className="font-bold">{t(again ? 'life.sendBackTitle' : 'life.assignTitle')}</h3>
      <label className="flex flex-col gap-1">
        <span className="text-soft text-sm">{t('life.crew')}</span>
        <select className="field" value={crewId} onChange={(e) => setCrew(e.target.value)}>
          {crews.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </select>
      </label>
      <Choice
        label={t('life.dueBy')}
        value={due}
        onChoose={setDue}
        options={[
          ...DAYS.map((days) => ({ key: dayAfter(days), label: t(`life.inDays.${days}`) })),
          { key: '', label: t('life.noDay') },
        ]}
      />
      <label className="flex flex-col gap-1">
        <span className="text-soft text-sm">{t(again ? 'life.whatIsWrongStill' : 'life.whatToDo')}</span>
        <textarea className="field py-2" rows={2} value={words} onChange={(e) => setWords(e.target.value)} />
      </label>
      <button
        type="button"
        className="key key-main text-lg"
        disabled={again && words.trim() === ''}
        onClick={() => void give()}
      >
        {t(again ? 'life.sendBack' : 'life.assign')}
      </button>
    </section>
  );
}
