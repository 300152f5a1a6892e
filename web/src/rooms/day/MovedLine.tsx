import type { InspectorDay } from '@careful-seam/core/plan/inspectorDay';
import { whatMoved } from '@careful-seam/core/plan/whatMoved';
import { clockWords } from '@careful-seam/words/sentences/moments';
import { useCallback, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useParts } from '../../tablet/store';
import { type SeenWay, seenOf, useDayPins } from './dayPins';
import { movedWords } from './wayWords';

/** A tablet that was just opened still reads what it keeps for so long, ms. */
const SETTLES_MS = 8000;

/** So much of what moved is told at once; a key tells the rest. */
const MOVED_SHOWN = 3;

/** A way as it is kept to tell later what moved. */
const asSeen = (day: InspectorDay, atMs: number): SeenWay => ({
  atMs,
  order: day.route.order,
  begins: day.route.begins,
  opens: Object.fromEntries([...day.byId].map(([id, s]) => [id, s.opensMs])),
});

/** What moved since the way was seen last, with the cause first; a key takes note of it. */
export function MovedLine({
  day,
  date,
  zone,
  nameOf,
}: {
  day: InspectorDay;
  date: string;
  zone: string;
  nameOf: (id: string) => string;
}) {
  const { t } = useTranslation();
  const { person: me, connection, lastSyncAt, behind } = useParts('person', 'connection', 'lastSyncAt', 'behind');
  const person = me?.id ?? '';
  // Until it has heard the server of all its showers, or can't, a tablet does not know what there is.
  const ready = (lastSyncAt !== null && behind === 0) || connection === 'offline';
  const seen = seenOf(
    useDayPins((s) => s.seen),
    person,
    date,
  );
  const see = useDayPins((s) => s.see);
  const [all, setAll] = useState(false);
  const now = useMemo(() => asSeen(day, Date.now()), [day]);
  const take = useCallback(() => see(person, date, now), [see, person, date, now]);
  const began = useRef<number | null>(seen === null ? null : 0);
  const isFirst = seen === null;
  useLayoutEffect(() => {
    // The first look at a day is what later ones are compared with; while a tablet still reads what it keeps, nothing has moved.
    if (ready) began.current ??= Date.now();
    if (isFirst || began.current === null || Date.now() - began.current < SETTLES_MS) take();
  }, [isFirst, take, ready]);
  const moved = seen === null ? [] : whatMoved(seen, now);
  if (seen === null || moved.length === 0) return null;
  const words = movedWords(t, moved, nameOf, day, zone);
  const rest = all ? 0 : Math.max(0, words.length - MOVED_SHOWN);
  return (
    <p role="status" className="flex flex-wrap items-center gap-x-3 border-cure border-l-4 bg-leaf px-3 py-1">
      <span className="flex-1">
        <span className="font-bold">{t('way.movedSince', { at: clockWords(seen.atMs) })}</span>{' '}
        {words.slice(0, words.length - rest).join(' ')}
      </span>
      {rest > 0 && (
        <button type="button" className="key" onClick={() => setAll(true)}>
          {t('way.movedMore', { count: rest })}
        </button>
      )}
      <button type="button" className="key" onClick={take}>
        {t('way.seen')}
      </button>
    </p>
  );
}
