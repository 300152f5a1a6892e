import { type FloodVisit, floodCalendar } from '@careful-seam/files/floodCalendar';
import type { Language, Words } from '@careful-seam/words/texts/language';
import { makeWords } from '@careful-seam/words/texts/words';
import type { DataSource } from 'typeorm';
import { z } from 'zod';
import { namesIn } from '../crews/names';
import type { LinkRow } from '../store/entities/people';
import { type FirmDays, firmDays, lookMsOf } from './firmPlan';
import { writeNote } from './planNotes';

/** A minute, ms. */
const MINUTE_MS = 60_000;
/** A day, ms. */
const DAY_MS = 86_400_000;
/** What is not told any more is told as cancelled so long, ms: calendars ask a few times a day. */
const CANCELLED_MS = 7 * DAY_MS;
/** Before a flood is to be read one is reminded, minutes. */
const REMIND_MINUTES = 30;

/** What a calendar told last: by the id of each visit. */
const Told = z.record(
  z.string(),
  z.object({
    startMs: z.number(),
    endMs: z.number(),
    title: z.string(),
    location: z.string(),
    sequence: z.number(),
    goneMs: z.number().nullable(),
  }),
);
type Told = z.infer<typeof Told>;

/** Visits of the plan as a calendar has them: floods to read of all showers that are meant, looks when somebody is to give them. */
function visitsOf({ plan, days }: FirmDays, link: LinkRow, t: Words, stageName: (key: string) => string): FloodVisit[] {
  const day = link.userId ? days.get(link.userId) : undefined;
  const begins = new Map((day?.route.order ?? []).map((id, k) => [id, day!.route.begins[k]!]));
  const isMeant = (id: string): boolean => {
    const row = plan.rows.get(id)!;
    return link.job === null ? row.inspectorId === link.userId || begins.has(id) : row.job === link.job;
  };
  return plan.planned
    .filter(({ ahead }) => isMeant(ahead.id))
    .map((planned): FloodVisit => {
      const { ahead, plan: its } = planned;
      const stage = ahead.stages[0]!;
      const where = `${ahead.name}, ${ahead.job}`;
      if (ahead.flood) {
        const hours = Math.round((ahead.flood.endMs - ahead.flood.startMs) / 3_600_000);
        return {
          uid: `${ahead.id}-${ahead.flood.startMs}-read@careful-seam`,
          title: t('calendar.read', { where }),
          description: t('calendar.readWhat', { hours }),
          location: where,
          startMs: ahead.flood.endMs,
          endMs: ahead.flood.readByMs,
          remindMinutes: REMIND_MINUTES,
        };
      }
      const startMs = begins.get(ahead.id) ?? lookMsOf(planned);
      const title = link.job === null ? 'calendar.look' : 'calendar.ready';
      return {
        uid: `${ahead.id}-${stage.key}-look@careful-seam`,
        title: t(title, { where, stage: stageName(stage.key) }),
        description: t('calendar.lookWhat', { count: stage.open }),
        location: where,
        startMs,
        endMs: startMs + Math.max(MINUTE_MS, its.stages[0]!.endMs - its.stages[0]!.lookMs),
      };
    });
}

/** How often each was changed, and what was told and is not any more. Moments within a quarter of an hour of what was told are the same. */
function since(told: Told, visits: readonly FloodVisit[], nowMs: number): { visits: FloodVisit[]; told: Told } {
  const next: Told = {};
  const out = visits.map((visit): FloodVisit => {
    const before = told[visit.uid];
    const near =
      before &&
      before.goneMs === null &&
      before.title === visit.title &&
      Math.abs(before.startMs - visit.startMs) < 15 * MINUTE_MS;
    const { startMs, endMs } = near ? before : visit;
    const sequence = before ? before.sequence + (near ? 0 : 1) : 0;
    next[visit.uid] = { startMs, endMs, title: visit.title, location: visit.location, sequence, goneMs: null };
    return { ...visit, startMs, endMs, sequence };
  });
  for (const [uid, before] of Object.entries(told)) {
    if (next[uid] || (before.goneMs !== null && nowMs - before.goneMs > CANCELLED_MS)) continue;
    const isNew = before.goneMs === null;
    const gone = { ...before, sequence: before.sequence + (isNew ? 1 : 0), goneMs: before.goneMs ?? nowMs };
    next[uid] = gone;
    out.push({ ...gone, uid, description: '', isCancelled: true });
  }
  return { visits: out, told: next };
}

/** The calendar behind a link: the same id for the same visit, counted up when it moves, cancelled when it is not to be any more. */
export async function calendarOf(store: DataSource, link: LinkRow, language: Language, now: Date): Promise<string> {
  const { t } = makeWords(language);
  const names = await namesIn(store, language);
  const firm = await firmDays(store, now);
  const [row] = await store.query(`SELECT data FROM plan_note WHERE kind = 'feed' AND id = $1`, [link.id]);
  const before = Told.safeParse(row?.data).data ?? {};
  const { visits, told } = since(before, visitsOf(firm, link, t, names.stage), now.getTime());
  await writeNote(store, 'feed', link.id, told, now);
  return floodCalendar(visits, t('calendar.planName', { label: link.label }), now.getTime());
}
