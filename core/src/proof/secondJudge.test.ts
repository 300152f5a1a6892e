import fc from 'fast-check';
import { expect, it } from 'vitest';
import { whereOpen } from '../checks/acceptance';
import { judge } from '../checks/judge';
import type { Author, Entry } from '../log/entry';
import type { Arrival, Arrivals, ShowerState } from '../log/state';
import { totalMm } from '../shower/seams/intervals';
import { sampleShower } from '../tests/sampleShower';
import { BOTH_ANSWERS, CREW, INSPECTOR, MANAGER, placeOf, type Tablet, tablet } from '../tests/sampleTablet';
import { type SecondRecord, secondJudge } from '../tests/secondJudge';
import { TINY } from '../tests/tinyBook';
import { foldShower } from './fold/foldShower';
import { buildLedger, LINE_STATES } from './shown/seamLine';

const HOUR = 3_600_000;
const STAGES = ['base', 'membrane', 'cure', 'flood-test', 'tile'] as const;
/** An alcove, and what people change about it: wider, a little wider, a lower curb, another drain, higher walls. */
const alcove = sampleShower({ widthMm: 900, depthMm: 900, wallMm: 1000 });
const DRAWINGS = [
  alcove,
  sampleShower({ widthMm: 1000, depthMm: 900, wallMm: 1000 }),
  sampleShower({ widthMm: 910, depthMm: 900, wallMm: 1000 }),
  { ...alcove, edges: alcove.edges.map((e) => (e.kind === 'curb' ? { ...e, heightMm: 60 } : e)) },
  { ...alcove, drain: { ...alcove.drain, xMm: 350 } },
  sampleShower({ widthMm: 900, depthMm: 900, wallMm: 1100 }),
];
const fold = (entries: readonly Entry[], arrivals?: Arrivals): ShowerState =>
  foldShower(entries, (id, v) => (id === TINY.id && v === TINY.version ? TINY : null), arrivals);

/** What a person does next. Numbers choose among what there is: 0 to 1 along a list or a length. */
type Act =
  | { do: 'pass' | 'reopen' | 'work' | 'climb'; stage: number }
  | { do: 'release'; stage: number; uphold: boolean; boss: boolean }
  | { do: 'look'; which: number; answer: number; from: number; to: number; boss: boolean; two: boolean }
  | { do: 'reading'; which: number; at: number; value: number }
  | { do: 'redo'; stage: number; element: number; from: number; to: number; whole: boolean }
  | { do: 'draw'; which: number }
  | { do: 'ask'; which: number; part: boolean; lie: boolean }
  | { do: 'decide'; which: number; yes: boolean; boss: boolean }
  | { do: 'defect'; stage: number; element: number; severity: number }
  | { do: 'milder' | 'close'; which: number; severity: number; boss: boolean }
  | { do: 'correct'; which: number; withdraw: boolean; boss: boolean }
  | { do: 'pin'; stage: number; boss: boolean }
  | { do: 'wait'; hours: number }
  | { do: 'flood'; leak: number; level: number; skip: number }
  | { do: 'wet'; after: boolean }
  | { do: 'late' }
  | { do: 'skew'; hours: number };

