import type { Judgement, Requirement } from '../log/judgement';
import type { Place } from '../log/places';
import type { Evidence, ShowerState } from '../log/state';
import { patternPlaces } from '../membrane/laps';
import { tapePlace } from '../membrane/tapePlace';
import { isOf } from '../rules/checks/check';
import { type Thing, turning } from '../shower/map/turning';
import { type Stretch, subtract } from '../shower/seams/intervals';
import { evidenceOn, isLeftOpen, judge } from './judge';
import { judgeOf } from './judges';
import { judgeLooks } from './looks';
import { placeOf } from './place';

/** Checks that one look answers at the same places. */
export interface LookGroup {
  /** Ids of the checks. */
  checks: string[];
  /** Where. */
  places: Place[];
}

/** One stop of a walk through a stage. */
export interface Stop {
  /** What it is called in an address; stays the same while the drawing does. */
  key: string;
  /** The thing that one stands before. */
  thing: Thing;
  /** What is asked here: readings of one check on one side, one told figure, looks at the whole thing, or work of its own. */
  asks: 'reading' | 'figure' | 'look' | 'work';
  /** What is asked, as it stands: of a look all that it would answer. */
  judgements: Judgement[];
  /** What a look here would answer; empty for all else. */
  groups: LookGroup[];
  /** Something is still asked. What could not be seen is set aside and does not ask again. */
  isOpen: boolean;
}

/** More readings than the pattern asks that somebody wants of a requirement in all. */
export type Planned = (requirement: Requirement) => number | null;

/** What is asked of a requirement by looks and was not answered at all, not even with "could not see". */
function unanswered(state: ShowerState, { requirement, missing }: Judgement): Stretch[] {
  const { setAside } = judgeLooks(requirement, evidenceOn(state, requirement).looks);
  return subtract(missing, setAside);
}

/** True where the last word on all of it is that it could not be seen, or waits for a manager. */
function isSetAside(state: ShowerState, judgement: Judgement): boolean {
  const { looks, readings } = evidenceOn(state, judgement.requirement);
  const seq = (all: readonly Evidence[]) => all.at(-1)?.seq ?? -1;
  const { setAside } = judgeLooks(judgement.requirement, looks);
  return (
    seq(looks) > seq(readings) && subtract([{ fromMm: 0, toMm: judgement.requirement.lengthMm }], setAside).length === 0
  );
}

/** Whether a requirement that is answered by itself still asks. */
function asksAlone(state: ShowerState, j: Judgement, asks: Stop['asks'], planned: Planned): boolean {
  if (isLeftOpen(j)) return false;
  if (asks === 'work') return !j.satisfied;
  if (isSetAside(state, j)) return false;
  if (asks === 'figure') return !j.satisfied && j.missing.length > 0;
  return (!j.satisfied && j.nextAtMm !== null) || j.readings.length < (planned(j.requirement) ?? 0);
}

/** Stretches as text, to find places at which the same is missing. */
const told = (stretches: readonly Stretch[]): string => stretches.map((s) => `${s.fromMm}-${s.toMm}`).join(' ');

/** What one look at a thing answers: exactly what was not answered yet, each place with its checks. */
function groupsAt(state: ShowerState, judgements: readonly Judgement[]): LookGroup[] {
  const groups = new Map<string, LookGroup>();
  const byElement = new Map<string, Judgement[]>();
  for (const j of judgements)
    byElement.set(j.requirement.element, [...(byElement.get(j.requirement.element) ?? []), j]);
  for (const [element, list] of byElement) {
    const checksAt = new Map<string, { checks: Set<string>; stretches: Stretch[]; lengthMm: number }>();
    for (const j of list) {
      const stretches = unanswered(state, j);
      if (stretches.length === 0) continue;
      const at = checksAt.get(told(stretches)) ?? { checks: new Set(), stretches, lengthMm: j.requirement.lengthMm };
      at.checks.add(j.requirement.check.id);
      checksAt.set(told(stretches), at);
    }
    for (const { checks, stretches, lengthMm } of checksAt.values()) {
      const key = [...checks].join(' ');
      const group = groups.get(key) ?? { checks: [...checks], places: [] };
      const isWhole = subtract([{ fromMm: 0, toMm: lengthMm }], stretches).length === 0;
      if (isWhole) group.places.push(placeOf(state, element));
      else group.places.push(...stretches.map((s) => placeOf(state, element, s)));
      groups.set(key, group);
    }
  }
  return [...groups.values()];
}

/** The name of a stop: the element with its check and side, or the thing that is looked at. */
const keyOf = (element: string, ...more: (string | null)[]): string => [element, ...more].filter(Boolean).join('~');

/** What is measured along the floor's edge and lies on neither side of it: one turn round the floor looks at all of it. */
function isOfFloor(state: ShowerState, { requirement: { check, element, side } }: Judgement): boolean {
  return side === null && isOf(check, 'measured') && (state.seamById.get(element)?.faces.includes('floor') ?? false);
}

/**
 * The stops of a walk through a stage in the order in which a person turns in the shower: at each thing its readings and
 * figures element by element, then one look at all of it; last the work that has a screen of its own. Ways of building are
 * no stops: they are told once for a stage. `planned` asks for more readings than the pattern does.
 */
