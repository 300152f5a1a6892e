import { FoundShowers } from '@careful-seam/contract/api/office';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useNamedShowers, useStore } from '../../tablet/store';
import { useList } from '../../tablet/useList';
import { Sheet } from '../../ui/Sheet';

/** More than this nobody reads through: another word finds it. */
const SHOWN_AT_MOST = 30;

/** What is found by a name, on this tablet and at the server. */
function Found({ typed }: { typed: string }) {
  const { t } = useTranslation();
  const takeJob = useStore((s) => s.takeJob);
  const onTablet = useNamedShowers();
  const [taken, setTaken] = useState<Record<string, number>>({});
  const words = typed.toLowerCase().split(/\s+/);
  const ids = new Set(onTablet.map((s) => s.id));
  const here = onTablet.filter(({ name, job }) => {
    const text = `${name} ${job}`.toLowerCase();
    return words.every((w) => text.includes(w));
  });
  const answer = useList(FoundShowers, `/api/showers/search?q=${encodeURIComponent(typed)}`);
  const rows = [...here.slice(0, SHOWN_AT_MOST), ...(answer.data?.showers ?? []).filter((row) => !ids.has(row.id))];
  const jobs = [...new Set((answer.data?.showers ?? []).map((row) => row.job))].slice(0, 3);
  return (
    <>
      <ul>
        {rows.map((row) => (
          <li key={row.id} className="border-hair border-b">
            <Link className="flex min-h-12 items-center gap-2 text-ink" to={`/showers/${row.id}`}>
              <span className="font-bold">{row.name}</span> <span className="text-soft">{row.job}</span>
            </Link>
          </li>
        ))}
      </ul>
      {jobs.map((job) => (
        <p key={job} className="flex flex-wrap items-center gap-2 pt-2">
          <button
            type="button"
            className="key"
            onClick={() => void takeJob(job).then((count) => setTaken({ ...taken, [job]: count }))}
          >
            {t('find.takeJob', { job })}
          </button>
          <span className="text-soft" aria-live="polite">
            {taken[job] !== undefined && t('find.taken', { count: taken[job] })}
          </span>
        </p>
      ))}
      {(here.length > SHOWN_AT_MOST || answer.data?.more) && <p className="text-soft">{t('jobs.more')}</p>}
      {answer.isError && <p className="text-cure">{t('find.offline')}</p>}
      {answer.isSuccess && rows.length === 0 && <p className="text-soft">{t('jobs.notFound')}</p>}
    </>
  );
}

/** Finds a shower by its name or job: on this tablet at once, and among all of the firm's when there is a network. */
export function FindShower() {
  const { t } = useTranslation();
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState('');
  return (
    <>
      <button type="button" className="key" onClick={() => setOpen(true)}>
        {t('find.open')}
      </button>
      {open && (
        <Sheet title={t('find.title')} onClose={() => setOpen(false)}>
          <input
            className="field"
            type="search"
            aria-label={t('jobs.search')}
            placeholder={t('jobs.search')}
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
          {typed.trim() !== '' && <Found typed={typed.trim()} />}
        </Sheet>
      )}
    </>
  );
}
