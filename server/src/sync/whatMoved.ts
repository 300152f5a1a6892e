import { FIRST_SETTINGS, type FirmAnswer, FirmSettings } from '@careful-seam/contract/api/firm';
import type { Person } from '@careful-seam/contract/api/messages';
import { type MovedShower, ON_A_TABLET, type SyncAnswer, type SyncAsk } from '@careful-seam/contract/api/sync';
import { sha256Hex } from '@careful-seam/core/log/chain';
import type { DataSource } from 'typeorm';
import { currentEpoch } from '../firm/epoch';
import { NOTES_OF_FIRM, ownOddsOf, ownRatesOf, planBookOf } from '../plan/planNotes';
import { ofCrew, SHOWER_COLUMNS, type ShowerWithHead, showerAnswer, showerRows } from '../showers/showerRows';

/** A day, ms. */
const DAY_MS = 86_400_000;
/** More that moved than this is not told piece by piece: the tablet asks from the beginning. */
const MOVED_AT_MOST = 2000;

/** What every tablet keeps of the firm. */
export const firmAnswer = async (store: DataSource, now: Date): Promise<FirmAnswer> =>
  (await firmAndPlace(store, now)).firm;

async function firmAndPlace(store: DataSource, now: Date): Promise<{ firm: FirmAnswer; place: number }> {
  const [row] = await store.query(FIRM);
  const firm: FirmAnswer = {
    epoch: row.epoch ?? (await currentEpoch(store, now)),
    settings: FirmSettings.parse({ ...FIRST_SETTINGS, ...(row.settings ?? {}) }),
    crews: row.crews ?? [],
    newestBook: row.book,
    lookPlan: row.plan ?? [],
    plan: planBookOf(row.plan_notes ?? []),
    leaks: { finds: row.finds ?? {}, own: ownRatesOf(row.plan_notes ?? []), odds: ownOddsOf(row.plan_notes ?? []) },
  };
  return { firm, place: Number(row.place) };
}

/**
 * Everything of the firm in one question, since every tablet asks it every few seconds; and the place: every transaction before
 * it is over and what it wrote can be seen, so that nothing is missed by asking from there.
 */
const FIRM = `SELECT
  (SELECT id FROM server_epoch ORDER BY opened_at DESC LIMIT 1) AS epoch,
  (SELECT data FROM firm_setting WHERE id = 1) AS settings,
  (SELECT json_agg(json_build_object('id', id, 'name', name, 'into', into_crew) ORDER BY name) FROM crew) AS crews,
  (SELECT json_build_object('id', id, 'version', version) FROM rule_book WHERE origin = '' ORDER BY version DESC LIMIT 1) AS book,
  (SELECT cells FROM look_plan ORDER BY accepted_at DESC LIMIT 1) AS plan,
  ${NOTES_OF_FIRM},
  (SELECT json_object_agg(kind, n) FROM (SELECT kind, count(*)::int AS n FROM found_fact GROUP BY kind) f) AS finds,
  pg_snapshot_xmin(pg_current_snapshot())::text AS place`;

/** What a tablet should hold by itself: what is open, what is planned, what was touched in the firm's number of days. */
interface Window {
  touchedAfter: Date;
  /** ISO day; a day early, since the site's day may not be this machine's. */
  visitsFrom: string;
}

const windowOf = (now: Date, tabletDays: number): Window => ({
  touchedAfter: new Date(now.getTime() - tabletDays * DAY_MS),
  visitsFrom: new Date(now.getTime() - DAY_MS).toISOString().slice(0, 10),
});

const isIn = ({ touchedAfter, visitsFrom }: Window, row: ShowerWithHead): boolean =>
  !row.isSigned || row.updatedAt >= touchedAfter || (row.visitOn !== null && row.visitOn >= visitsFrom);

/** Condition on `s` for what a person may see; the crew is the statement's first value. */
const OWN = `($1::text IS NULL OR ${ofCrew('$1')})`;
export const crewOf = (person: Person): string | null => (person.role === 'crew-lead' ? (person.crewId ?? '') : null);

