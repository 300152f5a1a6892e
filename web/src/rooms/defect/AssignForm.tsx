import { stageMadeOf } from '@careful-seam/core/crews/maker';
import { BODIES } from '@careful-seam/core/log/bodies';
import type { Defect } from '@careful-seam/core/log/defect';
import type { ShowerState } from '@careful-seam/core/log/state';
import { TZDate, tz } from '@date-fns/tz';
import { zodResolver } from '@hookform/resolvers/zod';
import { addDays, endOfDay, lightFormat, parseISO } from 'date-fns';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { standingCrews } from '../../shared/standingCrews';
import { useParts } from '../../tablet/store';
import { Choice } from '../../ui/Choice';
import { SelectField, TextArea } from '../../ui/fields';

/** The defect that is given to a crew. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** The defect, with all that was said of it so far. */
  defect: Defect;
  /** It was answered or built again and is not right yet. */
  again: boolean;
  /** Told when it is written. */
  onDone: () => void;
}

/** Days from now that are offered. */
const DAYS = [0, 1, 2, 7] as const;

/** What an entry of this kind may say. */
const { crewId, due, words } = BODIES['defect-assigned'].shape;
/** What is typed; a defect may be given without a day. */
const Fields = z.object({ crewId, due: due.unwrap().or(z.literal('')), words: words.unwrap().trim() });
/** How a day is written. */
const DAY = 'yyyy-MM-dd';

/** What is typed. */
type Fields = z.infer<typeof Fields>;

/** Gives a defect to a crew, with the day by which it must be put right; past it, the next layer waits. */
export function AssignForm({ showerId, state, defect, again, onDone }: Props) {
  const { t } = useTranslation();
  const { crews, write } = useParts('crews', 'write');
  const { crewId: own, stageCrews, timeZone: zone } = state.created!.body;
  const usual = stageCrews?.[stageMadeOf(state, defect)] ?? own;
  const dayAfter = (days: number) => lightFormat(addDays(new TZDate(Date.now(), zone), days), DAY);
  const { register, handleSubmit, watch, setValue, formState } = useForm<Fields>({
    // What is not right yet must be said, or the crew can only guess.
    resolver: zodResolver(again ? Fields.extend({ words: Fields.shape.words.min(1) }) : Fields),
    mode: 'onChange',
    defaultValues: { crewId: defect.assignments.at(-1)?.crewId ?? usual, due: dayAfter(1), words: '' },
  });
  const give = handleSubmit(async ({ crewId, due, words }) => {
    const end = due ? new Date(endOfDay(parseISO(due, { in: tz(zone) })).getTime()).toISOString() : null;
    await write(showerId, 'defect-assigned', {
      defect: defect.id,
      crewId,
      words,
      again,
      ...(due && end ? { due, dueAt: end } : {}),
    });
    onDone();
  });
  return (
    <form className="flex flex-col gap-2 border-edge border-t pt-2" onSubmit={(e) => void give(e)}>
      <h3 className="font-bold">{t(again ? 'life.sendBackTitle' : 'life.assignTitle')}</h3>
      <SelectField
        label={t('life.crew')}
        options={standingCrews(crews).map((c) => ({ id: c.id, label: c.name }))}
        {...register('crewId')}
      />
      <Choice
        label={t('life.dueBy')}
        value={watch('due')}
        onChoose={(due) => setValue('due', due)}
        options={[
          ...DAYS.map((days) => ({ key: dayAfter(days), label: t(`life.inDays.${days}`) })),
          { key: '', label: t('life.noDay') },
        ]}
      />
      <TextArea label={t(again ? 'life.whatIsWrongStill' : 'life.whatToDo')} {...register('words')} />
      <button type="submit" className="key key-main text-lg" disabled={!formState.isValid || formState.isSubmitting}>
        {t(again ? 'life.sendBack' : 'life.assign')}
      </button>
    </form>
  );
}
