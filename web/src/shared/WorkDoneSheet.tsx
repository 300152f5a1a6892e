import { BODIES } from '@careful-seam/core/log/bodies';
import type { ShowerState } from '@careful-seam/core/log/state';
import { zodResolver } from '@hookform/resolvers/zod';
import { DateTime } from 'luxon';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { useParts } from '../tablet/store';
import { TextField } from '../ui/fields';
import { Sheet } from '../ui/Sheet';

/** The stage that is told as done. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** Key of the stage that is looked at. */
  stage: string;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** What an entry of this kind may say. */
const { who, day, productLine, batch } = BODIES['work-done'].shape;
/** What is typed: who it was and when must stand there, the rest may be left out. */
const Fields = z.object({
  who,
  day,
  productLine: productLine.unwrap().trim(),
  batch: batch.unwrap().trim(),
  ready: z.boolean(),
});
/** What is typed. */
type Fields = z.infer<typeof Fields>;

/** "Done" for a stage: who worked, on which day, with which product and batch; and whether it is ready for a look. */
export function WorkDoneSheet({ showerId, state, stage, onClose }: Props) {
  const { t } = useTranslation();
  const { person, writeAll } = useParts('person', 'writeAll');
  const { timeZone, crewId: own, stageCrews } = state.created!.body;
  const crewId = stageCrews?.[stage] ?? own;
  const last = [...state.stages.values()].flatMap((s) => s.work).at(-1)?.body;
  const label = state.rules!.method.stages.find((s) => s.key === stage)!.label;
  const { register, handleSubmit, formState } = useForm<Fields>({
    resolver: zodResolver(Fields),
    mode: 'onChange',
    defaultValues: {
      who: last?.who ?? person?.name ?? '',
      day: DateTime.now().setZone(timeZone).toISODate()!,
      productLine: last?.productLine ?? '',
      batch: '',
      ready: true,
    },
  });
  const keep = handleSubmit(async ({ ready, productLine, batch, ...told }) => {
    const body = {
      stage,
      crewId: person?.crewId ?? crewId,
      ...told,
      ...(productLine ? { productLine } : {}),
      ...(batch ? { batch } : {}),
    };
    await writeAll(showerId, [
      { kind: 'work-done', body },
      ...(ready ? [{ kind: 'look-requested' as const, body: { stage } }] : []),
    ]);
    onClose();
  });
  const { errors } = formState;
  return (
    <Sheet title={t('work.title', { stage: label })} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(e) => void keep(e)}>
        <TextField label={t('work.who')} {...register('who')} />
        <TextField label={t('work.day')} type="date" {...register('day')} />
        <TextField label={t('work.product')} {...register('productLine')} />
        <TextField label={t('work.batch')} {...register('batch')} />
        <label className="flex min-h-12 items-center gap-3">
          <input type="checkbox" className="h-12 w-12" {...register('ready')} />
          {t('work.ready')}
        </label>
        <p className="border-cure border-l-4 pl-2 text-sm">{t('work.covers')}</p>
        {(errors.who || errors.day) && <p className="text-hold">{t('work.needs')}</p>}
        <button type="submit" className="key key-main text-lg" disabled={formState.isSubmitting}>
          {t('work.keep', { stage: label })}
        </button>
      </form>
    </Sheet>
  );
}
