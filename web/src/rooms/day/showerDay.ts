import { type ShowerDay, showerDay } from '@careful-seam/core/plan/dayWindows';
import type { LocalShower } from '../../tablet/store';
import { crewMorning } from './dayAxis';

/** Days already worked out: only a shower that changed is worked out again. */
const known = new WeakMap<LocalShower['state'], ShowerDay>();
/** The windows of a shower on the day of its site. */
export function dayOf(state: LocalShower['state'], zone: string): ShowerDay {
  const day = known.get(state) ?? showerDay(state, crewMorning(zone));
  known.set(state, day);
  return day;
}

/** The same with its running cure to the moment that the plan expects, in the air of the days before; null: as it is. */
export const withCure = (day: ShowerDay, untilMs: number | null): ShowerDay =>
  untilMs === null
    ? day
    : {
        ...day,
        windows: day.windows.map((w) => (w.kind === 'cure' ? { ...w, toMs: Math.max(w.fromMs, untilMs) } : w)),
      };
