import { describe, expect, it } from 'vitest';
import { verdictInput } from '../../checks/floodReadings';
import { judge, judgeStage } from '../../checks/judge';
import { waterProof } from '../../checks/waterProof';
import { showerDay } from '../../plan/dayWindows';
import { floodCheckOf } from '../../rules/ruleBook';
import { endFlood, HOUR_MS, logged, PLACES, passFlood, readyForWater, waterIn } from '../../tests/sampleFlood';
import { sampleShower } from '../../tests/sampleShower';
import {
  BOOK,
  begun,
  byOther,
  CLOCK,
  climb,
  fold,
  MANAGER,
  pass,
  releaseBody,
  seamId,
  type Tablet,
  tablet,
} from '../../tests/sampleTablet';
import { atMoment, foldShower } from '../fold/foldShower';
import { blockersOf } from '../holds/release';
import { buildLedger } from '../shown/seamLine';

/** A shower released up to its drain, with the tablet that wrote it. */
function climbed(): Tablet {
  const t = begun();
  climb(t, 'drain-tie-in');
  pass(t, 'drain-tie-in');
  t.write('stage-released', releaseBody('drain-tie-in'));
  return t;
}
const floodVerdictNow = (t: Tablet) => judgeStage(fold(t.entries), 'flood-test')[0]!.verdict;

