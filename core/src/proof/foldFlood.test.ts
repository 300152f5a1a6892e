import { describe, expect, it } from 'vitest';
import { orderAtOf } from '../entries/order';
import { FLOOD_CALCULATION, floodVerdict } from '../flood/floodVerdict';
import { showerDay } from '../plan/dayWindows';
import { floodCheckOf } from '../rules/ruleBook';
import { sampleShower } from '../tests/sampleShower';
import {
  BOOK,
  begun,
  climb,
  fold,
  INSPECTOR,
  MANAGER,
  pass,
  releaseBody,
  seamId,
  type Tablet,
  tablet,
} from '../tests/sampleTablet';
import { verdictInput } from './floodTest';
import { judgedAnew } from './foldFlood';
import { atMoment } from './foldShower';
import { judge, judgeStage } from './judge';
import { blockersOf } from './release';
import { buildLedger } from './seamLine';
import { waterProof } from './waterProof';

const HOUR_MS = 3_600_000;
const CLOCK = 1_700_000_000_000;
const places = floodCheckOf(BOOK.methods[0]!)!.check.places.map((p) => p.id);

/** A shower released up to its drain, with the tablet that wrote it. */
function climbed(): Tablet {
  const t = begun();
  climb(t, 'drain-tie-in');
  pass(t, 'drain-tie-in');
  t.write('stage-released', releaseBody('drain-tie-in'));
  return t;
}

/** Water in at `startedAt`, marks at the start and after the hours given, the pan beside it. */
function fill(
  t: Tablet,
  startMs: number,
  levels: [number, number][],
  panFall: number,
  smallest: number | null = 1,
): void {
  const at = (hours: number) => new Date(startMs + hours * HOUR_MS).toISOString();
  t.write('flood-started', {
    waterLineMm: 76.2,
    plannedHours: 24,
    method: 'marks',
    resolutionMm: 0.1,
    panResolutionMm: 0.1,
    smallestLeakMmPerDay: smallest,
    prepared: [],
    startedAt: at(0),
  });
  for (const [hours, fallMm] of levels)
    t.write('flood-reading', { levelMm: 76.2 - fallMm, instrument: 'mark', of: 'water', readAt: at(hours) });
  const last = levels.at(-1)![0];
  t.write('flood-reading', { levelMm: 0, instrument: 'mark', of: 'pan', readAt: at(0) });
  t.write('flood-reading', { levelMm: -panFall, instrument: 'mark', of: 'pan', readAt: at(last) });
}

function end(t: Tablet, answer: 'dry' | 'could-not-see' = 'dry', stated?: 'pass' | 'aborted'): string {
  for (const where of places) t.write('moisture-look', { where, found: false, answer, moment: 'end' });
  const test = fold(t.entries).flood!;
  const judged = floodVerdict(verdictInput(test, places)!);
  if (!judged.ok) throw new Error(judged.problem.message);
  return t.write('flood-ended', {
    lowestLevelMm: test.waterLineMm,
    verdict: stated ?? judged.value.verdict,
    inputs: test.inputs,
    calculation: FLOOD_CALCULATION,
  });
}

const floodVerdictNow = (t: Tablet) => judgeStage(fold(t.entries), 'flood-test')[0]!.verdict;

