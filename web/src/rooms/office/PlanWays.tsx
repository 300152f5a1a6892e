import { JobWays } from '@careful-seam/contract/api/plan';
import { NEXT_DOOR_MINUTES, UNKNOWN_MINUTES } from '@careful-seam/core/plan/travel';
import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { useNamedShowers, useParts } from '../../tablet/store';
import { useChange } from '../../tablet/useList';
import { SelectField, TextField } from '../../ui/fields';
import { Problem } from '../../ui/Loaded';
import { numeric, Place, placeOf, shownPlace } from './planTyped';

/** Where one job lies. */
function JobPlace({ job, ways }: { job: string; ways: z.infer<typeof JobWays> }) {
  const { t } = useTranslation();
  const { sync } = useParts('sync');
  const { change, problem, busy } = useChange([]);
  const { register, handleSubmit, formState, reset } = useForm({
    resolver: zodResolver(z.object({ place: Place })),
    mode: 'onChange',
    defaultValues: { place: shownPlace(ways.place) },
  });
  const keep = handleSubmit(async ({ place }) => {
    const body = { ...ways, place: placeOf(place) };
    if (!(await change(JobWays, 'PUT', `/api/plan/jobs/${encodeURIComponent(job)}`, body))) return;
    reset({ place });
    await sync();
  });
  return (
    <form className="grid grid-cols-[1fr_auto] items-end gap-2" onSubmit={(e) => void keep(e)}>
      <TextField
        label={job}
        placeholder="40.118, -88.243"
        {...register('place')}
        problem={formState.errors.place && t('planSet.place')}
      />
      <button type="submit" className="key" disabled={busy || !formState.isDirty}>
        {t('office.keep')}
      </button>
      <Problem text={problem} />
    </form>
  );
}

/** What is typed of the way between two jobs. */
const TypedWay = z
  .object({ from: z.string().min(1), to: z.string().min(1), minutes: z.number().min(0).max(1440) })
  .refine(({ from, to }) => from !== to, { path: ['to'] });

/** Minutes from one job to another, the same both ways, where somebody knows them better than a map; they can be taken away again. */
function MinutesBetween({
  jobs,
  known,
}: {
  jobs: readonly string[];
  known: Readonly<Record<string, z.infer<typeof JobWays>>>;
}) {
  const { t } = useTranslation();
  const { sync } = useParts('sync');
  const { change, problem, busy } = useChange([]);
  const { register, handleSubmit, formState, reset } = useForm({
    resolver: zodResolver(TypedWay),
    defaultValues: { from: '', to: '', minutes: Number.NaN },
  });
  const waysOf = (job: string) => known[job] ?? { place: null, minutes: {} };
  const put = async (job: string, minutes: Record<string, number>) =>
    change(JobWays, 'PUT', `/api/plan/jobs/${encodeURIComponent(job)}`, { ...waysOf(job), minutes });
  const drop = async (from: string, to: string) => {
    const { [to]: _gone, ...left } = waysOf(from).minutes;
    if (await put(from, left)) await sync();
  };
  const keep = handleSubmit(async ({ from, to, minutes }) => {
    // What was typed the other way round gives way: one figure counts both ways.
    const { [from]: back, ...left } = waysOf(to).minutes;
    if (back !== undefined && !(await put(to, left))) return;
    if (!(await put(from, { ...waysOf(from).minutes, [to]: minutes }))) return;
    reset();
    await sync();
  });
  const options = jobs.map((job) => ({ id: job, label: job }));
  const typed = Object.entries(known).flatMap(([from, { minutes }]) =>
    Object.entries(minutes).map(([to, count]) => ({ from, to, count })),
  );
  return (
    <form className="flex flex-col gap-2" onSubmit={(e) => void keep(e)}>
      <h3 className="font-semibold">{t('planSet.between')}</h3>
      <ul>
        {typed.map(({ from, to, count }) => (
          <li key={`${from} ${to}`} className="flex items-center gap-2">
            <span className="flex-1">
              {from} – {to}: {t('way.minutes', { count })}
            </span>
            <button type="button" className="key" disabled={busy} onClick={() => void drop(from, to)}>
              {t('planSet.withoutWay')}
            </button>
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-[1fr_1fr_6rem_auto] items-end gap-2 max-md:grid-cols-1">
        <SelectField label={t('planSet.from')} none={t('planSet.noJob')} options={options} {...register('from')} />
        <SelectField
          label={t('planSet.to')}
          none={t('planSet.noJob')}
          options={options}
          {...register('to')}
          problem={formState.errors.to && t('planSet.twoJobs')}
        />
        <TextField
          label={t('planSet.minutes')}
          type="number"
          min="0"
          max="1440"
          {...register('minutes', numeric)}
          problem={formState.errors.minutes && t('planSet.number')}
        />
        <button type="submit" className="key" disabled={busy}>
          {t('office.keep')}
        </button>
      </div>
      <Problem text={problem} />
    </form>
  );
}

/** Where jobs lie and how long the ways between them take. */
export function PlanWays() {
  const { t } = useTranslation();
  const { jobs: known } = useParts('plan').plan;
  const jobs = [...new Set(useNamedShowers().map((s) => s.job))].sort();
  return (
    <section className="flex flex-col gap-2">
      <h2 className="font-bold text-lg">{t('planSet.places')}</h2>
      <p className="text-soft text-sm">
        {t('planSet.placesWhat', { unknown: UNKNOWN_MINUTES, nextDoor: NEXT_DOOR_MINUTES })}
      </p>
      {jobs.map((job) => (
        <JobPlace key={job} job={job} ways={known[job] ?? { place: null, minutes: {} }} />
      ))}
      {jobs.length > 1 && <MinutesBetween jobs={jobs} known={known} />}
    </section>
  );
}
