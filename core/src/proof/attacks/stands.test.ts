import { describe, expect, it } from 'vitest';
import { judgeStage } from '../../checks/judge';
import type { Entry } from '../../log/entry';
import { endFlood, flooded, HOUR_MS, logged, PLACES, passFlood, readyForWater, waterIn } from '../../tests/sampleFlood';
import { sampleShower } from '../../tests/sampleShower';
import {
  begun,
  byOther,
  CREW,
  climb,
  fold,
  lapReading,
  MANAGER,
  pass,
  placeOf,
  releaseBody,
  tablet,
} from '../../tests/sampleTablet';
import { blockersOf } from '../holds/release';
import { releaseStatement } from '../holds/stand';

const IN = 25.4;
const foot = 'floor-wall|floor|wall:back';
const word = (entries: readonly Entry[], stage: string) => fold(entries).stages.get(stage)?.word;
const why = (entries: readonly Entry[], stage: string) => fold(entries).stages.get(stage)?.because?.cause;
const verdict = (entries: readonly Entry[]) => judgeStage(fold(entries), 'flood-test')[0]!.verdict;
const workDone = (stage: string) => ({ stage, crewId: 'crew', who: 'crew', day: '2026-01-02' });

describe('a release stands only while its judgement holds', () => {
  it('a redo below takes the stages above with it, each with its reason', () => {
    const t = begun();
    climb(t, 'drain-tie-in');
    const joint = [...fold(t.entries).seamById.keys()].find((id) => id.includes('board-joint|wall:left'))!;
    t.write('redo', { stage: 'boards', places: [placeOf(fold(t.entries), joint)], reason: 'board out' });
    expect([word(t.entries, 'boards'), why(t.entries, 'boards')]).toEqual(['held', 'redo']);
    expect([word(t.entries, 'curb'), why(t.entries, 'curb')]).toEqual(['held', 'lower-stage']);
    expect(word(t.entries, 'base')).toBe('released');
    pass(t, 'boards');
    t.write('stage-released', releaseBody('boards'));
    expect(word(t.entries, 'curb')).toBe('released');
  });

  it('an acceptance that is withdrawn contests what rested on it', () => {
    const t = begun();
    pass(t, 'base', (r) => r.check.id === 'bedding');
    const asked = t.write('deviation-asked', {
      stage: 'base',
      check: 'bedding',
      place: { element: 'floor' },
      geometryVersion: 1,
      ruleVersion: fold(t.entries).rules!.book.version,
      verdict: 'unseen',
      reason: 'glued before the visit',
    });
    let decided = '';
    byOther(t, MANAGER, (boss) => {
      decided = boss.write('deviation-decided', { asked, accepted: true, reason: 'sound' });
    });
    t.write('stage-released', releaseBody('base'));
    expect(word(t.entries, 'base')).toBe('released');
    byOther(t, MANAGER, (boss) => boss.write('correction', { target: decided, action: 'withdraw' }));
    expect([word(t.entries, 'base'), why(t.entries, 'base')]).toEqual(['contested', 'came-to-light']);
  });

  it('dimensions that take its evidence away hold it, and the old ones give it back', () => {
    const t = begun();
    climb(t, 'penetrations');
    t.write('geometry-set', { version: 2, geometry: sampleShower({ widthMm: 70 * IN }) });
    expect([word(t.entries, 'boards'), why(t.entries, 'boards')]).toEqual(['held', 'dimensions']);
    t.write('geometry-set', { version: 3, geometry: sampleShower() });
    expect(word(t.entries, 'boards')).toBe('released');
  });

  it('work told later starts its wait anew', () => {
    const t = begun();
    readyForWater(t);
    expect(word(t.entries, 'cure')).toBe('released');
    byOther(t, CREW, (crew) => crew.write('work-done', workDone('membrane')));
    expect([word(t.entries, 'cure'), why(t.entries, 'cure')]).toEqual(['held', 'work']);
  });

  it('a failing reading taken later contests it, and its defect put right lets it stand again', () => {
    const t = begun();
    climb(t, 'drain-tie-in');
    const bad = lapReading(t, foot, 'wall:back', 700, 40);
    expect([word(t.entries, 'membrane'), why(t.entries, 'membrane')]).toEqual(['contested', 'came-to-light']);
    t.write('correction', { target: bad, action: 'withdraw' });
    expect(word(t.entries, 'membrane')).toBe('released');
  });

  it('a stage above a contested one is contested with it', () => {
    const t = begun();
    readyForWater(t);
    lapReading(t, foot, 'wall:back', 700, 40);
    expect([word(t.entries, 'membrane'), word(t.entries, 'drain-tie-in'), word(t.entries, 'cure')]).toEqual(
      Array(3).fill('contested'),
    );
  });

  const judgedBefore = { 'flood-verdict': '1', 'lap-verdict': '1' };
  /** A test whose leak today's calculation does not rule out, released as it was stated by `calculations`. */
  function releasedBy(calculations: Record<string, string>) {
    const t = begun();
    readyForWater(t);
    waterIn(t);
    logged(t, { leakMmPerDay: 0.8, evaporationMmPerDay: 6 });
    endFlood(t);
    const stated = releaseStatement(fold(t.entries), 'flood-test');
    const verdicts = { 'holds-water shower ': 'pass' as const };
    t.write('stage-released', { ...releaseBody('flood-test'), ...stated, verdicts, calculations });
    return t;
  }

  it('a newer calculation alone moves nothing; what it says is shown beside', () => {
    const t = releasedBy(judgedBefore);
    expect(verdict(t.entries)).not.toBe('pass');
    const old = fold(t.entries).stages.get('flood-test')!;
    expect([old.word, old.beside.map((b) => b.check)]).toEqual(['released', ['holds-water']]);
    expect(word(releasedBy({ 'flood-verdict': '2' }).entries, 'flood-test')).toBe('contested');
    expect(word(releasedBy({}).entries, 'flood-test')).toBe('contested');
  });

  it('nor is an older one believed after its time, or once something else was found', () => {
    const t = releasedBy(judgedBefore);
    const release = t.entries.at(-1)!;
    const late = new Map([[release.id, { skewMs: 1e12, receivedAtMs: Date.parse('2031-01-01'), imported: false }]]);
    expect(fold(t.entries, late).stages.get('flood-test')!.word).toBe('contested');
    t.write('moisture-look', { where: PLACES[0]!, found: true, answer: 'wet', moment: 'end' });
    expect(word(t.entries, 'flood-test')).toBe('contested');
  });
});

