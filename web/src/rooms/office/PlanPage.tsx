import { Inspectors } from '@careful-seam/contract/api/office';
import { Away, NO_PLAN_SET, ShowerPlanSet } from '@careful-seam/contract/api/plan';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { useNamedShowers, useParts } from '../../tablet/store';
import { useChange, useList } from '../../tablet/useList';
import { FileKey } from '../../ui/FileKey';
import { SelectField, TextField } from '../../ui/fields';
import { Loaded, Problem } from '../../ui/Loaded';
import { problemWords } from '../../ui/words';
import { type AirFile, airOf, readAirFile } from './airFile';
import { Hours, StageHours } from './PlanHours';
import { PlanWays } from './PlanWays';
import { Days, daysOf } from './planTyped';

/** Days off of one inspector. */
function AwayDays({ person, days }: { person: { id: string; name: string }; days: readonly string[] }) {
  const { t } = useTranslation();
  const { sync } = useParts('sync');
  const { change, problem, busy } = useChange([]);
  const { register, handleSubmit, formState, reset } = useForm({
    resolver: zodResolver(z.object({ days: Days })),
    mode: 'onChange',
    defaultValues: { days: days.join(', ') },
  });
  const keep = handleSubmit(async (typed) => {
    if (!(await change(Away, 'PUT', `/api/plan/people/${person.id}`, { days: daysOf(typed.days) }))) return;
    reset(typed);
    await sync();
  });
  return (
    <form className="grid grid-cols-[1fr_auto] items-end gap-2" onSubmit={(e) => void keep(e)}>
      <TextField
        label={t('planSet.away', { name: person.name })}
        placeholder="2026-12-24"
        {...register('days')}
        problem={formState.errors.days && t('planSet.days')}
      />
      <button type="submit" className="key" disabled={busy || !formState.isDirty}>
        {t('office.keep')}
      </button>
      <Problem text={problem} />
    </form>
  );
}

/** What is typed for one shower. */
const TypedShower = z.object({
  shower: z.string().min(1),
  promisedOn: z.string(),
  stage: z.string(),
  what: z.string(),
  dueOn: z.string(),
  airC: z.string(),
  humidity: z.string(),
});

/** The air ahead out of a file: taken in, told, and let go. */
function AirFileKey({ file, onFile }: { file: AirFile | null; onFile: (file: AirFile | null) => void }) {
  const { t } = useTranslation();
  const [problem, setProblem] = useState<string | null>(null);
  const take = async (chosen: File) => {
    const read = await readAirFile(chosen, Date.now());
    setProblem(read.ok ? null : problemWords(read.problem));
    if (read.ok) onFile(read.value);
  };
  return (
    <>
      <FileKey label={t('planSet.airFile')} accept=".csv,text/csv" onFile={(chosen) => void take(chosen)} />
      <Problem text={problem} />
      {file && (
        <p className="flex items-center gap-2">
          <span className="flex-1">
            {t('planSet.airTold', { count: file.hours.length, until: momentWords(file.hours.at(-1)?.atMs ?? 0) })}
          </span>
          <button type="button" className="key" onClick={() => onFile(null)}>
            {t('planSet.airWithout')}
          </button>
        </p>
      )}
    </>
  );
}

