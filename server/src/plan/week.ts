import type { Assigned, WeekAnswer, WeekShower, WeekStep } from '@careful-seam/contract/api/plan';
import type { PlannedShower } from '@careful-seam/core/plan/planOf';
import { addDaysTo, atHour, dayAt, shiftOf } from '@careful-seam/core/plan/workCalendar';
import type { DataSource, EntityManager } from 'typeorm';
import { Refusal } from '../refusals/refusal';
import { UserEntity } from '../store/entities/people';
import { ShowerEntity } from '../store/entities/showers';
import { type FirmPlan, firmPlan, lookMsOf, suggestionFor } from './firmPlan';

/** Days of work that are shown, and days that are looked through for them at most. */
const DAYS = 5;
const LOOKED_THROUGH = 30;

/** The next days of work from one on. */
function daysFrom({ calendar }: FirmPlan, first: string): string[] {
  const all = Array.from({ length: LOOKED_THROUGH }, (_, k) => addDaysTo(first, k));
  return all.filter((day) => shiftOf(calendar, day) !== null).slice(0, DAYS);
}

/** What happens to a shower from now on, as a line of steps. */
function stepsOf({ ahead, plan }: PlannedShower): WeekStep[] {
  return ahead.stages.flatMap((stage, k): WeekStep[] => {
    const its = plan.stages[k]!;
    const about = { stage: stage.key, label: stage.label, critical: its.critical };
    const water = ahead.flood?.stage === stage.key;
    const builtMs = Math.min(its.lookMs, stage.step === 'built' ? its.likelyMs : its.workEndMs);
    return [
      { ...about, kind: 'work' as const, fromMs: its.likelyMs, toMs: builtMs },
      ...(water || stage.wait || stage.waitHours > 0
        ? [
            {
              ...about,
              kind: water ? ('water' as const) : ('wait' as const),
              fromMs: builtMs,
              toMs: water ? ahead.flood!.endMs : its.lookMs,
            },
          ]
        : []),
      { ...about, kind: 'look' as const, fromMs: its.lookMs, toMs: its.endMs },
    ].filter((step) => step.toMs > step.fromMs);
  });
}

/** Looks that were given since a moment, of all showers. */
async function releasedSince(store: DataSource, fromMs: number): Promise<Map<string, WeekShower['released']>> {
  const rows: { shower: string; text: string; at: Date }[] = await store.query(
    `SELECT shower_id AS shower, text, received_at AS at FROM entry WHERE kind = 'stage-released' AND received_at >= $1 ORDER BY received_at LIMIT 2000`,
    [new Date(fromMs)],
  );
  const found = new Map<string, WeekShower['released']>();
  for (const { shower, text } of rows) {
    const entry = JSON.parse(text) as { body: { stage: string }; author: { name: string }; observedAt: string };
    const list = found.get(shower) ?? [];
    list.push({
      stage: entry.body.stage,
      label: entry.body.stage,
      atMs: Date.parse(entry.observedAt),
      by: entry.author.name,
    });
    found.set(shower, list);
  }
  return found;
}

/** Hours that each crew is likely to stand idle in these days: its showers wait, and none of them has work for it. */
function idleHours(plan: FirmPlan, days: readonly string[]): Record<string, number> {
  const hours: Record<string, number> = {};
  const crews = new Map<string, PlannedShower[]>();
  for (const shower of plan.planned)
    crews.set(shower.ahead.crewId, [...(crews.get(shower.ahead.crewId) ?? []), shower]);
  for (const [crew, showers] of crews) {
    let idle = 0;
    for (const day of days) {
      const shift = shiftOf(plan.calendar, day)!;
      const fromMs = Math.max(shift.fromMs, plan.nowMs);
      // Work of the day, cut to the shift and laid end to end: a crew is at one shower at a time.
      const busy = showers
        .flatMap(stepsOf)
        .filter((s) => s.kind === 'work')
        .map((s) => [Math.max(s.fromMs, fromMs), Math.min(s.toMs, shift.toMs)] as const)
        .reduce((sum, [from, to]) => sum + Math.max(0, to - from), 0);
      const waits = showers.some((s) => s.plan.readyMs > fromMs);
      if (waits) idle += Math.max(0, shift.toMs - fromMs - busy);
    }
    hours[crew] = idle / 3_600_000;
  }
  return hours;
}

/** The firm's week from a day on, ISO; from today without one. */
export async function weekOf(store: DataSource, now: Date, from?: string): Promise<WeekAnswer> {
  const plan = await firmPlan(store, now);
  const zone = plan.calendar.timeZone;
  const today = dayAt(zone, plan.nowMs);
  const days = daysFrom(plan, from ?? today);
  const released = await releasedSince(store, atHour(zone, days[0] ?? today, 0) - 7 * 86_400_000);
  const crews: WeekAnswer['crews'] = await store.query(
    `SELECT id, name FROM crew WHERE into_crew IS NULL AND id = ANY($1) ORDER BY name`,
    [[...new Set(plan.planned.map((p) => p.ahead.crewId))]],
  );
  const showers = plan.planned.map((p): WeekShower => {
    const { ahead, plan: its, squeeze } = p;
    const row = plan.rows.get(ahead.id)!;
    const first = its.stages[0]!;
    return {
      shower: ahead.id,
      name: ahead.name,
      job: ahead.job,
      timeZone: ahead.timeZone,
      crewId: ahead.crewId,
      inspectorId: row.inspectorId,
      visitOn: row.visitOn,
      steps: stepsOf(p),
      lookMs: lookMsOf(p),
      lookOn: dayAt(zone, lookMsOf(p)),
      lookMinutes: Math.round((first.endMs - first.lookMs) / 60_000),
      lookStage: ahead.stages[0]!.key,
      lookLabel: ahead.stages[0]!.label,
      readyMs: its.readyMs,
      // What is built, or not built here at all, waits for nothing any more.
      goods: (plan.book.showers[ahead.id]?.goods ?? [])
        .filter((g) => ahead.stages.some((s) => s.key === g.stage && s.step === 'to-build'))
        .map(({ what, dueOn }) => ({ what, dueOn })),
      squeeze,
      released: released.get(ahead.id) ?? [],
    };
  });
  return {
    madeMs: plan.nowMs,
    days,
    showers: showers.sort((a, b) => a.job.localeCompare(b.job) || a.name.localeCompare(b.name)),
    inspectors: plan.inspectors.map((i) => ({ ...i, away: plan.book.away[i.id] ?? [] })),
    crews,
    idle: idleHours(plan, days),
    suggested: suggestionFor(plan),
  };
}

/** Sets many looks at once, all or none. */
export async function assignLooks(store: DataSource, looks: readonly Assigned[]): Promise<void> {
  await store.transaction(async (all: EntityManager) => {
    for (const [k, { inspectorId, shower }] of looks.entries()) {
      if (inspectorId) {
        const inspector = await all.getRepository(UserEntity).findOneBy({ id: inspectorId });
        if (!inspector || inspector.role === 'crew-lead' || inspector.disabled)
          throw new Refusal('inspector-unknown', `looks.${k}.inspectorId`);
      }
      const { affected } = await all
        .getRepository(ShowerEntity)
        .update({ id: shower }, { inspectorId, visitOn: looks[k]!.visitOn });
      if (affected === 0) throw new Refusal('no-such-shower', `looks.${k}.shower`);
    }
  });
}