const share = fc.double({ min: 0, max: 0.999, noNaN: true });
const stage = fc.nat(STAGES.length - 1);
const act: fc.Arbitrary<Act> = fc.oneof(
  { weight: 3, arbitrary: fc.record({ do: fc.constantFrom('pass', 'reopen', 'work', 'climb' as const), stage }) },
  {
    weight: 4,
    arbitrary: fc.record({ do: fc.constant('release' as const), stage, uphold: fc.boolean(), boss: fc.boolean() }),
  },
  {
    weight: 3,
    arbitrary: fc.record({
      do: fc.constant('look' as const),
      which: share,
      answer: fc.nat(3),
      from: share,
      to: share,
      boss: fc.boolean(),
      two: fc.boolean(),
    }),
  },
  {
    weight: 3,
    arbitrary: fc.record({
      do: fc.constant('reading' as const),
      which: share,
      at: fc.double({ min: 0, max: 1.2, noNaN: true }),
      value: fc.constantFrom(5, 20, 24, 40, 49, 50, 55, 60),
    }),
  },
  {
    weight: 4,
    arbitrary: fc.record({
      do: fc.constant('redo' as const),
      stage,
      element: share,
      from: share,
      to: share,
      whole: fc.boolean(),
    }),
  },
  { weight: 2, arbitrary: fc.record({ do: fc.constant('draw' as const), which: fc.nat(DRAWINGS.length - 1) }) },
  {
    weight: 2,
    arbitrary: fc.record({ do: fc.constant('ask' as const), which: share, part: fc.boolean(), lie: fc.boolean() }),
  },
  {
    weight: 3,
    arbitrary: fc.record({ do: fc.constant('decide' as const), which: share, yes: fc.boolean(), boss: fc.boolean() }),
  },
  {
    weight: 1,
    arbitrary: fc.record({ do: fc.constant('defect' as const), stage, element: share, severity: fc.nat(2) }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      do: fc.constantFrom('milder', 'close' as const),
      which: share,
      severity: fc.nat(2),
      boss: fc.boolean(),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      do: fc.constant('correct' as const),
      which: share,
      withdraw: fc.boolean(),
      boss: fc.boolean(),
    }),
  },
  {
    weight: 1,
    arbitrary: fc.record({ do: fc.constant('pin' as const), stage: fc.nat(STAGES.length), boss: fc.boolean() }),
  },
  { weight: 2, arbitrary: fc.record({ do: fc.constant('wait' as const), hours: fc.constantFrom(1, 5, 25) }) },
  {
    weight: 2,
    arbitrary: fc.record({
      do: fc.constant('flood' as const),
      leak: fc.constantFrom(0, 0, 0, 6),
      level: fc.constantFrom(76.2, 76.2, 60),
      skip: fc.constantFrom(0, 0, 1, 2, 3, 4),
    }),
  },
  { weight: 1, arbitrary: fc.record({ do: fc.constant('wet' as const), after: fc.boolean() }) },
  { weight: 1, arbitrary: fc.record({ do: fc.constant('late' as const) }) },
  {
    weight: 1,
    arbitrary: fc.record({ do: fc.constant('skew' as const), hours: fc.constantFrom(-30, -3, 0, 4, 30) }),
  },
) as fc.Arbitrary<Act>;

const releaseBody = (key: string, upholds?: string) => ({
  stage: key,
  judged: { ledgerSeq: 0, ledgerHash: '', deviceSeq: 0 },
  inputs: [],
  verdicts: {},
  ruleVersion: 1,
  calculations: {},
  ...(upholds ? { upholds } : {}),
});

/** People and their tablets. One shower, several hands; a late tablet has heard only half of what was written. */
class Site {
  all: Entry[] = [];
  clock = 1_700_000_000_000;
  version = 1;
  next = 1;
  heard: readonly Entry[] | null = null;
  /** How far the next tablets' clocks run ahead of the truth, ms; the server knows. */
  aheadMs = 0;
  arrivals = new Map<string, Arrival>();
  write(author: Author, kind: Parameters<Tablet['write']>[0], body: unknown): string {
    const t = tablet(this.next, this.clock + this.aheadMs, author);
    this.next += 1;
    t.hears(this.heard ?? this.all);
    // The drawing that this tablet shows.
    if (kind !== 'geometry-set' && this.version !== 1) {
      t.write('geometry-set', { version: this.version, geometry: alcove });
      t.entries.length = 0;
    }
    const id = t.write(kind, body as never);
    const entry = { ...t.entries.at(-1)!, deviceSeq: 1, prevDeviceHash: null };
    this.all.push(entry);
    this.clock = Math.max(this.clock, t.nowMs() - this.aheadMs);
    if (this.aheadMs !== 0) this.arrivals.set(id, { skewMs: -this.aheadMs, receivedAtMs: this.clock, imported: false });
    return id;
  }
  state(): ShowerState {
    return fold(this.all, this.arrivals);
  }
}

const pick = <T>(list: readonly T[], where: number): T | undefined => list[Math.floor(where * list.length)];

function passStage(site: Site, key: string): void {
  const state = site.state();
  for (const r of state.requirements.filter((x) => x.stage.key === key)) {
    if (r.check.kind === 'wait' || r.check.kind === 'flood') continue;
    site.write(INSPECTOR, 'look', {
      stage: key,
      checks: [r.check.id],
      places: [placeOf(state, r.element)],
      answer: 'ok',
    });
    if (r.check.kind !== 'measured') continue;
    const ats = r.hasLength ? [140, r.lengthMm / 2, r.lengthMm - 140] : [0, 0];
    for (const atMm of ats)
      site.write(INSPECTOR, 'reading', {
        stage: key,
        check: r.check.id,
        place: placeOf(state, r.element),
        atMm,
        valueMm: r.check.limit.atMostMm === undefined ? 55 : 20,
        typed: '',
        instrument: 'tape',
      });
  }
}

