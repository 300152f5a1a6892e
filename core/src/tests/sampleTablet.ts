import { judge } from '../checks/judge';
import { placeOf } from '../checks/place';
import type { Body, EntryKind } from '../log/bodies';
import type { Author, Entry } from '../log/entry';
import type { Requirement } from '../log/judgement';
import type { Arrivals, ShowerState } from '../log/state';
import { type ChainEnd, writeEntry } from '../log/writeEntry';
import { patternPlaces } from '../membrane/laps';
import { foldShower } from '../proof/fold/foldShower';
import type { MeasuredCheck } from '../rules/checks/measured';
import { sampleBook } from './sampleBook';
import { type SampleOptions, sampleShower } from './sampleShower';

export const BOOK = sampleBook();
export const SHOWER = '11111111-1111-4111-8111-111111111111';
export const INSPECTOR: Author = { id: 'person-inspector', name: 'Ada Test', role: 'inspector' };
export const MANAGER: Author = { id: 'person-manager', name: 'Bo Test', role: 'manager' };
export const CREW: Author = { id: 'person-crew', name: 'Cy Test', role: 'crew-lead' };

const uuid = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
let nextId = 1;

export const fold = (entries: readonly Entry[], arrivals?: Arrivals): ShowerState =>
  foldShower(entries, (id, version) => (id === BOOK.id && version === BOOK.version ? BOOK : null), arrivals);

/** The two answers that a defect ends with. */
export const BOTH_ANSWERS = {
  cause: { family: 'workmanship', confidence: 'suspected' },
  escape: { family: 'not-noticed' },
} as const;

/** What the crew says is written as the crew, on whichever tablet a test writes it. */
const SAID_BY_CREW: readonly EntryKind[] = ['work-done', 'look-requested', 'defect-answered'];

/** A tablet in a test: writes entries of its own chain; `hears` moves its clock past what others wrote. */
export interface Tablet {
  entries: Entry[];
  write: <K extends EntryKind>(kind: K, body: Body<K>) => string;
  hears: (others: readonly Entry[]) => void;
  /** Moves the tablet's clock on to a moment, ms since 1970; an earlier one changes nothing. */
  until: (ms: number) => void;
  /** The tablet's clock, ms since 1970. */
  nowMs: () => number;
}

/** When the tablets of the tests begin, ms since 1970. */
export const CLOCK = 1_700_000_000_000;

export function tablet(deviceNumber: number, clockMs = CLOCK, author = INSPECTOR): Tablet {
  let end: ChainEnd = { deviceId: uuid(900_000 + deviceNumber), deviceSeq: 0, prevDeviceHash: null, lastOrderAt: null };
  let nowMs = clockMs;
  let geometryVersion = 1;
  const entries: Entry[] = [];
  return {
    entries,
    write: (kind, body) => {
      nowMs += 1000;
      nextId += 1;
      if (kind === 'geometry-set') geometryVersion = (body as Body<'geometry-set'>).version;
      const written = writeEntry(
        {
          id: uuid(nextId),
          showerId: SHOWER,
          kind,
          body,
          author: author === INSPECTOR && SAID_BY_CREW.includes(kind) ? CREW : author,
          geometryVersion,
          nowMs,
          offsetMinutes: 0,
        },
        end,
      );
      end = written.end;
      entries.push(written.sealed.entry);
      return written.sealed.entry.id;
    },
    hears: (others) => {
      for (const e of others)
        if (end.lastOrderAt === null || e.orderAt > end.lastOrderAt) end = { ...end, lastOrderAt: e.orderAt };
    },
    until: (ms) => {
      nowMs = Math.max(nowMs, ms);
    },
    nowMs: () => nowMs,
  };
}

/** A tablet with a shower already drawn and the rules pinned. */
export function begun(options: SampleOptions = {}, deviceNumber = 1): Tablet {
  const t = tablet(deviceNumber);
  t.write('shower-created', { name: 'Test shower', job: 'Test job', crewId: 'crew', timeZone: 'UTC' });
  t.write('geometry-set', { version: 1, geometry: sampleShower(options) });
  t.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' });
  return t;
}

