import type { StoredShower } from './stored';

/** Showers that are worked out and held ready; the others are known by their rows, and are woken when they are opened. */
export const AWAKE_AT_MOST = 200;
/** Of these a screen that begins waits for the first ones alone. */
export const FIRST = 12;

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** A finished shower stays ready this long: its record is printed, its key handed over. */
const FINISHED_MS = 48 * HOUR_MS;
/** A visit counts as of today from a day before it: the site's day may not be this tablet's. */
const VISIT_MS = 36 * HOUR_MS;

/** Who uses the tablet, and when. */
export interface Moment {
  /** Who is signed in; null for nobody. */
  personId: string | null;
  /** The moment it is asked at, ms since 1970. */
  nowMs: number;
  /** Showers with something that the server has not acknowledged. */
  waiting: ReadonlySet<string>;
}

/** How much a shower is wanted: 0 first; null: only when somebody opens it. */
function need({ id, row }: StoredShower, { personId, nowMs, waiting }: Moment): number | null {
  // Without a row it was made here, and the server has not heard of it.
  if (waiting.has(id) || row === null) return 0;
  if (row.visitOn !== null && Math.abs(Date.parse(`${row.visitOn}T12:00:00Z`) - nowMs) <= VISIT_MS) return 1;
  if (row.isSigned && nowMs - Date.parse(row.updatedAt) > FINISHED_MS) return null;
  return row.inspectorId !== null && row.inspectorId === personId ? 2 : 3;
}

/**
 * Which of the showers on this tablet are held ready, in the order in which they are wanted: what waits here, the day's visits,
 * what this person is to look at, then the newest change. What was finished some time ago sleeps, and so does whatever is
 * beyond `atMost`; nothing that waits is ever left out.
 */
export function whoIsAwake(
  showers: readonly StoredShower[],
  moment: Moment,
  atMost = AWAKE_AT_MOST,
): { awake: string[]; asleep: StoredShower[] } {
  const needs = new Map(showers.map((s) => [s.id, need(s, moment)]));
  const newest = (s: StoredShower) => s.row?.updatedAt ?? '';
  const wanted = showers
    .filter((s) => needs.get(s.id) !== null)
    .sort((a, b) => needs.get(a.id)! - needs.get(b.id)! || newest(b).localeCompare(newest(a)));
  const waits = wanted.filter((s) => needs.get(s.id) === 0).length;
  const awake = wanted.slice(0, Math.max(atMost, waits)).map((s) => s.id);
  const isAwake = new Set(awake);
  return { awake, asleep: showers.filter((s) => !isAwake.has(s.id)) };
}
