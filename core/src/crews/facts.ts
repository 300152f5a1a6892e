import type { Defect } from '../log/defect';
import type { Entry } from '../log/entry';
import { compareEntries } from '../log/order';
import { type Evidence, instantOf, type ShowerState } from '../log/state';
import { type DefectStep, defectStep, repeatsOf } from '../proof/holds/defectLife';
import { isOf } from '../rules/checks/check';
import type { Severity } from '../rules/checks/checkBase';
import { countedAs } from '../rules/listed';
import { findCheck, findStage } from '../rules/ruleBook';
import { type Stretch, totalMm, union } from '../shower/seams/intervals';
import { type ElementGroup, elementGroup } from './elementGroup';
import { type FoundFact, foundOf } from './found';
import { crewAt, makerOf, stageMadeOf } from './maker';

/** Goes up when the same entries may give other facts: all showers are worked out again then. */
export const FACTS_VERSION = 1;

/** A defect as it is counted across showers. Moments are ms since 1970, days those of the site, ISO 8601. */
export interface DefectFact {
  /** The entry that it was found by. */
  id: string;
  /** Who made it. */
  madeBy: 'crew' | 'trade' | 'house' | 'unknown';
  /** The crew that made it; null where it was no crew of the firm. */
  crew: string | null;
  /** The other trade, in words; null where it was none. */
  trade: string | null;
  /** Somebody said who made it; else it follows from the work that was told. */
  madeByTold: boolean;
  /** The crew that it was given to last; null where it was given to none. */
  fixer: string | null;
  /** Name of who found it. */
  inspector: string;
  /** Stage it was made at. */
  stageMade: string;
  /** Stage it was found at. */
  stageFound: string;
  /** What it lies on. */
  group: ElementGroup;
  /** Id of the first element that it lies on. */
  element: string;
  /** Kind, after mergers; empty where it has none. */
  kind: string;
  /** The check that found it; empty where somebody saw it. */
  check: string;
  /** What it stops. */
  severity: Severity;
  /** Family of causes, after mergers; empty while nobody said. */
  cause: string;
  /** How sure that is; empty while nobody said. */
  sure: string;
  /** Why the check before did not catch it, after mergers; empty while nobody said. */
  escape: string;
  /** Where it stands on its way. */
  step: DefectStep;
  /** The method that the shower is built by; empty without rules. */
  method: string;
  /** When it was found. */
  foundMs: number;
  /** The day at the site. */
  foundOn: string;
  /** When it was given to a crew first; null while it was not. */
  assignedMs: number | null;
  /** When it was closed; null while it is open. */
  closedMs: number | null;
  /** Hours it took to put right; null while nobody said. */
  hours: number | null;
  /** Materials it took, in the firm's money; null while nobody said. */
  materials: number | null;
  /** Earlier defects of the same place. */
  repeats: number;
  /** What was said of it. */
  words: string;
}

/** How much a day added to what was ever looked at: these sum, and nothing counts twice. */
export interface InspectedFact {
  /** Key of the stage. */
  stage: string;
  /** What was looked at. */
  group: ElementGroup;
  /** Day at the site, ISO 8601. */
  day: string;
  /** The crew whose work it was. */
  crew: string;
  /** Seam that was not looked at before, mm. */
  mm: number;
  /** Corners, openings, drains, faces that were not looked at before. */
  points: number;
}

/** The same, for one check. */
export interface PassFact extends Omit<InspectedFact, 'crew'> {
  /** Id of the check. */
  check: string;
}

/** How long people were at a stage. */
export interface MinutesFact {
  /** Key of the stage; empty for what belongs to none. */
  stage: string;
  /** Day at the site, ISO 8601. */
  day: string;
  /** Minutes between entries that followed each other. */
  minutes: number;
}

/** All that is counted of one shower. */
export interface Facts {
  defects: DefectFact[];
  inspected: InspectedFact[];
  passes: PassFact[];
  minutes: MinutesFact[];
  found: FoundFact[];
}

/** A day at the site, ISO 8601, of a moment in ms since 1970. */
export type DayOf = (ms: number) => string;