describe('a flood proves the basin as it was', () => {
  const whole = (element: string) => ({ stage: 'membrane', places: [{ element }], reason: 'built again' });

  it.each([
    ['a seam at the floor', foot],
    ['the floor', 'floor'],
    ['a wall that stands in the water', 'wall:back'],
    ['the drain', 'drain:d'],
    ['the whole shower', 'shower'],
  ])('a redo of %s voids the test; tile is held until a new one passed', (_name, element) => {
    const t = flooded(begun());
    expect(word(t.entries, 'flood-test')).toBe('released');
    t.write('redo', whole(element));
    const state = fold(t.entries);
    expect(state.flood).toMatchObject({ voided: { cause: 'redo' }, provedBelowMm: null });
    expect([word(t.entries, 'flood-test'), why(t.entries, 'flood-test')]).toEqual(['held', 'flood-voided']);
    expect([word(t.entries, 'cure'), why(t.entries, 'cure')]).toEqual(['held', 'redo']);
    expect(verdict(t.entries)).toBe('unseen');
    expect(blockersOf(state, 'tile').some((b) => b.kind === 'lower-stage' && b.lower === 'flood-test')).toBe(true);
    for (const stage of ['membrane', 'drain-tie-in']) {
      pass(t, stage);
      t.write('stage-released', releaseBody(stage));
    }
    t.until(t.nowMs() + 30 * HOUR_MS);
    t.write('stage-released', releaseBody('cure'));
    passFlood(t);
    expect(verdict(t.entries)).toBe('pass');
    t.write('stage-released', releaseBody('flood-test'));
    expect(word(t.entries, 'flood-test')).toBe('released');
  });

  it('a redo above the line leaves it', () => {
    const t = flooded(begun());
    const lap = [...fold(t.entries).seamById.keys()].find((id) => id.includes('sheet-lap|wall:back'))!;
    t.write('redo', { stage: 'membrane', places: [placeOf(fold(t.entries), lap)], reason: 'x' });
    expect(fold(t.entries).flood!.voided).toBeNull();
    expect(verdict(t.entries)).toBe('pass');
  });

  it('a redo of a stage above the flood leaves it', () => {
    const t = flooded(begun());
    t.write('redo', { stage: 'protection', places: [{ element: 'floor' }], reason: 'x' });
    expect(verdict(t.entries)).toBe('pass');
  });

  it('work told after the water went in voids it, also when it is told before the test was written down', () => {
    const t = flooded(begun());
    byOther(t, CREW, (crew) => crew.write('work-done', workDone('membrane')));
    expect(fold(t.entries).flood!.voided).toMatchObject({ cause: 'work' });
    const late = begun();
    readyForWater(late);
    const startedAt = new Date(late.nowMs()).toISOString();
    late.until(late.nowMs() + HOUR_MS);
    byOther(late, CREW, (crew) => crew.write('work-done', workDone('drain-tie-in')));
    late.write('flood-started', { waterLineMm: 76.2, plannedHours: 24, method: 'logger', startedAt });
    expect(fold(late.entries).flood!.voided).toMatchObject({ cause: 'work' });
  });

  it('work at a later stage does not', () => {
    const t = flooded(begun());
    byOther(t, CREW, (crew) => crew.write('work-done', workDone('tile')));
    expect(verdict(t.entries)).toBe('pass');
  });

  it('another drain or another curb voids it, a higher wall does not', () => {
    const other = (change: object) => {
      const t = flooded(begun());
      t.write('geometry-set', { version: 2, geometry: { ...sampleShower(), ...change } as never });
      return fold(t.entries).flood!.voided?.cause ?? null;
    };
    const { drain, edges } = sampleShower();
    expect(other({ drain: { ...drain, xMm: drain.xMm + 100 } })).toBe('dimensions');
    expect(other({ edges: edges.map((e) => (e.kind === 'curb' ? { ...e, heightMm: 60 } : e)) })).toBe('dimensions');
    expect(other({ perimeterRiseMm: 40 })).toBe('dimensions');
    expect(
      other({ edges: edges.map((e) => (e.kind === 'wall' ? { ...e, heightMm: e.heightMm + 200 } : e)) }),
    ).toBeNull();
  });

  it('filled before the layers it tests were there it proves nothing', () => {
    const t = begun();
    climb(t, 'membrane');
    passFlood(t);
    for (const stage of ['membrane', 'drain-tie-in']) {
      pass(t, stage);
      t.write('stage-released', releaseBody(stage));
    }
    t.until(t.nowMs() + 60 * HOUR_MS);
    t.write('stage-released', releaseBody('cure'));
    expect(verdict(t.entries)).not.toBe('pass');
    t.write('stage-released', releaseBody('flood-test'));
    expect(word(t.entries, 'flood-test')).toBe('contested');
  });

  it('a redo of a wall takes its seams, corners, openings and what lies on it', () => {
    const t = begun({ niche: true });
    climb(t, 'drain-tie-in');
    t.write('redo', { stage: 'membrane', places: [{ element: 'wall:back' }], reason: 'sheet off' });
    const state = fold(t.entries);
    const dead = (element: string) =>
      (state.evidence.get(element) ?? []).filter((e) => e.stage === 'membrane').every((e) => e.voided);
    expect(dead(foot)).toBe(true);
    const corner = state.geometry!.model.corners.find((c) => c.faces.includes('wall:back'))!;
    expect(
      state.evidence
        .get(corner.id)!
        .filter((e) => e.stage === 'membrane')
        .every((e) => e.voided),
    ).toBe(true);
    const left = state.evidence.get('floor-wall|floor|wall:left')!.filter((e) => e.stage === 'membrane');
    expect(left.some((e) => !e.voided)).toBe(true);
  });

  it('a redo of the shower takes everything from its stage on', () => {
    const t = flooded(begun());
    t.write('redo', { stage: 'boards', places: [{ element: 'shower' }], reason: 'all out' });
    const state = fold(t.entries);
    const live = [...state.evidence.values()].flat().filter((e) => !e.voided && e.stage !== 'base');
    expect(live).toEqual([]);
    expect(word(t.entries, 'base')).toBe('released');
    expect(word(t.entries, 'membrane')).toBe('held');
  });
});