const scatter = (k: number): number => 0.05 * Math.sin(k * 2.4) + 0.04 * Math.sin(k * 0.7);

/** A flood from its start to its end; `skip` leaves a step out. */
function flood(site: Site, leak: number, level: number, skip: number): void {
  site.write(INSPECTOR, 'flood-started', { waterLineMm: level, plannedHours: 24, method: 'logger', resolutionMm: 0.1 });
  const look = (moment: 'start' | 'end') =>
    site.write(INSPECTOR, 'moisture-look', { where: 'below', found: false, answer: 'dry', moment });
  if (skip !== 1) look('start');
  const startMs = site.state().flood?.startMs ?? site.clock;
  const minutes = Array.from({ length: 151 }, (_, k) => k * 10);
  const series = (from: number, perDay: number, seed: number) =>
    minutes.map((m, k) => Math.round((from - (perDay * m) / 1440 + scatter(k + seed)) * 10) / 10);
  if (skip !== 2) site.clock = Math.max(site.clock, startMs + 25 * HOUR);
  const startAt = new Date(startMs).toISOString();
  const read = (of: 'water' | 'pan', levelMm: number[]) =>
    site.write(INSPECTOR, 'flood-reading', {
      levelMm: Math.min(...levelMm),
      instrument: 'logger',
      of,
      resolutionMm: 0.1,
      series: { startAt, minutes, levelMm, file: 'x' },
    });
  if (skip !== 3) {
    read('water', series(level, 2 + leak, 0));
    read('pan', series(60, 2, 31));
  }
  look('end');
  if (skip !== 4) site.write(INSPECTOR, 'flood-ended', { lowestLevelMm: level, verdict: 'pass' });
}

