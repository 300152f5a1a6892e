import { type ShowerDay, showerDay } from '@careful-seam/core/plan/dayWindows';
import { openLookRequests } from '@careful-seam/core/proof/holds/lookRequests';
import { blockersOf } from '@careful-seam/core/proof/holds/release';
import { buildLedger, currentStage } from '@careful-seam/core/proof/shown/seamLine';
import { floodCheckOf } from '@careful-seam/core/rules/ruleBook';
import { useMemo } from 'react';
import type { LocalShower } from '../../tablet/store';
import { crewMorning } from './dayAxis';

/** How a shower stands, in the words of its row. */
export function useSummary(shower: LocalShower) {
  return useMemo(() => {
    const { state } = shower;
    const stage = currentStage(state);
    if (!stage || !state.rules) return null;
    const word = state.stages.get(stage)?.word ?? 'open';
    return {
      label: state.rules.method.stages.find((s) => s.key === stage)!.label,
      word,
      water: floodCheckOf(state.rules.method)?.stage.key === stage && state.flood?.running === true,
      left: word === 'open' ? 0 : blockersOf(state, stage).length,
      asked: openLookRequests(state).at(-1) ?? null,
      contested: [...state.stages].find(([, s]) => s.word === 'contested')?.[0] ?? null,
      hold: [...state.defects.values()].some((d) => d.closedAt === null && d.severity !== 'note'),
      figures: buildLedger(state, [stage]).figures,
    };
  }, [shower]);
}
/** Days already worked out: only a shower that changed is worked out again. */
const known = new WeakMap<LocalShower['state'], ShowerDay>();
/** The windows of a shower on the day of its site. */
export function dayOf(state: LocalShower['state'], zone: string): ShowerDay {
  const day = known.get(state) ?? showerDay(state, crewMorning(zone));
  known.set(state, day);
  return day;
}