/** What a reading speaks for to each side where its check does not say, mm [common practice, no source]. */
const SPEAKS_FOR_MM = 150;
/** A longer pause between two entries was something else, ms [common practice, no source]. */
const PAUSE_MS = 10 * 60_000;

/** When an entry was made, as far as the clocks of devices can be trusted. */
const momentOf = (state: ShowerState, entry: string, observedAt: string): number =>
  instantOf(state, { id: entry, observedAt });

/** One defect. */
function defectFact(state: ShowerState, defect: Defect, dayOf: DayOf): DefectFact {
  const book = state.rules?.book;
  const { madeBy, from } = makerOf(state, defect);
  const element = defect.places[0]?.element ?? '';
  const foundMs = momentOf(state, defect.id, defect.observedAt);
  const given = defect.assignments[0];
  return {
    id: defect.id,
    madeBy: madeBy.of,
    crew: madeBy.of === 'crew' ? madeBy.crewId : null,
    trade: madeBy.of === 'trade' ? madeBy.trade : null,
    madeByTold: from === 'told',
    fixer: defect.assignments.at(-1)?.crewId ?? null,
    inspector: defect.author,
    stageMade: stageMadeOf(state, defect),
    stageFound: defect.stage,
    group: elementGroup(state.geometry?.model ?? null, element),
    element,
    kind: defect.kind === null ? '' : countedAs(book?.defectKinds ?? [], defect.kind),
    check: defect.check ?? '',
    severity: defect.severity,
    cause: defect.cause ? countedAs(book?.causes ?? [], defect.cause.family) : '',
    sure: defect.cause?.confidence ?? '',
    escape: defect.escape ? countedAs(book?.escapes ?? [], defect.escape.family) : '',
    step: defectStep(defect),
    method: state.rules?.pinned.method ?? '',
    foundMs,
    foundOn: dayOf(foundMs),
    assignedMs: given ? Date.parse(given.observedAt) : null,
    closedMs: defect.closedAt === null ? null : Math.max(foundMs, Date.parse(defect.closedAt)),
    hours: defect.cost?.hours ?? null,
    materials: defect.cost?.materials ?? null,
    repeats: repeatsOf(state, defect).length,
    words: defect.words,
  };
}

/** True for evidence that somebody had the place before them, whatever they found. */
const wasLookedAt = (e: Evidence): boolean => e.kind === 'reading' || e.answer === 'ok' || e.answer === 'defect';

/** The stretch of a seam that a piece of evidence speaks for; null for what has no length. */
function stretchSeen(state: ShowerState, e: Evidence): Stretch | null {
  const seam = state.seamById.get(e.element);
  if (!seam) return null;
  if (e.kind === 'look') return e.stretch;
  const stage = state.rules && findStage(state.rules.method, e.stage);
  const check = stage && findCheck(stage, e.check);
  const speaks = check && isOf(check, 'measured') ? check.pattern.speaksForMm : SPEAKS_FOR_MM;
  return { fromMm: Math.max(0, e.atMm - speaks), toMm: Math.min(seam.lengthMm, e.atMm + speaks) };
}

/** What was ever seen under a key, and how much a piece of evidence adds to it. */
function seenSoFar() {
  const seen = new Map<string, Stretch[]>();
  return (key: string, stretch: Stretch | null): { mm: number; points: number } => {
    const before = seen.get(key);
    if (stretch === null) {
      if (before) return { mm: 0, points: 0 };
      seen.set(key, []);
      return { mm: 0, points: 1 };
    }
    const whole = before?.find((s) => s.fromMm <= stretch.fromMm && s.toMm >= stretch.toMm);
    if (whole) return { mm: 0, points: 0 };
    const all = union([...(before ?? []), stretch]);
    seen.set(key, all);
    return { mm: totalMm(all) - totalMm(before ?? []), points: 0 };
  };
}

/** Rows by their key; what is added to a row that is there already adds to it. */
class Rows<T extends { mm: number; points: number }> {
  private readonly rows = new Map<string, T>();