describe('a flood test', () => {
  it('that passes proves what lies 5 mm below its lowest line, for "holds water" alone', () => {
    const t = readyForWater(begun());
    waterIn(t);
    logged(t);
    expect(floodVerdictNow(t)).toBe('unseen');
    endFlood(t);
    const state = fold(t.entries);
    expect(floodVerdictNow(t)).toBe('pass');
    const { provedBelowMm, waterLineMm } = state.flood!;
    expect(provedBelowMm).toBeCloseTo(waterLineMm - 5, 6);
    const lines = buildLedger(state, ['membrane']).lines;
    const foot = lines.find((l) => l.seam === seamId(state, 'floor-wall'))!;
    expect(foot.pieces.every((p) => p.water && p.state !== 'unseen')).toBe(true);
    const outer = lines.find((l) => l.seam.startsWith('curb-outside-floor'))!;
    expect(outer.pieces.some((p) => p.water)).toBe(false);
    const upright = state.geometry!.model.seams.find((s) => s.kind === 'wall-wall-inside')!;
    const proof = waterProof(state.geometry!.model, provedBelowMm!);
    const wet = proof.under.find((u) => u.seam.id === upright.id)!.wetMm;
    expect(wet).toBeCloseTo(provedBelowMm! - upright.lowMm, 6);
    expect(proof.above.find((a) => a.seam.id === upright.id)!.dryMm).toBeCloseTo(upright.lengthMm - wet, 6);
  });

  it('that leaks fails, opens a defect and holds the stage; the next one that passes closes it', () => {
    const t = readyForWater(begun());
    waterIn(t);
    logged(t, { leakMmPerDay: 7 });
    const id = endFlood(t);
    const state = fold(t.entries);
    expect(floodVerdictNow(t)).toBe('fail');
    expect(state.flood!.provedBelowMm).toBeNull();
    expect(state.defects.get(id)).toMatchObject({ severity: 'stop', closedAt: null, check: 'holds-water' });
    expect(blockersOf(state, 'flood-test').map((b) => b.kind)).toContain('defect');
    passFlood(t);
    const later = fold(t.entries);
    expect(later.defects.get(id)!.closedAt).not.toBeNull();
    expect(later.earlierFloods).toHaveLength(1);
  });

  it('is not decided while a place was not seen, and says nothing when it was broken off', () => {
    const t = readyForWater(begun());
    waterIn(t);
    logged(t);
    for (const where of PLACES)
      t.write('moisture-look', { where, found: false, answer: 'could-not-see', moment: 'end' });
    endFlood(t, 'pass', []);
    expect(floodVerdictNow(t)).toBe('undecided');
    waterIn(t);
    logged(t);
    endFlood(t, 'aborted');
    expect(floodVerdictNow(t)).toBe('unseen');
  });

  it('with water somewhere stays a leak when the rules are set to begin after it before it ends', () => {
    const t = readyForWater(begun());
    waterIn(t);
    t.write('moisture-look', { where: PLACES[0]!, found: true, answer: 'wet', moment: 'leaving' });
    const later = { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet', beginsAt: 'tile' };
    byOther(t, MANAGER, (boss) => boss.write('rules-pinned', later));
    expect(fold(t.entries).rules!.pinned.beginsAt).toBe('tile');
    const id = endFlood(t);
    const state = fold(t.entries);
    expect(state.flood!.end!.verdict).toBe('fail');
    expect(state.defects.get(id)).toMatchObject({ stage: 'flood-test', severity: 'stop', closedAt: null });
  });

  it('broken off with water somewhere is a leak all the same', () => {
    const t = readyForWater(begun());
    waterIn(t);
    t.write('moisture-look', { where: PLACES[0]!, found: true, answer: 'wet', moment: 'leaving' });
    endFlood(t, 'aborted');
    expect(floodVerdictNow(t)).toBe('fail');
  });

  it('is judged with what arrives late and belongs to it, and contests what was released on it', () => {
    const t = readyForWater(begun());
    waterIn(t);
    const other = tablet(7, CLOCK + 1);
    other.hears(t.entries);
    other.write('moisture-look', { where: 'below', found: true, answer: 'wet', moment: 'leaving' });
    logged(t);
    endFlood(t);
    t.write('stage-released', releaseBody('flood-test'));
    expect(fold(t.entries).flood!.end).toMatchObject({ verdict: 'pass', stated: 'pass' });
    const after = fold([...t.entries, ...other.entries]);
    expect(after.flood!.end).toMatchObject({ verdict: 'fail', stated: 'pass' });
    expect(after.stages.get('flood-test')!.word).toBe('contested');
  });

  it('takes its pass back when moisture is found after it was ended', () => {
    const t = readyForWater(begun());
    passFlood(t);
    t.write('moisture-look', { where: 'below', found: true, answer: 'wet', moment: 'leaving' });
    expect(floodVerdictNow(t)).toBe('fail');
    expect(fold(t.entries).flood!.provedBelowMm).toBeNull();
  });

  it('undecided holds until a manager who did not ask accepts it; a new test with a worse bound needs a new word', () => {
    const t = readyForWater(begun());
    const undecided = (leakMmPerDay: number) => {
      waterIn(t);
      logged(t, { leakMmPerDay, evaporationMmPerDay: 6 });
      endFlood(t);
    };
    undecided(0.7);
    const holds = () => blockersOf(fold(t.entries), 'flood-test').length;
    expect(floodVerdictNow(t)).toBe('undecided');
    const asked = t.write('deviation-asked', {
      stage: 'flood-test',
      check: 'holds-water',
      place: { element: 'shower' },
      geometryVersion: 1,
      ruleVersion: BOOK.version,
      verdict: 'undecided',
      reason: 'owner waits',
    });
    expect(holds()).toBe(2);
    byOther(t, MANAGER, (boss) => boss.write('deviation-decided', { asked, accepted: true, reason: 'seen together' }));
    expect(holds()).toBe(0);
    expect(fold(t.entries).flood!.provedBelowMm).toBeNull();
    undecided(0.95);
    expect([floodVerdictNow(t), holds()]).toEqual(['undecided', 1]);
  });

  it('by a book that names no smallest leak can not pass', () => {
    const t = readyForWater(begun());
    passFlood(t);
    const book = structuredClone(BOOK);
    for (const m of book.methods) floodCheckOf(m)!.check.smallestLeakMmPerDay = null;
    const { end } = foldShower(t.entries, () => book).flood!;
    expect([end!.verdict, end!.figures!.reasons]).toEqual([
      'undecided',
      expect.arrayContaining(['smallest-leak-not-set']),
    ]);
  });

  it("maps a logger's series to hours, and ends its lowest line at the first power cut", () => {
    const t = readyForWater(begun());
    waterIn(t);
    const { startMs } = fold(t.entries).flood!;
    t.until(startMs + 3 * HOUR_MS);
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
    const { check } = floodCheckOf(BOOK.methods[0]!)!;
    expect(verdictInput(test, check)!.readings.map((r) => r.atHours)).toEqual([0, 1, 2]);
    t.write('flood-ended', { lowestLevelMm: 76, verdict: 'aborted' });
    expect(fold(t.entries).flood!.waterLineMm).toBe(75.2);
  });

  it('typed as begun later than it was written down begins when it was written', () => {
    const t = readyForWater(begun());
    const startedAt = new Date(t.nowMs() + 40 * HOUR_MS).toISOString();
    t.write('flood-started', { waterLineMm: 76.2, plannedHours: 24, startedAt });
    expect(fold(t.entries).flood!.startMs).toBe(t.nowMs());
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
    u.until(CLOCK + 40 * HOUR_MS);
    u.write('stage-released', releaseBody('cure'));
    expect(fold(u.entries).stages.get('cure')!.word).toBe('released');
    const state = atMoment(fold(u.entries), CLOCK + 60 * HOUR_MS);
    expect(showerDay(state, morning).windows.at(-1)!.kind).toBe('ready');
    u.until(CLOCK + 50 * HOUR_MS);
    waterIn(u);
    const { startMs } = fold(u.entries).flood!;
    const wet = showerDay(fold(u.entries), morning);
    expect(wet.windows.find((w) => w.kind === 'water')).toMatchObject({
      fromMs: startMs,
      toMs: startMs + 24 * HOUR_MS,
    });
    expect(wet.readByMs).toBe(startMs + 26 * HOUR_MS);
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
    passFlood(t);
    t.write('stage-released', releaseBody('flood-test'));
    pass(t, 'protection');
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
