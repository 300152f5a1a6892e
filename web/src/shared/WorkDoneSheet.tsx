import { BODIES } from '@careful-seam/core/log/bodies';
import { mayWrite } from '@careful-seam/core/log/roles';
import type { ShowerState } from '@careful-seam/core/log/state';
import { TZDate } from '@date-fns/tz';
import { zodResolver } from '@hookform/resolvers/zod';
import { lightFormat } from 'date-fns';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { useParts } from '../tablet/store';
import { TextField } from '../ui/fields';
import { Sheet } from '../ui/Sheet';
import { TimeField } from '../ui/TimeField';

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
const { who, productLine, batch } = BODIES['work-done'].shape;
/** What is typed: who it was must stand there, the rest may be left out. */
const Fields = z.object({
  who,
  productLine: productLine.unwrap().trim(),
  batch: batch.unwrap().trim(),
  ready: z.boolean(),
});
/** What is typed. */
type Fields = z.infer<typeof Fields>;

/** "Done" for a stage: who worked, when it was finished, with which product and batch; and whether it is ready for a look. */
export function WorkDoneSheet({ showerId, state, stage, onClose }: Props) {
  const { t } = useTranslation();
  const { person, writeAll, crews } = useParts('person', 'writeAll', 'crews');
  const [atMs, setAtMs] = useState<number | null>(null);
  const [late, setLate] = useState(false);
  const { timeZone, crewId: own, stageCrews } = state.created!.body;
  const crewId = stageCrews?.[stage] ?? own;
  const last = [...state.stages.values()].flatMap((s) => s.work).at(-1)?.body;
  const label = state.rules!.method.stages.find((s) => s.key === stage)!.label;
  // Who only looks at it tells what a crew did, and does not call himself.
  const asks = person !== null && mayWrite(person.role, 'look-requested');
  const { register, handleSubmit, formState } = useForm<Fields>({
    resolver: zodResolver(Fields),
    mode: 'onChange',
    defaultValues: {
      who: last?.who ?? (asks ? person?.name : crews.find((c) => c.id === crewId)?.name) ?? '',
      productLine: last?.productLine ?? '',
      batch: '',
      ready: asks,
    },
  });
  const keep = handleSubmit(async ({ ready, productLine, batch, ...told }) => {
    if (atMs !== null && atMs > Date.now()) return setLate(true);
    const body = {
      stage,
      crewId: person?.crewId ?? crewId,
      ...told,
      day: lightFormat(new TZDate(atMs ?? Date.now(), timeZone), 'yyyy-MM-dd'),
      ...(atMs === null ? {} : { doneAt: new Date(atMs).toISOString() }),
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
        <TimeField
          label={t('work.when')}
          zone={timeZone}
          atMs={atMs}
          onAt={(ms) => {
            setLate(false);
            setAtMs(ms);
          }}
        />
        {late && (
          <p role="alert" className="text-hold">
            {t('work.late')}
          </p>
        )}
        <TextField label={t('work.product')} {...register('productLine')} />
        <TextField label={t('work.batch')} {...register('batch')} />
        {asks && (
          <label className="flex min-h-12 items-center gap-3">
            <input type="checkbox" className="h-12 w-12" {...register('ready')} />
            {t('work.ready')}
          </label>
        )}
        <p className="border-cure border-l-4 pl-2 text-sm">{t('work.covers')}</p>
        {errors.who && <p className="text-hold">{t('work.needs')}</p>}
        <button type="submit" className="key key-main text-lg" disabled={formState.isSubmitting}>
          {t('work.keep', { stage: label })}
        </button>
      </form>
    </Sheet>
  );
}
