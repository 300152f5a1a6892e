// Two years of an invented firm: showers that are finished, with what was looked at, what was wrong and how it ended.
import type { ShowerState } from '@careful-seam/core/log/state';
import type { FindRuleBook } from '@careful-seam/core/proof/fold/foldShower';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import type { ShowerGeometry } from '@careful-seam/core/shower/geometry/showerGeometry';
import { v5 } from 'uuid';
import { dimensions, IN } from '../demoSizes';
import type { PersonKey } from '../firm';
import { type DemoWriter, demoWriter, placeOf } from '../writer';
import { type Chance, chance } from './chance';
import { YEARS_CREWS, type YearsCalendar, type YearsCrew, yearsCalendar } from './truths';
import { type Wrong, whatGoesWrong } from './whatWentWrong';

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** A day, ms. */
const DAY_MS = 86_400_000;
/** Namespace of its ids: the same in each demo. */
const IDS = '0d0f7c9e-53b1-4d0e-8a57-6a0a6f2f4b21';

/** Sizes that the firm builds, in. */
const SIZES = [
  [60, 32],
  [60, 36],
  [48, 36],
  [54, 34],
  [66, 36],
] as const;
/** Stages that were looked at in those years, from the base to the drain. */
const STAGES = ['base', 'boards', 'curb', 'niche', 'membrane', 'drain-tie-in'] as const;

/** How a defect got past, with how often that is said. */
const ESCAPES = ['not-noticed', 'not-noticed', 'not-done', 'not-asked', 'later', 'hidden', 'unknown'] as const;

/** One shower of the two years, before it is written. */
interface Planned {
  /** The crew that builds it. */
  crew: YearsCrew;
  /** Its number. */
  number: number;
  /** When its base is built, ms since 1970. */
  startMs: number;
}

/** A day so many days after a moment, ISO 8601. */
const dayAfter = (ms: number, days: number): string => new Date(ms + days * DAY_MS).toISOString().slice(0, 10);

/** Nine in the morning of that day, as near as matters at the site, ms since 1970. */
const morningOf = (ms: number): number => Math.floor(ms / DAY_MS) * DAY_MS + 15 * HOUR_MS;

/** All showers of the two years, crew by crew, spread evenly over the time. */
function plan({ fromMs, toMs }: YearsCalendar): Planned[] {
  const planned: Planned[] = [];
  for (const [c, crew] of YEARS_CREWS.entries())
    for (let k = 0; k < crew.showers; k += 1) {
      const part = (k + (c + 1) / (YEARS_CREWS.length + 1)) / crew.showers;
      planned.push({
        crew,
        number: planned.length + 1,
        startMs: morningOf(fromMs + part * (toMs - fromMs - 12 * DAY_MS)),
      });
    }
  return planned;
}

/** An alcove with a niche in its back wall. */
function geometryOf(name: string, c: Chance): ShowerGeometry {
  const [widthIn, depthIn] = c.oneOf(SIZES);
  const plain = dimensions({ name, widthIn, depthIn, drainIn: [widthIn / 2, depthIn / 2] });
  const niche = {
    id: v5(`${name} niche`, IDS),
    edge: 2,
    alongMm: ((widthIn - 14) / 2) * IN,
    sillMm: 50 * IN,
    widthMm: 14 * IN,
    heightMm: 26 * IN,
    depthMm: 3.5 * IN,
  };
  return { ...plain, niches: [niche] };
}

/** What was looked for in those years, of each stage: the firm asked for less than it does today. */
const LOOKED_FOR: Readonly<Record<(typeof STAGES)[number], readonly string[]>> = {
  base: ['bedding', 'drain-centred'],
  boards: ['board-joints', 'board-foot'],
  curb: ['curb-inward', 'curb-whole'],
  niche: ['niche-edges', 'niche-plumb'],
  membrane: ['bond', 'corner-piece', 'termination', 'lap'],
  'drain-tie-in': ['flange-bonded', 'flange-level'],
};

/** Looks of a stage: what was asked of each place, answered at once. */
function lookAt(w: DemoWriter, state: ShowerState, stage: (typeof STAGES)[number], person: PersonKey): void {
  const asked = state.requirements.filter(
    (r) =>
      r.stage.key === stage && LOOKED_FOR[stage].includes(r.check.id) && ['looked', 'measured'].includes(r.check.kind),
  );
  const placesOf = new Map<string, string[]>();
  for (const r of asked) placesOf.set(r.check.id, [...new Set([...(placesOf.get(r.check.id) ?? []), r.element])]);
  // Checks that are asked of the same places are one answer.
  const together = new Map<string, string[]>();
  for (const [check, elements] of placesOf) {
    const key = elements.join('\n');
    together.set(key, [...(together.get(key) ?? []), check]);
  }
  for (const [elements, checks] of together)
    w.write(person, 'look', {
      stage,
      checks,
      places: elements.split('\n').map((element) => placeOf(state, element)),
      answer: 'ok',
    });
}