describe('a flood test', () => {
  it('that passes proves what lies 5 mm below its lowest line, for "holds water" alone', () => {
    const t = climbed();
    fill(
      t,
      CLOCK + 50 * HOUR_MS,
      [
        [0, 0],
        [24, 2],
      ],
      2,
    );
    expect(floodVerdictNow(t)).toBe('unseen');
    end(t);
    const state = fold(t.entries);
    expect(floodVerdictNow(t)).toBe('pass');
    expect(state.flood!.provedBelowMm).toBeCloseTo(76.2 - 2 - 5, 6);
    const lines = buildLedger(state, ['membrane']).lines;
    const foot = lines.find((l) => l.seam === seamId(state, 'floor-wall'))!;
    expect(foot.pieces.every((p) => p.water && p.state !== 'unseen')).toBe(true);
    const outer = lines.find((l) => l.seam.startsWith('curb-outside-floor'))!;
    expect(outer.pieces.some((p) => p.water)).toBe(false);
    const upright = state.geometry!.model.seams.find((s) => s.kind === 'wall-wall-inside')!;
    const proof = waterProof(state.geometry!.model, state.flood!.provedBelowMm!);
    const wet = proof.under.find((u) => u.seam.id === upright.id)!.wetMm;
    expect(wet).toBeCloseTo(state.flood!.provedBelowMm! - upright.lowMm, 6);
    expect(proof.above.find((a) => a.seam.id === upright.id)!.dryMm).toBeCloseTo(upright.lengthMm - wet, 6);
  });

  it('that leaks fails, opens a defect and holds the stage; the next one that passes closes it', () => {
    const t = climbed();
    fill(
      t,
      CLOCK + 50 * HOUR_MS,
      [
        [0, 0],
        [24, 9],
      ],
      2,
    );
    const id = end(t);
    const state = fold(t.entries);
    expect(floodVerdictNow(t)).toBe('fail');
    expect(state.flood!.provedBelowMm).toBeNull();
    expect(state.defects.get(id)).toMatchObject({ severity: 'stop', closedAt: null, check: 'holds-water' });
    expect(blockersOf(state, 'flood-test').map((b) => b.kind)).toContain('defect');
    fill(
      t,
      CLOCK + 90 * HOUR_MS,
      [
        [0, 0],
        [24, 2],
      ],
      2,
    );
    end(t);
    const later = fold(t.entries);
    expect(later.defects.get(id)!.closedAt).not.toBeNull();
    expect(later.earlierFloods).toHaveLength(1);
  });

  it('is not decided while a place was not seen, and says nothing when it was broken off', () => {
    const t = climbed();
    fill(
      t,
      CLOCK + 50 * HOUR_MS,
      [
        [0, 0],
        [24, 2],
      ],
      2,
    );
    end(t, 'could-not-see');
    expect(floodVerdictNow(t)).toBe('undecided');
    fill(
      t,
      CLOCK + 90 * HOUR_MS,
      [
        [0, 0],
        [24, 2],
      ],
      2,
    );
    end(t, 'dry', 'aborted');
    expect(floodVerdictNow(t)).toBe('unseen');
  });

  it('is judged anew when something arrives late that belongs to it, and contests what was released on it', () => {
    const t = climbed();
    pass(t, 'cure');
    t.write('stage-released', releaseBody('cure'));
    fill(
      t,
      CLOCK + 50 * HOUR_MS,
      [
        [0, 0],
        [24, 2],
      ],
      2,
    );
    const other = tablet(7, CLOCK + 1, INSPECTOR);
    other.hears(t.entries);
    other.write('moisture-look', { where: 'below', found: true, answer: 'wet', moment: 'leaving' });
    end(t);
    t.write('stage-released', releaseBody('flood-test'));
    const before = fold(t.entries);
    expect(before.flood!.end).toMatchObject({ verdict: 'pass', stated: 'pass' });
    const after = fold([...t.entries, ...other.entries]);
    expect(after.flood!.end).toMatchObject({ verdict: 'fail', stated: 'pass' });
    expect(after.stages.get('flood-test')!.word).toBe('contested');
  });

  it('takes its pass back when moisture is found after it was ended', () => {
    const t = climbed();
    fill(
      t,
      CLOCK + 50 * HOUR_MS,
      [
        [0, 0],
        [24, 2],
      ],
      2,
    );
    end(t);
    t.write('moisture-look', { where: 'below', found: true, answer: 'wet', moment: 'leaving' });
    const state = fold(t.entries);
    expect(floodVerdictNow(t)).toBe('fail');
    expect(state.flood!.provedBelowMm).toBeNull();
  });

  it('undecided holds until a manager who did not ask accepts it', () => {
    const t = climbed();
    fill(
      t,
      CLOCK + 50 * HOUR_MS,
      [
        [0, 0],
        [24, 2],
      ],
      2,
      null,
    );
    end(t);
    const asked = t.write('deviation-asked', {
      stage: 'flood-test',
      check: 'holds-water',
      place: { element: 'shower' },
      geometryVersion: 1,
      ruleVersion: BOOK.version,
      verdict: 'undecided',
      reason: 'owner waits',
    });
    const holds = () =>
      blockersOf(fold([...t.entries, ...manager.entries]), 'flood-test').filter((b) => b.kind !== 'lower-stage').length;
    const manager = tablet(8, CLOCK, MANAGER);
    expect(holds()).toBe(2);
    manager.hears(t.entries);
    manager.write('deviation-decided', { asked, accepted: true, reason: 'seen together' });
    expect(holds()).toBe(0);
    expect(fold([...t.entries, ...manager.entries]).flood!.provedBelowMm).toBeNull();
  });

  it('can be judged again from its own entries: a verdict that does not follow from them is found', () => {
    const t = climbed();
    fill(
      t,
      CLOCK + 50 * HOUR_MS,
      [
        [0, 0],
        [24, 9],
      ],
      2,
    );
    end(t);
    const sound = fold(t.entries);
    expect(judgedAnew(sound, sound.flood!)).toBe('fail');
    fill(
      t,
      CLOCK + 90 * HOUR_MS,
      [
        [0, 0],
        [24, 9],
      ],
      2,
    );
    end(t, 'dry', 'pass');
    const forged = fold(t.entries);
    expect(forged.flood!.end!.stated).toBe('pass');
    expect(judgedAnew(forged, forged.flood!)).toBe('fail');
  });

  it('reads entries of the first version as they were', () => {
    const t = climbed();
    t.write('flood-started', { waterLineMm: 76, plannedHours: 24 });
    t.write('flood-reading', { levelMm: 74, instrument: 'mark' });
    t.write('moisture-look', { where: 'ceiling', found: false });
    t.write('flood-ended', { lowestLevelMm: 73, verdict: 'pass' });
    expect(fold(t.entries).flood).toMatchObject({ running: false, provedBelowMm: 68, method: 'marks' });
  });

  it("maps a logger's series to hours, and ends its lowest line at the first power cut", () => {
    const t = climbed();
    const startMs = CLOCK + 50 * HOUR_MS;
    fill(t, startMs, [[0, 0]], 0);
    t.write('flood-reading', {
      levelMm: 30,
      instrument: 'logger',
      of: 'water',
      resolutionMm: 0.1,
      series: {
        startAt: new Date(startMs - HOUR_MS).toISOString(),
        minutes: [0, 60, 120, 180],
        levelMm: [76.2, 76.2, 75.2, 30],
        file: 'a.csv',
      },
    });
    expect(fold(t.entries).flood!.waterLineMm).toBe(30);
    t.write('flood-event', { event: 'power-cut', at: new Date(startMs + 1.5 * HOUR_MS).toISOString() });
    t.write('flood-reading', {
      levelMm: 0,
      instrument: 'mark',
      of: 'pan',
      readAt: new Date(startMs + 2 * HOUR_MS).toISOString(),
    });
    const test = fold(t.entries).flood!;
    expect(verdictInput(test, [])!.readings.map((r) => r.atHours)).toEqual([0, 1, 2]);
    t.write('flood-ended', { lowestLevelMm: 76, verdict: 'aborted' });
    expect(fold(t.entries).flood!.waterLineMm).toBe(75.2);
  });
});

