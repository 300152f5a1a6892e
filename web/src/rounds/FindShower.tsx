import { FoundShowers } from '@careful-seam/contract/api/office';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useList } from '../office/useList';
import { Sheet } from '../shell/Sheet';
import { useStore } from '../state/store';

function Found({ typed }: { typed: string }) {
  const { t } = useTranslation();
  const showers = useStore((s) => s.showers);
  const words = typed.toLowerCase().split(/\s+/);
  const here = [...showers.values()].filter((s) => {
    const text = `${s.state.created?.body.name} ${s.state.created?.body.job}`.toLowerCase();
    return words.every((w) => text.includes(w));
  });
  const answer = useList(FoundShowers, `/api/showers/search?q=${encodeURIComponent(typed)}`);
  const rows = [
    ...here.map((s) => ({ id: s.id, name: s.state.created?.body.name, job: s.state.created?.body.job })),
    ...(answer.data?.showers ?? []).filter((row) => !showers.has(row.id)),
  ];
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