function perform(site: Site, a: Act): void {
  const who = 'boss' in a && a.boss ? MANAGER : INSPECTOR;
  const key = 'stage' in a ? STAGES[a.stage as 0]! : 'base';
  switch (a.do) {
    case 'pass':
      return passStage(site, key);
    case 'climb': {
      for (const s of STAGES.slice(0, STAGES.indexOf(key) + 1)) {
        passStage(site, s);
        if (s === 'cure') site.clock += 25 * HOUR;
        if (s === 'flood-test') flood(site, 0, 76.2, 0);
        site.write(INSPECTOR, 'stage-released', releaseBody(s));
      }
      return;
    }
    case 'reopen':
      return void site.write(INSPECTOR, 'stage-reopened', { stage: key, reason: 'x' });
    case 'work':
      return void site.write(CREW, 'work-done', { stage: key, crewId: 'crew', who: 'x', day: '2026-01-01' });
    case 'release':
      return void site.write(who, 'stage-released', releaseBody(key, a.uphold ? 'so be it' : undefined));
    case 'wait':
      site.clock += a.hours * HOUR;
      return;
    case 'skew':
      site.aheadMs = a.hours * HOUR;
      return;
    case 'late':
      site.heard = site.all.slice(0, Math.max(3, Math.floor(site.all.length / 2)));
      return;
    case 'draw': {
      site.version += 1;
      return void site.write(INSPECTOR, 'geometry-set', { version: site.version, geometry: DRAWINGS[a.which]! });
    }
    case 'pin': {
      const beginsAt = STAGES[a.stage as 0];
      return void site.write(who, 'rules-pinned', {
        ruleBook: TINY.id,
        version: 1,
        method: 'tiny',
        ...(beginsAt ? { beginsAt } : {}),
      });
    }
    case 'flood':
      return flood(site, a.leak, a.level, a.skip);
    case 'wet':
      return void site.write(INSPECTOR, 'moisture-look', {
        where: 'below',
        found: true,
        answer: 'wet',
        moment: a.after ? 'end' : 'start',
      });
  }
  const state = site.state();
  switch (a.do) {
    case 'look': {
      const r = pick(state.requirements, a.which);
      const other = pick(
        state.requirements.filter((x) => x.check.id === r?.check.id),
        a.from,
      );
      if (!r || !other) return;
      const answer = (['ok', 'defect', 'could-not-see', 'not-applicable'] as const)[a.answer]!;
      const part =
        r.hasLength && a.to > 0.3
          ? { fromMm: Math.round(a.from * r.lengthMm), toMm: Math.round(a.to * r.lengthMm) }
          : {};
      const places = [placeOf(state, r.element, part), ...(a.two ? [placeOf(state, other.element)] : [])];
      return void site.write(who, 'look', {
        stage: r.stage.key,
        checks: [r.check.id],
        places,
        answer,
        ...(answer === 'not-applicable' ? { reason: 'x' } : {}),
      });
    }
    case 'reading': {
      const r = pick(
        state.requirements.filter((x) => x.check.kind === 'measured'),
        a.which,
      );
      if (!r) return;
      const atMm = Math.round(a.at * (r.hasLength ? r.lengthMm : 0));
      return void site.write(INSPECTOR, 'reading', {
        stage: r.stage.key,
        check: r.check.id,
        place: placeOf(state, r.element),
        atMm,
        valueMm: a.value,
        typed: '',
        instrument: 'tape',
      });
    }
    case 'redo':
    case 'defect': {
      const { model } = state.geometry!;
      const elements = [
        'shower',
        'floor',
        'wall:back',
        model.drain.id,
        ...model.seams.filter((s) => s.kind === 'floor-wall' || s.kind === 'wall-wall-inside').map((s) => s.id),
        ...model.corners.slice(0, 4).map((c) => c.id),
      ];
      const element = pick(elements, a.element)!;
      if (a.do === 'defect')
        return void site.write(INSPECTOR, 'defect-found', {
          stage: key,
          place: placeOf(state, element),
          kind: 'x',
          severity: (['stop', 'fix', 'note'] as const)[a.severity]!,
          words: '',
          photos: [],
        });
      const lengthMm = state.seamById.get(element)?.lengthMm;
      const part =
        lengthMm && !a.whole ? { fromMm: Math.round(a.from * lengthMm), toMm: Math.round(a.to * lengthMm) } : {};
      return void site.write(INSPECTOR, 'redo', { stage: key, places: [placeOf(state, element, part)], reason: 'x' });
    }
    case 'ask': {
      const open = state.requirements.filter((r) => judge(state, r).verdict !== 'pass');
      const r = pick(a.lie ? state.requirements : open, a.which);
      if (!r) return;
      const part = a.part && r.hasLength ? { fromMm: 0, toMm: Math.round(r.lengthMm / 2) } : {};
      return void site.write(INSPECTOR, 'deviation-asked', {
        stage: r.stage.key,
        check: r.check.id,
        place: placeOf(state, r.element, part),
        geometryVersion: state.geometry!.version,
        ruleVersion: 1,
        verdict: judge(state, r).verdict,
        reason: 'x',
      });
    }
    case 'decide': {
      const asked = pick([...state.deviations.keys()], a.which);
      if (asked) site.write(who, 'deviation-decided', { asked, accepted: a.yes, reason: 'x' });
      return;
    }
    case 'milder':
    case 'close': {
      const [id, d] = pick([...state.defects], a.which) ?? [];
      if (!id || !d) return;
      if (a.do === 'close') return void site.write(who, 'defect-closed', { defect: id, ...BOTH_ANSWERS });
      const severity = (['stop', 'fix', 'note'] as const)[a.severity]!;
      return void site.write(who, 'defect-found', {
        stage: d.stage,
        place: d.places[0]!,
        kind: 'x',
        severity,
        words: '',
        photos: [],
        about: id,
      });
    }
    case 'correct': {
      const target = pick(site.all.slice(3), a.which);
      if (!target) return;
      const body =
        target.kind === 'reading'
          ? { ...target.body, valueMm: 30 }
          : target.kind === 'defect-found'
            ? { ...target.body, severity: 'note' }
            : null;
      if (a.withdraw || !body) site.write(who, 'correction', { target: target.id, action: 'withdraw' });
      else site.write(who, 'correction', { target: target.id, action: 'replace', body });
      return;
    }
  }
}

function play(acts: readonly Act[]): Site {
  const site = new Site();
  site.write(INSPECTOR, 'shower-created', { name: 'S', job: 'J', crewId: 'crew', timeZone: 'UTC' });
  site.write(INSPECTOR, 'geometry-set', { version: 1, geometry: alcove });
  site.write(INSPECTOR, 'rules-pinned', { ruleBook: TINY.id, version: 1, method: 'tiny' });
  for (const a of acts) perform(site, a);
  return site;
}

/** Most showers are climbed some way first: what stands is where it can be broken. */
const sequence: fc.Arbitrary<Act[]> = fc
  .tuple(
    fc.option(fc.record({ do: fc.constant('climb' as const), stage }), { freq: 4 }),
    fc.array(act, { minLength: 1, maxLength: 12 }),
  )
  .map(([first, rest]) => (first ? [first, ...rest] : rest));