describe('the wait before the water', () => {
  const cure = (t: Tablet, nowMs?: number) => {
    const state = fold(t.entries);
    return judge(
      nowMs === undefined ? state : atMoment(state, nowMs),
      state.requirements.find((r) => r.check.id === 'mortar-cure')!,
    );
  };
  it('runs 24 h from the last work or redo, and is over with the clock alone', () => {
    const t = begun();
    expect(cure(t).verdict).toBe('unseen');
    const u = climbed();
    const found = cure(u);
    expect(found.verdict).toBe('undecided');
    expect(cure(u, found.readyAtMs! - 1).verdict).toBe('undecided');
    expect(cure(u, found.readyAtMs!).verdict).toBe('pass');
  });
  it('water that came before it was over fails it, and only a deviation accepts that', () => {
    const t = climbed();
    t.write('flood-started', { waterLineMm: 76, plannedHours: 24 });
    expect(cure(t, CLOCK * 2).verdict).toBe('fail');
  });
  it('of the sealant method is none before the water and an hour before tile', () => {
    const t = tablet(1);
    t.write('shower-created', { name: 'S', job: 'J', crewId: 'crew', timeZone: 'UTC' });
    t.write('geometry-set', { version: 1, geometry: sampleShower({}) });
    t.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'sealant-board' });
    t.write('work-done', { stage: 'membrane', crewId: 'crew', who: 'x', day: '2023-11-14' });
    t.write('work-done', { stage: 'drain-tie-in', crewId: 'crew', who: 'x', day: '2023-11-14' });
    const state = fold(t.entries);
    const verdictOf = (id: string, nowMs: number) =>
      judge(atMoment(state, nowMs), state.requirements.find((r) => r.check.id === id)!).verdict;
    expect(verdictOf('sealant-cure', state.clockMs)).toBe('pass');
    expect(verdictOf('sealant-skin', state.clockMs)).toBe('undecided');
    expect(verdictOf('sealant-skin', state.clockMs + HOUR_MS)).toBe('pass');
  });
});

