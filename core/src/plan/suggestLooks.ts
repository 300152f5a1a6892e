import { addDaysTo } from './workCalendar';

/** Another job on the same day costs as much as so many minutes of looks [own choice]. */
const NEW_JOB_MINUTES = 30;
/** An inspector who knows the job is as good as so many minutes less [own choice]. */
const KNOWN_JOB_MINUTES = 20;
/** Days that a look is put off at most to find somebody. */
const PUT_OFF_AT_MOST = 10;

/** A look that somebody is to be set to. */
export interface OpenLook {
  shower: string;
  job: string;
  /** ISO day on which it can be looked at first. */
  lookOn: string;
  minutes: number;
  /** Who is set to it already; null for nobody. */
  inspectorId: string | null;
  visitOn: string | null;
}

/** Somebody who looks. */
export interface Looker {
  id: string;
  /** ISO days off. */
  away: readonly string[];
  /** Jobs that this person looked at before. */
  knows: readonly string[];
}

/** Who looks at what, and when. */
export interface SuggestedLook {
  shower: string;
  inspectorId: string;
  visitOn: string;
}

/** What somebody does on a day. */
interface Load {
  minutes: number;
  jobs: Set<string>;
}

/**
 * Sets open looks to inspectors: the soonest first, each to whoever has the least to do that day, with as few jobs a day as can be and jobs that
 * one knows. What is set already stays and counts. `isWorkday` tells the firm's days off, `mostMinutes` is what fits a day: beyond it a look goes
 * to the next day. Looks that nobody can take within ten days are left out.
 */
export function suggestLooks(
  looks: readonly OpenLook[],
  lookers: readonly Looker[],
  isWorkday: (day: string) => boolean,
  mostMinutes: number,
): SuggestedLook[] {
  const loads = new Map<string, Load>();
  const loadOf = (who: string, day: string): Load => {
    const key = `${who} ${day}`;
    const load = loads.get(key) ?? { minutes: 0, jobs: new Set<string>() };
    loads.set(key, load);
    return load;
  };
  const note = (who: string, day: string, look: OpenLook) => {
    const load = loadOf(who, day);
    load.minutes += look.minutes;
    load.jobs.add(look.job);
  };
  for (const look of looks) if (look.inspectorId && look.visitOn) note(look.inspectorId, look.visitOn, look);
  const given = new Map<string, Set<string>>();
  const suggested: SuggestedLook[] = [];
  const open = looks.filter((l) => !l.inspectorId || !l.visitOn);
  for (const look of [...open].sort(
    (a, b) => a.lookOn.localeCompare(b.lookOn) || b.minutes - a.minutes || (a.shower < b.shower ? -1 : 1),
  )) {
    let best: { who: string; day: string; score: number } | null = null;
    for (let off = 0; off <= PUT_OFF_AT_MOST && best === null; off += 1) {
      const day = look.visitOn ?? addDaysTo(look.lookOn, off);
      if (!isWorkday(day)) {
        if (look.visitOn) break;
        continue;
      }
      for (const { id, away, knows } of lookers) {
        if (away.includes(day) || (look.inspectorId !== null && look.inspectorId !== id)) continue;
        const load = loadOf(id, day);
        if (load.minutes > 0 && load.minutes + look.minutes > mostMinutes) continue;
        const isKnown = knows.includes(look.job) || given.get(id)?.has(look.job) === true;
        const score =
          load.minutes + (load.jobs.has(look.job) ? 0 : NEW_JOB_MINUTES) - (isKnown ? KNOWN_JOB_MINUTES : 0);
        if (best === null || score < best.score) best = { who: id, day, score };
      }
      if (look.visitOn) break;
    }
    if (!best) continue;
    note(best.who, best.day, look);
    given.set(best.who, (given.get(best.who) ?? new Set()).add(look.job));
    suggested.push({ shower: look.shower, inspectorId: best.who, visitOn: best.day });
  }
  return suggested;
}