/** Readings of laps, a few in each shower. */
function readSome(w: DemoWriter, state: ShowerState, person: PersonKey, c: Chance): void {
  const laps = state.requirements.filter((r) => r.stage.key === 'membrane' && r.check.id === 'lap' && r.lengthMm > 300);
  for (let k = 0; k < 12 && laps.length > 0; k += 1) {
    const r = laps[(k * 7) % laps.length]!;
    const inches = 2 + (1 + c.pick(6)) / 16;
    w.write(person, 'reading', {
      stage: 'membrane',
      check: 'lap',
      place: placeOf(state, r.element, r.side),
      atMm: Math.round(r.lengthMm * (0.1 + 0.8 * c.share())),
      valueMm: inches * IN,
      typed: `${inches}`,
      instrument: r.check.kind === 'measured' ? r.check.instrument : 'tape',
    });
  }
}

/** Something that happens at its moment, ms since 1970. */
interface Happening {
  atMs: number;
  write: () => void;
}

/** Why a defect happened, as far as that can be told. */
function familyOf(book: RuleBook, kind: string, c: Chance): string {
  if (kind === 'wrong-mortar') return 'material';
  const usual = book.defectKinds.find((k) => k.id === kind)?.causes ?? [];
  return c.share() < 0.12 ? 'unknown' : (usual[Math.min(usual.length - 1, c.pick(3) >> 1)] ?? 'unknown');
}

/** Writes a defect as it is found and given to its crew; how it ends comes later, and for three of a hundred not yet. */
function find(w: DemoWriter, book: RuleBook, wrong: Wrong, crewId: string, c: Chance): Happening[] {
  const family = familyOf(book, wrong.kind, c);
  const severity = c.share() < 0.15 ? 'stop' : c.share() < 0.2 ? 'note' : 'fix';
  const known = c.share() < 0.6;
  const defect = w.write('inspector', 'defect-found', {
    stage: wrong.stage,
    place: wrong.place,
    kind: wrong.kind,
    severity,
    words: '',
    photos: [],
    ...(known ? { cause: { family, confidence: 'suspected' as const } } : {}),
    ...(wrong.kind === 'hole-tear' && c.share() < 0.4 ? { madeBy: { of: 'trade' as const, trade: 'plumber' } } : {}),
  });
  w.write('inspector', 'defect-assigned', { defect, crewId });
  if (c.share() < 0.03) return [];
  const atMs = w.nowMs() + c.until(severity === 'stop' ? 20 : 46) * HOUR_MS;
  const [gotPast, hours, materials] = [
    c.oneOf(ESCAPES),
    Math.round((0.5 + c.until(1.5)) * 4) / 4,
    Math.round(5 + c.until(25)),
  ];
  const write = () => {
    const reason = 'Cut out and made again';
    w.write('manager', 'defect-answered', {
      defect,
      words: reason,
      photos: [],
      ...(known ? {} : { cause: { family, confidence: 'admitted' as const } }),
    });
    if (severity !== 'note')
      w.write('inspector', 'redo', { stage: wrong.stage, places: [wrong.place], reason, defect });
    w.write('manager', 'defect-closed', {
      defect,
      cause: { family, confidence: known ? 'shown-by-test' : 'admitted' },
      escape: { family: gotPast },
      cost: { hours, materials },
    });
  };
  return [{ atMs, write }];
}

/** A finished shower with all that was said of it. */
function writeShower(planned: Planned, book: RuleBook, calendar: YearsCalendar, books: FindRuleBook): DemoWriter {
  const c = chance(7000 + planned.number * 31);
  const job = `Row ${1 + Math.floor((planned.number - 1) / 9)}`;
  const name = `${job} bath ${planned.number}`;
  const w = demoWriter(`years ${name}`, planned.startMs, planned.number, books);
  const crewId = planned.crew.id;
  w.write('inspector', 'shower-created', { name, job, crewId, timeZone: 'America/Chicago' });
  w.write('inspector', 'geometry-set', { version: 1, geometry: geometryOf(name, c) });
  w.write('inspector', 'rules-pinned', {
    ruleBook: book.id,
    version: book.version,
    method: 'bonded-sheet',
    beginsAt: 'base',
  });
  const state = w.state();
  const membraneOn = dayAfter(planned.startMs, STAGES.indexOf('membrane'));
  const wrong = whatGoesWrong(state, planned.crew, membraneOn, calendar, c);
  // A stage a day; what was found is put right when its crew comes to it, whatever is built meanwhile.
  const coming: Happening[] = STAGES.map((stage, k) => ({
    atMs: planned.startMs + k * DAY_MS,
    write: () => {
      const day = dayAfter(planned.startMs, k);
      w.write('manager', 'work-done', { stage, crewId, who: `${planned.crew.name}, two people`, day });
      w.wait(60);
      lookAt(w, state, stage, 'inspector');
      if (stage === 'membrane') readSome(w, state, 'inspector', c);
      for (const one of wrong.filter((x) => x.stage === stage)) coming.push(...find(w, book, one, crewId, c));
    },
  }));
  while (coming.length > 0) {
    coming.sort((a, b) => b.atMs - a.atMs);
    const next = coming.pop()!;
    w.until(next.atMs);
    next.write();
  }
  return w;
}

/** The two years, seen from a day: finished showers of fourteen crews, each with its defects, one after the other. */
export function* yearsShowers(todayMs: number, book: RuleBook, books: FindRuleBook): Generator<DemoWriter> {
  const calendar = yearsCalendar(todayMs);
  for (const planned of plan(calendar)) yield writeShower(planned, book, calendar, books);
}
