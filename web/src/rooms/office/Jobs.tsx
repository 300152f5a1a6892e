import type { ShowerRow } from '@careful-seam/contract/api/messages';
import { FoundShowers, Inspectors, type JobLine, JobList, PutJob, Visit } from '@careful-seam/contract/api/office';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useParts, useStore } from '../../tablet/store';
import { useChange, useList, usePages } from '../../tablet/useList';
import { TextField } from '../../ui/fields';
import { Loaded, Problem } from '../../ui/Loaded';

/** Where they come from. */
const JOBS = '/api/jobs';

/** Address and time zone of a site. */
function JobForm({ job }: { job: JobLine }) {
  const { t } = useTranslation();
  const { change, problem, busy } = useChange([JOBS]);
  const { register, handleSubmit, formState, reset } = useForm({
    defaultValues: { address: job.address, timeZone: job.timeZone },
  });
  const keep = handleSubmit(async (typed) => {
    if (await change(PutJob, 'PUT', `${JOBS}/${encodeURIComponent(job.name)}`, typed)) reset(typed);
  });
  return (
    <li className="border-hair border-b py-2">
      <p className="font-bold">
        {job.name} <span className="font-normal text-soft text-sm">{t('jobs.showers', { count: job.showers })}</span>
      </p>
      <form
        className="grid grid-cols-[1fr_11rem_auto] items-end gap-2 max-xl:grid-cols-1"
        onSubmit={(e) => void keep(e)}
      >
        <TextField label={t('jobs.address')} {...register('address')} />
        <TextField label={t('jobs.timeZone')} list="time-zones" {...register('timeZone')} />
        <button type="submit" className="key" disabled={!formState.isDirty || busy}>
          {t('office.keep')}
        </button>
      </form>
      <Problem text={problem} />
    </li>
  );
}

/** Who looks at a shower next, and when. */
function VisitLine({ row, people }: { row: ShowerRow; people: readonly { id: string; name: string }[] }) {
  const { t } = useTranslation();
  const sync = useStore((s) => s.sync);
  const { change, problem, busy } = useChange([]);
  const [visit, setVisit] = useState({ inspectorId: row.inspectorId, visitOn: row.visitOn });
  const keep = async (next: typeof visit) => {
    setVisit(next);
    if (await change(Visit, 'PUT', `/api/showers/${row.id}/visit`, next)) await sync();
  };
  return (
    <li className="grid grid-cols-[1fr_12rem_10.5rem] items-center gap-2 border-hair border-b py-1 max-xl:grid-cols-2 max-md:grid-cols-1">
      <Link className="min-w-0 text-ink max-xl:col-span-full" to={`/showers/${row.id}`}>
        <span className="font-bold">{row.name}</span> <span className="text-soft text-sm">{row.job}</span>
      </Link>
      <select
        className="field"
        aria-label={t('jobs.inspector', { name: row.name })}
        value={visit.inspectorId ?? ''}
        disabled={busy}
        onChange={(e) => void keep({ ...visit, inspectorId: e.target.value || null })}
      >
        <option value="">{t('jobs.whoever')}</option>
        {people.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </select>
      <input
        className="field"
        type="date"
        aria-label={t('jobs.visitOn', { name: row.name })}
        value={visit.visitOn ?? ''}
        disabled={busy}
        onChange={(e) => void keep({ ...visit, visitOn: e.target.value || null })}
      />
      <Problem text={problem} />
    </li>
  );
}

/** Lines that somebody plans from; the rest is found by name. */
const VISITS_SHOWN = 100;

/** Visits: who looks at which shower next and when; with a search over all showers of the firm. */
function Visits() {
  const { t } = useTranslation();
  const { showers, asleep } = useParts('showers', 'asleep');
  const [typed, setTyped] = useState('');
  const inspectors = useList(Inspectors, '/api/inspectors');
  const found = useList(FoundShowers, `/api/showers/search?q=${encodeURIComponent(typed.trim())}`);
  const local = [...[...showers.values()].map((s) => s.stored), ...asleep]
    .flatMap(({ row }) => (row === null || row.isSigned ? [] : [row]))
    .sort((a, b) => a.job.localeCompare(b.job) || a.name.localeCompare(b.name));
  const rows = typed.trim() === '' ? local : (found.data?.showers ?? []);
  return (
    <section className="flex flex-col gap-2">
      <h2 className="font-bold text-lg">{t('jobs.visits')}</h2>
      <input
        className="field max-w-xl"
        type="search"
        aria-label={t('jobs.search')}
        placeholder={t('jobs.search')}
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
      />
      {typed.trim() !== '' && found.data?.showers.length === 0 && <p className="text-soft">{t('jobs.notFound')}</p>}
      {(found.data?.more || rows.length > VISITS_SHOWN) && <p className="text-soft">{t('jobs.more')}</p>}
      <Loaded answer={inspectors}>
        {({ inspectors: people }) => (
          <ul>
            {rows.slice(0, VISITS_SHOWN).map((row) => (
              <VisitLine key={`${row.id} ${row.inspectorId} ${row.visitOn}`} row={row} people={people} />
            ))}
          </ul>
        )}
      </Loaded>
    </section>
  );
}

/** Jobs with their site and its time zone, and the visits to their showers. */
export function Jobs() {
  const { t } = useTranslation();
  const answer = usePages(JobList, JOBS, ({ jobs, more }) =>
    more ? `${JOBS}?after=${encodeURIComponent(jobs.at(-1)?.name ?? '')}` : null,
  );
  return (
    <div className="grid h-full grid-cols-[3fr_2fr] gap-6 overflow-y-auto max-lg:grid-cols-1">
      <datalist id="time-zones">
        {Intl.supportedValuesOf('timeZone').map((zone) => (
          <option key={zone} value={zone} />
        ))}
      </datalist>
      <Visits />
      <section>
        <h2 className="font-bold text-lg">{t('jobs.title')}</h2>
        <Loaded answer={answer} empty={t('jobs.none')} isEmpty={(d) => d.pages.every((page) => page.jobs.length === 0)}>
          {({ pages }) => (
            <ul>
              {pages
                .flatMap((page) => page.jobs)
                .map((job) => (
                  <JobForm key={job.name} job={job} />
                ))}
            </ul>
          )}
        </Loaded>
        {answer.hasNextPage && (
          <button
            type="button"
            className="key mt-2"
            disabled={answer.isFetching}
            onClick={() => void answer.fetchNextPage()}
          >
            {t('jobs.nextPage')}
          </button>
        )}
      </section>
    </div>
  );
}