/** What the fold says, in the words of the second judge. */
function recordOf(state: ShowerState): SecondRecord {
  const { flood } = state;
  return {
    words: new Map(STAGES.map((s) => [s, state.stages.get(s)?.word ?? 'open'])),
    findings: new Map(
      state.requirements.map((r) => {
        const j = judge(state, r);
        const bad = whereOpen(r, j);
        return [
          `${r.stage.key} ${r.check.id} ${r.element}`,
          {
            verdict: j.verdict,
            accepted: j.deviation !== null,
            badMm: j.verdict === 'fail' || j.verdict === 'unseen' ? totalMm(bad) : 0,
            low: r.check.kind === 'measured' && j.worst.low !== undefined ? -j.worst.low : null,
            high: r.check.kind === 'measured' ? (j.worst.high ?? null) : null,
            readings: j.readings.length,
            readyAtMs: j.readyAtMs,
          },
        ];
      }),
    ),
    lines: new Map(
      buildLedger(state, STAGES).lines.map((l) => {
        const sums: Record<string, number> = {};
        for (const p of l.pieces) {
          sums[p.state] = (sums[p.state] ?? 0) + p.toMm - p.fromMm;
          if (p.water) sums.water = (sums.water ?? 0) + p.toMm - p.fromMm;
        }
        return [l.seam, sums];
      }),
    ),
    defects: new Map([...state.defects].map(([id, d]) => [id, `${d.severity} ${d.closedAt ? 'closed' : 'open'}`])),
    asks: new Map(
      [...state.deviations].map(([id, d]) => [id, `${d.decision?.accepted ?? 'waits'}${d.ended ? ', ended' : ''}`]),
    ),
    flood: flood
      ? `${flood.running ? 'running' : flood.end && flood.end.verdict !== 'aborted' ? flood.end.verdict : 'aborted'}${flood.voided ? ', void' : ''}`
      : 'none',
  };
}

/** The same, but for millimetres that a stretch has more or less at its ends. */
function agree(found: SecondRecord, second: SecondRecord): void {
  expect([...found.words]).toEqual(STAGES.map((s) => [s, second.words.get(s)]));
  expect([...found.findings.keys()].sort()).toEqual([...second.findings.keys()].sort());
  for (const [key, theirs] of second.findings) {
    const { badMm, ...mine } = found.findings.get(key)!;
    const { badMm: theirMm, ...rest } = theirs;
    expect([key, mine]).toEqual([key, rest]);
    expect([key, Math.abs(badMm - theirMm) < 12 || `${badMm} mm here, ${theirMm} there`]).toEqual([key, true]);
  }
  for (const [seam, theirs] of second.lines)
    for (const name of [...LINE_STATES, 'water']) {
      const [mine, other] = [found.lines.get(seam)?.[name] ?? 0, theirs[name] ?? 0];
      expect([seam, name, Math.abs(mine - other) < 12 || `${mine} mm here, ${other} there`]).toEqual([
        seam,
        name,
        true,
      ]);
    }
  expect([...found.defects].sort()).toEqual([...second.defects].sort());
  expect([...found.asks].sort()).toEqual([...second.asks].sort());
  expect(found.flood).toBe(second.flood);
}

/** Sequences that are run; \`npm run calibrate\` runs 20,000. */
const RUNS = Number(process.env.SECOND_JUDGE_RUNS ?? 300);

it(`agrees with the second judge over ${RUNS} random sequences of what people may do`, () => {
  const seed = Number(process.env.SECOND_JUDGE_SEED ?? 20261128);
  const seen = new Map<string, number>();
  fc.assert(
    fc.property(sequence, (acts) => {
      const site = play(acts);
      const second = secondJudge(site.all, TINY, site.arrivals);
      const found = recordOf(fold(site.all, site.arrivals));
      for (const [s, w] of found.words) seen.set(`${s} ${w}`, (seen.get(`${s} ${w}`) ?? 0) + 1);
      agree(found, second);
    }),
    { numRuns: RUNS, seed, endOnFailure: process.env.SECOND_JUDGE_QUICK === '1' },
  );
  console.log(
    `second judge: ${RUNS} sequences, seed ${seed}; ${[...seen]
      .sort()
      .map(([w, n]) => `${w} ${n}`)
      .join(', ')}`,
  );
  // A run in which nothing was ever released, held or contested would agree about nothing.
  for (const s of STAGES.slice(0, 4))
    for (const word of ['released', 'held', 'contested'])
      expect(seen.get(`${s} ${word}`) ?? 0).toBeGreaterThan(RUNS / 200);
}, 3_600_000);