/**
 * What a tablet holds that begins: visits and what is assigned first, then what is open by its newest change, then what was
 * finished of late. Each part is read by an index and no farther than it is wanted.
 */
async function windowRows(
  store: DataSource,
  person: Person,
  { touchedAfter, visitsFrom }: Window,
): Promise<{ rows: ShowerWithHead[]; more: boolean }> {
  const crew = crewOf(person);
  const most = ON_A_TABLET + 1;
  const parts = [
    await showerRows(
      store,
      `WHERE ${OWN} AND (s.visit_on >= $2 OR s.inspector_id = $3 AND NOT h.is_signed) ORDER BY s.visit_on LIMIT $4`,
      [crew, visitsFrom, person.id, most],
    ),
    await showerRows(store, `WHERE ${OWN} AND NOT h.is_signed ORDER BY h.updated_at DESC LIMIT $2`, [crew, most]),
    await showerRows(store, `WHERE ${OWN} AND h.is_signed AND h.updated_at >= $2 ORDER BY h.updated_at DESC LIMIT $3`, [
      crew,
      touchedAfter,
      most,
    ]),
  ];
  const kept = new Map(parts.flat().map((row) => [row.id, row]));
  return { rows: [...kept.values()].slice(0, ON_A_TABLET), more: kept.size > ON_A_TABLET };
}

async function movedSince(store: DataSource, person: Person, place: number): Promise<ShowerWithHead[]> {
  return store.query(
    `SELECT ${SHOWER_COLUMNS} FROM shower_head h JOIN shower s ON s.id = h.shower_id
    WHERE ${OWN} AND h.moved >= $2 ORDER BY h.moved LIMIT $3`,
    [crewOf(person), place, MOVED_AT_MOST + 1],
  );
}

/**
 * What a tablet lacks: everything that moved since its last answer, or from the beginning what it should hold and whatever it
 * holds beyond that. The words of the firm come only where they changed. Never throws for what a tablet asks: a place that is
 * not known is answered by asking it to begin.
 */
export async function whatMoved(store: DataSource, person: Person, ask: SyncAsk, now: Date): Promise<SyncAnswer> {
  // The place is of a moment before what moved is read: what moves meanwhile is told twice, never left out.
  const { firm, place } = await firmAndPlace(store, now);
  const mark = sha256Hex(JSON.stringify(firm)).slice(0, 16);
  const window = windowOf(now, firm.settings.tabletDays);
  const answer = { epoch: firm.epoch, firm: ask.firm === mark ? null : firm, mark };
  // Another epoch, person, crew or number of days: what a tablet should hold may be more than what moved.
  const whose = sha256Hex(JSON.stringify([firm.epoch, firm.settings.tabletDays, person.id, crewOf(person)]));
  const since = `${whose.slice(0, 16)}.${place}`;
  const told = (rows: ShowerWithHead[]): MovedShower[] =>
    rows.map((row) => ({ ...showerAnswer(row), keep: isIn(window, row) }));
  if (ask.since === null) {
    const { rows, more } = await windowRows(store, person, window);
    const here = new Set(rows.map((row) => row.id));
    const beyond = (ask.known ?? []).filter((id) => !here.has(id));
    const known =
      beyond.length === 0 ? [] : await showerRows(store, `WHERE ${OWN} AND s.id = ANY($2)`, [crewOf(person), beyond]);
    return { ...answer, since, showers: told([...rows, ...known]), more };
  }
  const anew = { ...answer, since: null, showers: [], more: null };
  const from = placeIn(ask.since, since);
  if (from === null || from > place) return anew;
  const rows = await movedSince(store, person, from);
  return rows.length > MOVED_AT_MOST ? anew : { ...answer, since, showers: told(rows), more: null };
}

/** The place in what a tablet asks from, where the rest of it still holds; else null. */
function placeIn(asked: string, now: string): number | null {
  const at = asked.lastIndexOf('.');
  const isSame = asked.slice(0, at) === now.slice(0, now.lastIndexOf('.'));
  const place = Number(asked.slice(at + 1));
  return isSame && Number.isSafeInteger(place) && place >= 0 ? place : null;
}