describe('what a flood test needs comes from the rule book', () => {
  it.each<[string, (t: ReturnType<typeof begun>) => void]>([
    [
      'a short test that planned to be short',
      (t) => {
        t.write('flood-started', {
          waterLineMm: 76.2,
          plannedHours: 2,
          method: 'logger',
          resolutionMm: 0.1,
          smallestLeakMmPerDay: 1,
        });
        for (const where of PLACES) t.write('moisture-look', { where, found: false, answer: 'dry', moment: 'start' });
        logged(t, { hours: 8 });
        endFlood(t);
      },
    ],
    [
      'a test that was asked to exclude a flood only',
      (t) => {
        t.write('flood-started', {
          waterLineMm: 76.2,
          plannedHours: 24,
          method: 'logger',
          resolutionMm: 0.1,
          smallestLeakMmPerDay: 50,
        });
        for (const where of PLACES) t.write('moisture-look', { where, found: false, answer: 'dry', moment: 'start' });
        logged(t, { leakMmPerDay: 0.8, evaporationMmPerDay: 6 });
        endFlood(t);
      },
    ],
    [
      'a puddle',
      (t) => {
        waterIn(t, 30);
        logged(t);
        endFlood(t);
      },
    ],
    [
      'nobody looked below before the water',
      (t) => {
        waterIn(t, 76.2, []);
        logged(t);
        endFlood(t);
      },
    ],
    [
      'nobody looked at one place at the end',
      (t) => {
        waterIn(t);
        logged(t);
        endFlood(t, 'pass', PLACES.slice(1));
      },
    ],
    [
      'a logger that ran the last hours only',
      (t) => {
        waterIn(t);
        logged(t, { fromHours: 18, hours: 25 });
        endFlood(t);
      },
    ],
  ])('%s is undecided, never a pass', (_name, run) => {
    const t = begun();
    readyForWater(t);
    run(t);
    expect(verdict(t.entries)).toBe('undecided');
    expect(
      fold(t.entries).flood!.end!.short.length + (fold(t.entries).flood!.end!.figures?.reasons.length ?? 0),
    ).toBeGreaterThan(0);
  });

  it('says by how much it fell short', () => {
    const t = begun();
    readyForWater(t);
    waterIn(t, 60);
    logged(t);
    endFlood(t);
    const depth = fold(t.entries).flood!.end!.short.find((s) => s.kind === 'depth')!;
    expect(depth.by).toBeCloseTo(50.8 - (60 - 0.75 * IN), 0);
  });
});

