import type { CrewPlan, CrewPlanLine } from '@careful-seam/contract/api/plan';
import type { PlannedShower } from '@careful-seam/core/plan/planOf';
import type { DataSource } from 'typeorm';
import { isOfCrew } from '../showers/showerRows';
import { firmDays } from './firmPlan';

/** What the lowest stage that is open waits for. */
function waitsOf({ ahead, goods }: PlannedShower, nowMs: number): CrewPlanLine['waits'] {
  const stage = ahead.stages[0]!;
  if (ahead.flood) return 'water';
  if (stage.step === 'put-right') return 'put-right';
  if (stage.step === 'to-build') return goods[stage.key] ? 'goods' : 'crew';
  return stage.wait && stage.wait.likelyMs > nowMs ? 'cure' : 'look';
}

/** What a crew is told of its showers: when an inspector comes and what must be ready, what may go on, by the same plan as the inspectors' ways. */
export async function crewPlan(store: DataSource, crewId: string | null, now: Date): Promise<CrewPlan> {
  const { plan, days } = await firmDays(store, now);
  const comes = new Map<string, { ms: number; who: string }>();
  for (const { id, name } of plan.inspectors) {
    const { route } = days.get(id)!;
    for (const [k, shower] of route.order.entries()) comes.set(shower, { ms: route.begins[k]!, who: name });
  }
  const lines = plan.planned
    .filter(({ ahead }) => crewId === null || isOfCrew(plan.rows.get(ahead.id)!, crewId))
    .map((shower): CrewPlanLine => {
      const { ahead, plan: its } = shower;
      const [stage, next] = [ahead.stages[0]!, ahead.stages[1]];
      return {
        shower: ahead.id,
        name: ahead.name,
        job: ahead.job,
        timeZone: ahead.timeZone,
        stage: stage.key,
        label: stage.label,
        comesMs: comes.get(ahead.id)?.ms ?? null,
        inspector: comes.get(ahead.id)?.who ?? null,
        waits: waitsOf(shower, plan.nowMs),
        overMs: ahead.flood?.endMs ?? stage.wait?.likelyMs ?? null,
        heatWinsHours: stage.wait?.heatWinsHours ?? 0,
        next: next ? { stage: next.key, label: next.label, fromMs: its.stages[1]!.likelyMs } : null,
        readyMs: its.readyMs,
      };
    })
    .sort((a, b) => (a.comesMs ?? Infinity) - (b.comesMs ?? Infinity) || a.readyMs - b.readyMs);
  return { lines, madeMs: plan.nowMs };
}
