import { judge } from '@careful-seam/core/checks/judge';
import type { Body, EntryKind } from '@careful-seam/core/log/bodies';
import type { SealedEntry } from '@careful-seam/core/log/chain';
import type { Requirement } from '@careful-seam/core/log/judgement';
import type { PhotoUse, Place } from '@careful-seam/core/log/places';
import type { ShowerState } from '@careful-seam/core/log/state';
import { type ChainEnd, writeEntry } from '@careful-seam/core/log/writeEntry';
import { patternPlaces } from '@careful-seam/core/membrane/laps';
import { type FindRuleBook, foldShower } from '@careful-seam/core/proof/fold/foldShower';
import { type Check, isOf } from '@careful-seam/core/rules/checks/check';
import type { MeasuredCheck } from '@careful-seam/core/rules/checks/measured';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import { v5 } from 'uuid';
import { CREWS, PEOPLE, type PersonKey } from './firm';
import { HIDDEN_PICTURE } from './hiddenPicture';

/** Of all ids: the same in each demo. */
const NAMESPACE = '2f0a5d0e-7c1b-4a61-9a55-0a8c1c7a5e10';
/** What a tape reads to, mm. */
const SIXTEENTH_MM = 25.4 / 16;

/** Writes one demo shower's entries as its people would have, each on a tablet of their own. */
export interface DemoWriter {
  /** The shower that it writes. */
  showerId: string;
  /** What was written so far, with who wrote it. */
  sealed: { person: PersonKey; sealed: SealedEntry }[];
  /** Pictures that its entries name. */
  photos: { hash: string; bytes: Buffer }[];
  /** Writes an entry as somebody; gives its id. */
  write: <K extends EntryKind>(person: PersonKey, kind: K, body: Body<K>) => string;
  /** What it comes to so far. */
  state: () => ShowerState;
  /** Lets minutes pass. */
  wait: (minutes: number) => void;
  /** The demo's own clock, ms since 1970. */
  nowMs: () => number;
  /** Waits until a moment, ms since 1970; an earlier one changes nothing. */
  until: (ms: number) => void;
  /** A whole number from 0 to most. */
  pick: (most: number) => number;
}

/** Somebody who writes a shower, on the clock of the demo. */
export function demoWriter(name: string, startMs: number, seed: number, find: FindRuleBook): DemoWriter {
  const showerId = v5(name, NAMESPACE);
  const rng = xoroshiro128plus(seed);
  const ends = new Map<PersonKey, ChainEnd>();
  const sealed: DemoWriter['sealed'] = [];
  let nowMs = startMs;
  let lastOrderAt: string | null = null;
  let geometryVersion = 0;
  const write: DemoWriter['write'] = (person, kind, body) => {
    nowMs += 20_000;
    const who = PEOPLE.find((p) => p.key === person)!;
    const end = ends.get(person) ?? {
      deviceId: v5(`tablet of ${person}`, NAMESPACE),
      deviceSeq: 0,
      prevDeviceHash: null,
      lastOrderAt,
    };
    const id = v5(`${name} ${sealed.length}`, NAMESPACE);
    if (kind === 'geometry-set') geometryVersion = (body as Body<'geometry-set'>).version;
    const written = writeEntry(
      {
        id,
        showerId,
        kind,
        body,
        author: { id: who.id, name: who.name, role: who.role },
        geometryVersion,
        nowMs,
        offsetMinutes: 0,
      },
      { ...end, lastOrderAt },
    );
    ends.set(person, written.end);
    lastOrderAt = written.end.lastOrderAt;
    sealed.push({ person, sealed: written.sealed });
    return id;
  };
  return {
    showerId,
    sealed,
    photos: [],
    write,
    state: () =>
      foldShower(
        sealed.map((s) => s.sealed.entry),
        find,
      ),
    wait: (minutes) => {
      nowMs += minutes * 60_000;
    },
    nowMs: () => nowMs,
    until: (ms) => {
      nowMs = Math.max(nowMs, ms);
    },
    pick: (most) => Math.abs(rng.next()) % (most + 1),
  };
}

/** A place as the tablet writes it, with the seam's length and start as drawn. */
export function placeOf(
  state: ShowerState,
  element: string,
  side: string | null = null,
  stretch?: { fromMm: number; toMm: number },
): Place {
  const seam = state.seamById.get(element);
  return {
    element,
    ...(side ? { side } : {}),
    ...(seam ? { lengthMm: seam.lengthMm, startKey: seam.startKey } : {}),
    ...stretch,
  };
}

/** A length as somebody would type it. */
const typed = (mm: number): string => `${mm / 25.4}`;

/** Where readings are still wanted by a check's pattern, given those that were taken. */
const wantedAt = (r: Requirement, { pattern }: MeasuredCheck, taken: readonly number[]): number[] =>
  r.hasLength
    ? patternPlaces(r.lengthMm, pattern, taken)
    : Array<number>(Math.max(0, pattern.readingsAtLeast - taken.length)).fill(0);