describe('the day of a shower', () => {
  const morning = (ms: number) => ms - (ms % (24 * HOUR_MS)) + 7 * HOUR_MS;
  it('shows the crew until it says done, the wait, the water with its reading, and what is ready', () => {
    const t = begun();
    expect(showerDay(fold(t.entries), morning).windows.at(-1)).toMatchObject({
      kind: 'crew',
      stage: 'base',
      toMs: null,
    });
    t.write('work-done', { stage: 'base', crewId: 'crew', who: 'x', day: '2023-11-14' });
    expect(showerDay(fold(t.entries), morning).windows.at(-1)).toMatchObject({
      kind: 'ready',
      stage: 'base',
      toMs: null,
    });
    const u = climbed();
    const waiting = showerDay(fold(u.entries), morning).windows;
    expect(waiting.map((w) => w.kind)).toEqual(['cure', 'ready']);
    expect(waiting[0]!.toMs! - waiting[0]!.fromMs).toBe(24 * HOUR_MS);
    u.hears([{ ...u.entries[0]!, orderAt: orderAtOf(CLOCK + 40 * HOUR_MS, 0) }]);
    u.write('stage-released', releaseBody('cure'));
    expect(fold(u.entries).stages.get('cure')!.word).toBe('released');
    const state = atMoment(fold(u.entries), CLOCK + 60 * HOUR_MS);
    expect(showerDay(state, morning).windows.at(-1)!.kind).toBe('ready');
    fill(u, CLOCK + 50 * HOUR_MS, [[0, 0]], 0);
    const wet = showerDay(fold(u.entries), morning);
    expect(wet.windows.find((w) => w.kind === 'water')).toMatchObject({
      fromMs: CLOCK + 50 * HOUR_MS,
      toMs: CLOCK + 74 * HOUR_MS,
    });
    expect(wet.readByMs).toBe(CLOCK + 76 * HOUR_MS);
    u.write('flood-ended', { lowestLevelMm: 76, verdict: 'aborted' });
    const ended = showerDay(fold(u.entries), morning);
    expect(ended.readByMs).toBeNull();
    expect(ended.windows.at(-1)).toMatchObject({ kind: 'ready', fromMs: Date.parse(u.entries.at(-1)!.observedAt) });
  });
});

describe('the sealant-jointed board', () => {
  it('goes from its drain to the release to tile by rule data alone', () => {
    const t = tablet(1);
    t.write('shower-created', { name: 'S', job: 'J', crewId: 'crew', timeZone: 'UTC' });
    t.write('geometry-set', { version: 1, geometry: sampleShower({ widthMm: 900, depthMm: 900 }) });
    t.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'sealant-board' });
    for (const stage of [
      'drain-rough-in',
      'base',
      'boards',
      'penetrations',
      'curb',
      'membrane',
      'drain-tie-in',
      'cure',
    ]) {
      pass(t, stage);
      expect(blockersOf(fold(t.entries), stage)).toEqual([]);
      t.write('stage-released', releaseBody(stage));
    }
    fill(
      t,
      CLOCK + 3 * HOUR_MS,
      [
        [0, 0],
        [24, 2],
      ],
      2,
    );
    end(t);
    t.write('stage-released', releaseBody('flood-test'));
    pass(t, 'protection');
    t.hears([{ ...t.entries[0]!, orderAt: orderAtOf(CLOCK + 30 * HOUR_MS, 0) }]);
    t.write('stage-released', releaseBody('protection'));
    const { stages } = fold(t.entries);
    expect([...stages].filter(([, s]) => s.begun).map(([key, s]) => [key, s.word])).toEqual(
      [
        'drain-rough-in',
        'base',
        'boards',
        'penetrations',
        'curb',
        'membrane',
        'drain-tie-in',
        'cure',
        'flood-test',
        'protection',
      ].map((key) => [key, 'released']),
    );
  });
});
