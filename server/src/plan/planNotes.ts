import { LeakOdds, LeakRates } from '@careful-seam/contract/api/leaks';
import {
  DayPins,
  FIRST_PLAN_SETTINGS,
  JobWays,
  LookedMinutes,
  NO_PINS,
  PlanBook,
  PlanSettings,
  ShowerPlanSet,
} from '@careful-seam/contract/api/plan';
import type { DataSource, EntityManager } from 'typeorm';
import type { z } from 'zod';

/** What a note is about: the firm's hours, a job's ways, what was set for a shower, a person's days off, a person's day, how long looks took, what a calendar told, figures to begin tracing with. */
export const PLAN_NOTES = ['settings', 'job', 'shower', 'away', 'day', 'looked', 'feed', 'leaks'] as const;
/** One of them. */
type PlanNoteKind = (typeof PLAN_NOTES)[number];
/** A note as it is kept. */
export interface PlanNote {
  kind: PlanNoteKind;
  id: string;
  data: unknown;
}

/** A day, ms. */
const DAY_MS = 86_400_000;

/** Writes a note over the one that was there. */
export async function writeNote(
  store: DataSource | EntityManager,
  kind: PlanNoteKind,
  id: string,
  data: unknown,
  now: Date,
): Promise<void> {
  await store.query(
    `INSERT INTO plan_note (kind, id, data, changed_at) VALUES ($1, $2, $3, $4)
    ON CONFLICT (kind, id) DO UPDATE SET data = excluded.data, changed_at = excluded.changed_at`,
    [kind, id, JSON.stringify(data), now],
  );
}

/** Notes that every tablet keeps, as a part of the question for the firm's words: what is of a day, or of a finished shower, is left out. */
export const NOTES_OF_FIRM = `(SELECT json_agg(json_build_object('kind', n.kind, 'id', n.id, 'data', n.data) ORDER BY n.kind, n.id)
    FROM plan_note n LEFT JOIN shower_head f ON n.kind = 'shower' AND f.shower_id::text = n.id
    WHERE n.kind NOT IN ('day', 'feed') AND f.is_signed IS NOT TRUE) AS plan_notes`;

/** What a note says, where it says what such a note does; a note of another version counts for nothing. */
const said = <T extends z.ZodType>(schema: T, data: unknown): z.infer<T> | null => schema.safeParse(data).data ?? null;

/** Notes as the one book that is read everywhere. */
export function planBookOf(notes: readonly PlanNote[]): PlanBook {
  const of = <T extends z.ZodType>(kind: PlanNoteKind, schema: T): Record<string, z.infer<T>> => {
    const told: Record<string, z.infer<T>> = {};
    for (const note of notes) {
      const read = note.kind === kind ? said(schema, note.data) : null;
      if (read !== null) told[note.id] = read;
    }
    return told;
  };
  return {
    settings: of('settings', PlanSettings)[''] ?? FIRST_PLAN_SETTINGS,
    jobs: of('job', JobWays),
    showers: of('shower', ShowerPlanSet),
    away: of('away', PlanBook.shape.away.valueType),
    looked: of('looked', LookedMinutes)[''] ?? {},
  };
}

/** A firm's own figures to begin tracing with. */
export function ownRatesOf(notes: readonly PlanNote[]): LeakRates {
  const note = notes.find((n) => n.kind === 'leaks' && n.id === '');
  return (note && said(LeakRates, note.data)) ?? {};
}

/** The id of the note that holds a firm's own probabilities. */
export const ODDS_NOTE = 'odds';
/** A firm's own probabilities of what is seen and what tests show. */
export function ownOddsOf(notes: readonly PlanNote[]): LeakOdds {
  const note = notes.find((n) => n.kind === 'leaks' && n.id === ODDS_NOTE);
  return (note && said(LeakOdds, note.data)) ?? {};
}

/** The firm's plan book. */
export async function readPlanBook(store: DataSource): Promise<PlanBook> {
  const [row] = await store.query(`SELECT ${NOTES_OF_FIRM}`);
  return planBookOf(row.plan_notes ?? []);
}

/** How a person means to go on a day. */
export async function readPins(store: DataSource, personId: string, day: string): Promise<DayPins> {
  const [row] = await store.query(`SELECT data FROM plan_note WHERE kind = 'day' AND id = $1`, [`${personId} ${day}`]);
  return said(DayPins, row?.data) ?? NO_PINS;
}

/** Once a day: how long looks took is counted anew, and what was meant for days that are over goes. */
export async function renewPlanNotes(store: DataSource, now: Date): Promise<void> {
  const [known] = await store.query(`SELECT changed_at AS at FROM plan_note WHERE kind = 'looked' AND id = ''`);
  if (known && now.getTime() - known.at.getTime() < DAY_MS) return;
  const rows: { stage: string; days: number; minutes: number }[] = await store.query(
    `SELECT stage, count(*)::int AS days, round(sum(minutes))::float8 AS minutes FROM minutes_fact WHERE stage <> '' GROUP BY stage`,
  );
  await writeNote(store, 'looked', '', Object.fromEntries(rows.map(({ stage, ...r }) => [stage, r])), now);
  await store.query(`DELETE FROM plan_note WHERE kind = 'day' AND changed_at < $1`, [
    new Date(now.getTime() - 7 * DAY_MS),
  ]);
}