describe('a stated verdict is never believed', () => {
  it('an end without readings is undecided', () => {
    const t = begun();
    readyForWater(t);
    waterIn(t);
    t.until(t.nowMs() + 25 * HOUR_MS);
    endFlood(t, 'pass');
    expect(verdict(t.entries)).toBe('undecided');
    expect(fold(t.entries).flood!.provedBelowMm).toBeNull();
  });

  it('a pass stated over a leak fails, a fail stated over a tight floor passes', () => {
    const t = begun();
    readyForWater(t);
    waterIn(t);
    logged(t, { leakMmPerDay: 6 });
    endFlood(t, 'pass');
    expect(verdict(t.entries)).toBe('fail');
    const tight = begun();
    readyForWater(tight);
    waterIn(tight);
    logged(tight);
    endFlood(tight, 'fail');
    expect(verdict(tight.entries)).toBe('pass');
  });

  it('an end of the first version, with neither inputs nor readings, proves nothing', () => {
    const t = begun();
    readyForWater(t);
    t.write('flood-started', { waterLineMm: 76, plannedHours: 24 });
    t.write('flood-ended', { lowestLevelMm: 74, verdict: 'pass' });
    expect([verdict(t.entries), fold(t.entries).flood!.provedBelowMm]).toEqual(['undecided', null]);
  });
});

describe('clocks', () => {
  it('waits run on the instant corrected by the skew of the device', () => {
    const fast = begun();
    climb(fast, 'drain-tie-in');
    pass(fast, 'drain-tie-in');
    fast.write('stage-released', releaseBody('drain-tie-in'));
    const laid = fold(fast.entries).stages.get('drain-tie-in');
    expect(laid?.word).toBe('released');
    // The tablet runs 20 h ahead: by its own clock the mortar is old enough, by the server's it is not.
    const ahead = tablet(77, fast.nowMs() + 26 * HOUR_MS);
    ahead.hears(fast.entries);
    const id = ahead.write('note', { words: 'now' });
    const all = [...fast.entries, ...ahead.entries];
    const arrivals = new Map([[id, { skewMs: -20 * HOUR_MS, receivedAtMs: null, imported: false }]]);
    expect(judgeStage(fold(all), 'cure')[0]!.verdict).toBe('pass');
    expect(judgeStage(fold(all, arrivals), 'cure')[0]!.verdict).toBe('undecided');
  });

  it("never run ahead of the server's time", () => {
    const t = begun();
    climb(t, 'drain-tie-in');
    pass(t, 'drain-tie-in');
    t.write('stage-released', releaseBody('drain-tie-in'));
    const ahead = tablet(78, t.nowMs() + 26 * HOUR_MS);
    ahead.hears(t.entries);
    const id = ahead.write('note', { words: 'now' });
    const arrivals = new Map([[id, { skewMs: 0, receivedAtMs: t.nowMs() + HOUR_MS, imported: false }]]);
    expect(judgeStage(fold([...t.entries, ...ahead.entries], arrivals), 'cure')[0]!.verdict).toBe('undecided');
  });
});