  /** Adds to the row of a key, made where it is new; nothing makes no row. */
  add(key: string, added: { mm: number; points: number }, make: () => Omit<T, 'mm' | 'points'>): void {
    if (added.mm === 0 && added.points === 0) return;
    const known = this.rows.get(key);
    if (!known) {
      this.rows.set(key, { ...make(), ...added } as T);
      return;
    }
    known.mm += added.mm;
    known.points += added.points;
  }

  list(): T[] {
    return [...this.rows.values()];
  }
}

/** The day of each entry, worked out once: a look of a whole stage is hundreds of pieces of evidence. */
function daysOf(state: ShowerState, dayOf: DayOf): (e: Evidence) => string {
  const known = new Map<string, string>();
  return (e) => {
    const day = known.get(e.entry) ?? dayOf(momentOf(state, e.entry, e.observedAt));
    known.set(e.entry, day);
    return day;
  };
}

/** What each day added to what was looked at, for each stage and for each check. */
function inspections(state: ShowerState, dayOf: DayOf): Pick<Facts, 'inspected' | 'passes'> {
  const model = state.geometry?.model ?? null;
  const own = state.created?.body.crewId ?? '';
  const onDay = daysOf(state, dayOf);
  const [byStage, byCheck] = [new Rows<InspectedFact>(), new Rows<PassFact>()];
  for (const [element, list] of state.evidence) {
    const group = elementGroup(model, element);
    const [seenAt, seenBy] = [seenSoFar(), seenSoFar()];
    for (const e of list) {
      if (!wasLookedAt(e)) continue;
      const { stage, check } = e;
      const day = onDay(e);
      const stretch = stretchSeen(state, e);
      const crew = crewAt(state, stage, e.seq) ?? own;
      byStage.add(`${stage}\n${group}\n${day}\n${crew}`, seenAt(stage, stretch), () => ({ stage, group, day, crew }));
      byCheck.add(`${stage}\n${check}\n${group}\n${day}`, seenBy(`${stage}\n${check}`, stretch), () => ({
        stage,
        check,
        group,
        day,
      }));
    }
  }
  return { inspected: byStage.list(), passes: byCheck.list() };
}

/** The stage that an entry speaks of; null where it speaks of none by itself. */
function stageOfEntry(state: ShowerState, e: Entry): string | null {
  if ('stage' in e.body && typeof e.body.stage === 'string') return e.body.stage;
  if ('defect' in e.body && typeof e.body.defect === 'string') return state.defects.get(e.body.defect)?.stage ?? null;
  return null;
}

/** Minutes between entries that one device wrote one after the other; a long pause counts for nothing. */
function minutesAt(state: ShowerState, entries: readonly Entry[], dayOf: DayOf): MinutesFact[] {
  const last = new Map<string, { ms: number; stage: string }>();
  const rows = new Map<string, MinutesFact>();
  for (const e of [...entries].sort(compareEntries)) {
    const ms = momentOf(state, e.id, e.observedAt);
    const before = last.get(e.deviceId);
    const stage = stageOfEntry(state, e) ?? before?.stage ?? '';
    last.set(e.deviceId, { ms, stage });
    if (!before || ms <= before.ms || ms - before.ms > PAUSE_MS) continue;
    const day = dayOf(ms);
    const key = `${stage}\n${day}`;
    const row = rows.get(key) ?? { stage, day, minutes: 0 };
    row.minutes += (ms - before.ms) / 60_000;
    rows.set(key, row);
  }
  return [...rows.values()];
}

/**
 * What is counted of one shower, from its folded state and its entries: it can be thrown away and worked out again. `dayOf` gives the day at
 * the site. Corrections, redos and new dimensions are in the state already: nothing here reads a body by itself.
 */
export function factsOf(state: ShowerState, entries: readonly Entry[], dayOf: DayOf): Facts {
  return {
    defects: [...state.defects.values()].map((d) => defectFact(state, d, dayOf)),
    ...inspections(state, dayOf),
    minutes: minutesAt(state, entries, dayOf),
    found: foundOf(state),
  };
}
