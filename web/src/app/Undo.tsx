import type { Entry } from '@careful-seam/core/log/entry';
import { showLength } from '@careful-seam/core/units/length';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { type LocalShower, useParts } from '../tablet/store';
import { usePreferences } from '../ui/preferences';

/** How long an answer can be taken back with one tap, ms. */
const UNDO_MS = 120_000;
/** What is never taken back by one tap. */
const STANDS: ReadonlySet<Entry['kind']> = new Set([
  'shower-created',
  'geometry-set',
  'rules-pinned',
  'record-signed',
  'correction',
]);

/** The newest entry of a person that was not taken back; null where there is none. */
function lastOf({ entries, parsed }: LocalShower, personId: string | undefined): Entry | null {
  const mine = entries.flatMap((e) => (e.authorId === personId ? (parsed.get(e.hash) ?? []) : []));
  const undone = new Set(mine.flatMap((e) => (e.kind === 'correction' ? [e.body.target] : [])));
  let last: Entry | null = null;
  for (const e of mine)
    if (e.kind !== 'correction' && !undone.has(e.id) && (last === null || e.orderAt >= last.orderAt)) last = e;
  return last;
}

/** The last answer of this person, for a while: one tap takes it back. */
export function Undo({ shower }: { shower: LocalShower }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { person, write } = useParts('person', 'write');
  const [now, setNow] = useState(Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 5000);
    return () => clearInterval(timer);
  }, []);
  const last = useMemo(() => lastOf(shower, person?.id), [shower, person?.id]);
  if (!last || now - Date.parse(last.observedAt) > UNDO_MS || STANDS.has(last.kind)) return null;
  const what =
    last.kind === 'reading' && !last.body.film
      ? t(shower.state.seamById.has(last.body.place.element) ? 'undo.reading' : 'undo.readingWhole', {
          value: showLength(last.body.valueMm, unit),
          at: showLength(last.body.atMm, unit),
        })
      : t(last.kind === 'reading' ? 'undo.film' : `undo.${last.kind}`, { defaultValue: t('undo.other') });
  return (
    <button
      type="button"
      className="key max-w-52 flex-none text-sm leading-tight"
      onClick={() => void write(shower.id, 'correction', { target: last.id, action: 'withdraw' })}
    >
      {t('undo.button', { what })}
    </button>
  );
}