export { placeOf };

export const seamId = (state: ShowerState, part: string): string => {
  const found = [...state.seamById.keys()].find((id) => id.includes(part));
  if (!found) throw new Error(`no seam like ${part}`);
  return found;
};

/** Where readings are still wanted by a check's pattern alone, given those that were taken. */
const wantedAt = (r: Requirement, { pattern }: MeasuredCheck, taken: readonly number[]): number[] =>
  r.hasLength
    ? patternPlaces(r.lengthMm, pattern, taken)
    : Array<number>(Math.max(0, pattern.readingsAtLeast - taken.length)).fill(0);

/** Answers everything a stage asks, soundly. */
export function pass(t: Tablet, stage: string, skip: (r: Requirement) => boolean = () => false): void {
  const before = fold(t.entries);
  const asked = before.requirements.filter((x) => x.stage.key === stage && !skip(x));
  const read = (r: Requirement, check: MeasuredCheck, atMm: number) => {
    const { atLeastMm, atMostMm } = check.limit;
    const valueMm = atMostMm === undefined ? (atLeastMm ?? 0) + 5 : ((atLeastMm ?? 0) + atMostMm) / 2;
    t.write('reading', {
      stage,
      check: check.id,
      place: placeOf(before, r.element, r.side ? { side: r.side } : {}),
      atMm,
      valueMm,
      typed: String(valueMm),
      instrument: 'tape',
    });
  };
  for (const r of asked) {
    t.write('look', { stage, checks: [r.check.id], places: [placeOf(before, r.element)], answer: 'ok' });
    if (r.check.kind !== 'measured') continue;
    const taken = judge(before, r).readings.map((e) => e.atMm);
    for (const atMm of wantedAt(r, r.check, taken)) read(r, r.check, atMm);
  }
  // What was built again wants readings of its own.
  for (let k = 0; k < 20; k += 1) {
    const now = fold(t.entries);
    const left = asked.flatMap((r) => {
      const { nextAtMm } = judge(now, r);
      return r.check.kind === 'measured' && nextAtMm !== null ? [{ r, check: r.check, nextAtMm }] : [];
    });
    if (left.length === 0) return;
    for (const { r, check, nextAtMm } of left) read(r, check, nextAtMm);
  }
}

/** What others write on a tablet of their own, having heard everything so far; the first tablet hears them too. */
export function byOther(t: Tablet, author: Author, write: (other: Tablet) => void): void {
  const other = tablet(nextId + 1_000_000, t.nowMs(), author);
  other.hears(t.entries);
  write(other);
  t.hears(other.entries);
  t.entries.push(...other.entries);
  t.until(other.nowMs());
}

export const STAGES = ['base', 'boards', 'penetrations', 'curb', 'membrane', 'drain-tie-in'];

export function releaseBody(stage: string, upholds?: string): Body<'stage-released'> {
  return {
    stage,
    judged: { ledgerSeq: 0, ledgerHash: '', deviceSeq: 0 },
    inputs: [],
    verdicts: {},
    ruleVersion: BOOK.version,
    calculations: {},
    ...(upholds ? { upholds } : {}),
  };
}

/** Climbs the ladder: each stage below `upTo` passed and released. */
export function climb(t: Tablet, upTo: string): void {
  for (const stage of STAGES.slice(0, STAGES.indexOf(upTo))) {
    pass(t, stage);
    t.write('stage-released', releaseBody(stage));
  }
}

export function lapReading(t: Tablet, element: string, side: string | null, atMm: number, valueMm: number): string {
  const state = fold(t.entries);
  return t.write('reading', {
    stage: 'membrane',
    check: 'lap',
    place: placeOf(state, element, side ? { side } : {}),
    atMm,
    valueMm,
    typed: String(valueMm),
    instrument: 'tape',
  });
}

/** Says of places that something does not apply there; gives the look's id. */
export const notApplicable = (t: Tablet, stage: string, checks: string[], elements: string[]): string =>
  t.write('look', {
    stage,
    checks,
    places: elements.map((e) => placeOf(fold(t.entries), e)),
    answer: 'not-applicable',
    reason: 'it is so',
  });