/** Reads a length at a place, a little inside its limit. */
function readAt(
  w: DemoWriter,
  person: PersonKey,
  r: Requirement,
  check: MeasuredCheck,
  atMm: number,
  state: ShowerState,
): void {
  const { atLeastMm, atMostMm } = check.limit;
  const roomMm = atMostMm === undefined ? 6 * SIXTEENTH_MM : (atMostMm - (atLeastMm ?? 0)) / 2;
  const valueMm = (atLeastMm ?? 0) + Math.round((w.pick(8) / 8) * (roomMm / SIXTEENTH_MM)) * SIXTEENTH_MM;
  w.write(person, 'reading', {
    stage: r.stage.key,
    check: check.id,
    place: placeOf(state, r.element, r.side),
    atMm,
    valueMm,
    typed: typed(valueMm),
    instrument: check.instrument,
  });
}

/** Readings that the judge still wants after the pattern is met are asked for so many times. */
const ROUNDS = 20;

/** Reads lengths until the pattern of each is met. The shower is worked out once a round: after each reading would take minutes. */
function readRequirements(w: DemoWriter, person: PersonKey, asked: readonly Requirement[]): void {
  const measured = asked.flatMap((r) => (isOf(r.check, 'measured') ? [{ r, check: r.check }] : []));
  if (measured.length === 0) return;
  const before = w.state();
  for (const { r, check } of measured) {
    const taken = judge(before, sameIn(before, r)).readings.map((e) => e.atMm);
    for (const atMm of wantedAt(r, check, taken)) readAt(w, person, r, check, atMm, before);
  }
  for (let k = 0; k < ROUNDS; k += 1) {
    const now = w.state();
    const left = measured.flatMap(({ r, check }) => {
      const { nextAtMm } = judge(now, sameIn(now, r));
      return nextAtMm === null ? [] : [{ r, check, nextAtMm }];
    });
    if (left.length === 0) return;
    for (const { r, check, nextAtMm } of left) readAt(w, person, r, check, nextAtMm, now);
  }
}

/** The same requirement in a state that was worked out later. */
const sameIn = (state: ShowerState, r: Requirement): Requirement =>
  state.requirements.find((x) => x.check.id === r.check.id && x.element === r.element && x.side === r.side)!;

/** The picture of what the next layer hides, kept with the shower. */
function pictured(w: DemoWriter): { photos: PhotoUse[] } {
  const { bytes, use } = HIDDEN_PICTURE;
  if (!w.photos.some((p) => p.hash === use.hash)) w.photos.push({ hash: use.hash, bytes });
  return { photos: [use] };
}

/** A figure well inside its limit, a paper's name or a picture, where a check asks for one. */
function soundly(w: DemoWriter, check: Check): { number?: number; shownBy?: string; photos?: PhotoUse[] } {
  if (check.keepPicture || (isOf(check, 'looked') && check.proof === 'photo')) return pictured(w);
  if (isOf(check, 'number')) {
    const { atLeast, atMost } = check.limit ?? { atLeast: 600 };
    return { number: Math.round(((atLeast ?? 0) * 1.1 + (atMost ?? (atLeast ?? 1) * 1.3) * 0.9) * 50) / 100 };
  }
  return isOf(check, 'looked') && check.proof ? { shownBy: `Demo paper ${100 + w.pick(800)}` } : {};
}

/** How a stage is passed. */
export interface Passing {
  /** Leaves these requirements without any answer. */
  skip?: (r: Requirement) => boolean;
}

/** Answers everything a stage asks, soundly, as an inspector would: one look per check for the run, then readings. */
export function passStage(w: DemoWriter, person: PersonKey, stage: string, { skip = () => false }: Passing = {}): void {
  const state = w.state();
  const asked = state.requirements.filter((r) => r.stage.key === stage && !skip(r));
  for (const check of new Set(asked.map((r) => r.check.id))) {
    const places = [...new Set(asked.filter((r) => r.check.id === check).map((r) => r.element))].map((element) =>
      placeOf(state, element),
    );
    const spec = asked.find((r) => r.check.id === check)!.check;
    if (!['measured', 'looked', 'number'].includes(spec.kind)) continue;
    w.write(person, 'look', { stage, checks: [check], places, answer: 'ok', ...soundly(w, spec) });
  }
  readRequirements(w, person, asked);
}

/** Says that a stage is built. */
export function workDone(w: DemoWriter, person: 'heron' | 'otter' | 'wren', stage: string, day: string): void {
  const who = PEOPLE.find((p) => p.key === person)!;
  w.write(person, 'work-done', {
    stage,
    crewId: who.crewId ?? '',
    who: `${who.name} and one helper`,
    day,
    productLine: 'Demo sheet line',
    batch: `B-${100 + w.pick(800)}`,
  });
}

/** Releases a stage. */
export function release(w: DemoWriter, person: PersonKey, stage: string): void {
  w.write(person, 'stage-released', {
    stage,
    judged: {
      ledgerSeq: w.sealed.length,
      ledgerHash: '',
      deviceSeq: w.sealed.filter((s) => s.person === person).length,
    },
    inputs: [],
    verdicts: {},
    ruleVersion: w.state().rules?.book.version ?? 1,
    calculations: {},
  });
}

/** The name of a crew. */
export const crewName = (id: string): string => CREWS.find((c) => c.id === id)?.name ?? id;