export function walk(state: ShowerState, stage: string, planned: Planned = () => null): Stop[] {
  const byElement = new Map<string, Judgement[]>();
  for (const r of state.requirements)
    if (r.stage.key === stage) byElement.set(r.element, [...(byElement.get(r.element) ?? []), judge(state, r)]);
  const stops: Stop[] = [];
  const works = new Map<string, Stop>();
  const isLooked = ({ requirement: { check } }: Judgement) => judgeOf(check).wantsLook?.(check) === true;
  const things = turning(state.geometry!.model).map((thing) => {
    const here = thing.elements.flatMap((element) => byElement.get(element) ?? []);
    const looked = here.filter(isLooked);
    // Where a wall is looked at anyway its foot is looked at with it.
    return { thing, here, looked: looked.every((j) => isOfFloor(state, j)) ? [] : looked, left: looked };
  });
  const round = things.flatMap(({ looked, left }) => (looked.length === 0 ? left : []));
  for (const { thing, here, looked: own } of things) {
    for (const j of here) {
      const { check, element, side } = j.requirement;
      const by = judgeOf(check).answeredBy(check);
      if (by === 'look' || by === 'way') continue;
      const stop: Stop = {
        key: keyOf(element, check.id, side),
        thing,
        asks: by,
        judgements: [j],
        groups: [],
        isOpen: asksAlone(state, j, by, planned),
      };
      if (by !== 'work') stops.push(stop);
      // A screen of its own answers for all that it is asked of.
      else if (!works.has(check.kind) || (stop.isOpen && !works.get(check.kind)!.isOpen)) works.set(check.kind, stop);
    }
    const looked = thing.kind === 'floor' ? [...own, ...round] : own;
    const groups = groupsAt(state, looked);
    if (looked.length > 0)
      stops.push({
        key: keyOf(thing.id, 'look'),
        thing,
        asks: 'look',
        judgements: looked,
        groups,
        isOpen: groups.length > 0,
      });
  }
  return [...stops, ...works.values()];
}

/** Where a walk goes on: the first stop from `from` on that asks something and was not skipped; null at the end of the way. */
export function stopFrom(
  stops: readonly Stop[],
  from: string | null,
  skipped: ReadonlySet<string> = new Set(),
): Stop | null {
  const at = Math.max(
    0,
    stops.findIndex((s) => s.key === from),
  );
  return stops.slice(at).find((s) => s.isOpen && !skipped.has(s.key)) ?? null;
}

/** The stop at which the last word of a stage was said, by its key; null where nothing was said yet. */
export function lastStop(state: ShowerState, stage: string, stops: readonly Stop[]): string | null {
  let last: { key: string; seq: number } | null = null;
  for (const stop of stops) {
    for (const { requirement } of stop.judgements) {
      const { looks, readings } = evidenceOn(state, requirement);
      for (const e of stop.asks === 'reading' ? readings : looks)
        if (e.stage === stage && (last === null || e.seq >= last.seq)) last = { key: stop.key, seq: e.seq };
    }
  }
  return last?.key ?? null;
}

/** A place at which a reading is still wanted. */
export interface RestPlace {
  /** What is read there, with its side. */
  requirement: Requirement;
  /** Where along the seam, mm; 0 where it has no length. */
  atMm: number;
}

/** Where one requirement still wants readings, on whole marks of a tape, until its pattern is met, mm. */
function wantedPlaces({ requirement, readings, nextAtMm }: Judgement, markMm: number): number[] {
  const { check, lengthMm, hasLength } = requirement;
  if (nextAtMm === null || !isOf(check, 'measured')) return [];
  const { pattern } = check;
  if (!hasLength) return Array<number>(Math.max(1, pattern.readingsAtLeast - readings.length)).fill(0);
  const taken = readings.map((r) => Math.min(r.atMm, lengthMm));
  const places: number[] = [];
  for (let next: number | undefined = nextAtMm; next !== undefined; [next] = patternPlaces(lengthMm, pattern, taken)) {
    const at = tapePlace({ lengthMm, pattern, taken, nextAtMm: next, markMm });
    places.push(at);
    taken.push(at);
  }
  return places;
}

/** Things that are small enough for a hand to measure all of before it tells: elsewhere it is the element. */
const IN_REACH: readonly Thing['kind'][] = ['niche', 'bench', 'drain'];

/**
 * What is left to read of a stop's check within reach of it: on all sides of the same seam, and of a niche, a bench or the drain
 * on all of it. `lastMm` is what was read there last, and null while nothing was: a hand measures once before it may say that
 * the others are the same. Empty where what was read there fails. Lengths in mm.
 */
export function restWithin(
  stops: readonly Stop[],
  stop: Stop,
  markMm: number,
): { lastMm: number | null; rest: RestPlace[] } {
  const { check, element } = stop.judgements[0]!.requirement;
  const inReach = stops
    .filter((s) => s.asks === 'reading' && s.thing.id === stop.thing.id)
    .flatMap((s) => s.judgements.map((j) => ({ j, isOpen: s.isOpen })))
    .filter(({ j }) => j.requirement.check.id === check.id)
    .filter(({ j }) => IN_REACH.includes(stop.thing.kind) || j.requirement.element === element);
  if (inReach.some(({ j }) => j.verdict === 'fail')) return { lastMm: null, rest: [] };
  const readings = inReach.flatMap(({ j }) => j.readings);
  const last = readings.reduce<Evidence | null>((a, b) => (a && a.seq >= b.seq ? a : b), null);
  const rest = inReach
    .filter(({ isOpen }) => isOpen)
    .flatMap(({ j }) => wantedPlaces(j, markMm).map((atMm) => ({ requirement: j.requirement, atMm })));
  return { lastMm: last?.valueMm ?? null, rest };
}