/** Goods that a shower waits for, the day that was promised, the air that is expected. */
function ShowerSet() {
  const { t } = useTranslation();
  const { sync, plan, showers } = useParts('sync', 'plan', 'showers');
  const known = useNamedShowers();
  const { change, problem, busy } = useChange([]);
  const empty = { promisedOn: '', stage: '', what: '', dueOn: '', airC: '', humidity: '' };
  const { register, handleSubmit, watch, reset, setValue } = useForm({
    resolver: zodResolver(TypedShower),
    defaultValues: { shower: '', ...empty },
  });
  const [file, setFile] = useState<AirFile | null>(null);
  const chosen = watch('shower');
  const stages = showers.get(chosen)?.state.rules?.method.stages ?? [];
  const choose = (id: string) => {
    const set = plan.showers[id] ?? NO_PLAN_SET;
    const [goods] = set.goods;
    setFile(set.air?.hours ? { hours: set.air.hours, leftOut: 0 } : null);
    reset({
      shower: id,
      promisedOn: set.promisedOn ?? '',
      stage: goods?.stage ?? '',
      what: goods?.what ?? '',
      dueOn: goods?.dueOn ?? '',
      airC: set.air ? String(set.air.airC) : '',
      humidity: set.air ? String(Math.round(set.air.relativeHumidity * 100)) : '',
    });
  };
  const keep = handleSubmit(async (typed) => {
    const others = (plan.showers[typed.shower] ?? NO_PLAN_SET).goods.slice(1);
    const goods =
      typed.what === '' && typed.dueOn === '' ? [] : [{ stage: typed.stage, what: typed.what, dueOn: typed.dueOn }];
    const body = {
      goods: [...goods, ...others],
      promisedOn: typed.promisedOn || null,
      air: airOf(typed, file),
    };
    if (await change(ShowerPlanSet, 'PUT', `/api/plan/showers/${typed.shower}`, body)) await sync();
  });
  return (
    <form className="flex flex-col gap-2" onSubmit={(e) => void keep(e)}>
      <h2 className="font-bold text-lg">{t('planSet.shower')}</h2>
      <SelectField
        label={t('links.shower')}
        none={t('links.choose')}
        options={known.map((s) => ({ id: s.id, label: `${s.job}: ${s.name}` }))}
        {...register('shower', { onChange: (e) => choose(String(e.target.value)) })}
      />
      {chosen !== '' && (
        <>
          <TextField label={t('planSet.promisedOn')} type="date" {...register('promisedOn')} />
          <div className="grid grid-cols-3 gap-2 max-md:grid-cols-1">
            <TextField label={t('planSet.what')} {...register('what')} />
            <SelectField
              label={t('planSet.forStage')}
              none={t('planSet.noStage')}
              options={stages.map((s) => ({ id: s.key, label: s.label }))}
              {...register('stage')}
            />
            <TextField label={t('planSet.dueOn')} type="date" {...register('dueOn')} />
          </div>
          <div className="grid grid-cols-2 gap-2">
            <TextField label={t('planSet.airC')} type="number" step="0.5" {...register('airC')} />
            <TextField label={t('planSet.humidity')} type="number" min="0" max="100" {...register('humidity')} />
          </div>
          <AirFileKey file={file} onFile={setFile} />
          <p className="text-soft text-sm">{t('planSet.airWhat')}</p>
          <Problem text={problem} />
          <p className="flex gap-2">
            <button type="submit" className="key key-main" disabled={busy}>
              {t('office.keep')}
            </button>
            <button
              type="button"
              className="key"
              onClick={() => {
                setFile(null);
                for (const [key, none] of Object.entries(empty)) setValue(key as keyof typeof empty, none);
              }}
            >
              {t('planSet.clear')}
            </button>
          </p>
        </>
      )}
    </form>
  );
}

/** What the plan goes by: hours, days off, ways, goods and promises. */
export function PlanPage() {
  const { t } = useTranslation();
  const plan = useParts('plan').plan;
  const inspectors = useList(Inspectors, '/api/inspectors');
  // What somebody else set meanwhile is shown by a form that begins anew.
  const key = JSON.stringify(plan.settings);
  return (
    <div className="grid h-full grid-cols-2 gap-6 overflow-y-auto max-lg:grid-cols-1">
      <div className="flex flex-col gap-4">
        <Hours key={key} settings={plan.settings} />
        <StageHours key={`stages ${key}`} settings={plan.settings} />
      </div>
      <div className="flex flex-col gap-4">
        <ShowerSet />
        <section className="flex flex-col gap-2">
          <h2 className="font-bold text-lg">{t('planSet.awayTitle')}</h2>
          <Loaded answer={inspectors}>
            {({ inspectors: people }) =>
              people.map((p) => <AwayDays key={p.id} person={p} days={plan.away[p.id] ?? []} />)
            }
          </Loaded>
        </section>
        <PlanWays />
      </div>
    </div>
  );
}
