import { plannedEndMs } from '@careful-seam/core/checks/floodReadings';
import type { FloodTest } from '@careful-seam/core/log/floodTest';
import type { Words } from '@careful-seam/words/texts/language';
import type { FloodVisit } from './floodCalendar';

/** A minute, ms. */
const MINUTE_MS = 60_000;
/** An hour, ms. */
const HOUR_MS = 60 * MINUTE_MS;

/** When a running flood must be visited: a first look an hour after filling, and the reading at the planned end. */
export function floodVisits(
  t: Words,
  shower: { id: string; name: string; job: string },
  test: FloodTest,
  readWithinHours: number,
): FloodVisit[] {
  const where = `${shower.name}, ${shower.job}`;
  const end = plannedEndMs(test);
  const first = {
    uid: `${test.entry}-first@careful-seam`,
    title: t('calendar.firstLook', { where }),
    description: t('calendar.firstLookWhat'),
    startMs: test.startMs + HOUR_MS,
    endMs: test.startMs + HOUR_MS + 15 * MINUTE_MS,
  };
  const last = {
    uid: `${test.entry}-read@careful-seam`,
    title: t('calendar.read', { where }),
    description: t('calendar.readWhat', { hours: test.plannedHours }),
    startMs: end,
    endMs: end + readWithinHours * HOUR_MS,
  };
  return [first, last].map((v) => ({ ...v, location: where, remindMinutes: 30 }));
}
