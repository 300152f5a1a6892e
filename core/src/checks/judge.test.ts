import { describe, expect, it } from 'vitest';
import type { Body } from '../log/bodies';
import { foldShower } from '../proof/fold/foldShower';
import { ownBlockersOf } from '../proof/holds/release';
import { RuleBook } from '../rules/ruleBook';
import { HOUR_MS } from '../tests/sampleFlood';
import { sampleShower } from '../tests/sampleShower';
import { byOther, MANAGER, placeOf, releaseBody, type Tablet, tablet } from '../tests/sampleTablet';
import { laidIn } from './cureOfShower';
import { floodFound } from './flood';
import { isLeftOpen, judge } from './judge';
import { waitingUntilMs } from './judges';
import { requirementsOf } from './requirements';
import { standingShots, surveyedFloor, surveyFound, surveyLimits } from './survey';
import { judgeWait, waitLayers } from './wait';

const foot = 'floor-wall|floor|wall:back';
const base = { why: 'w', source: 'common practice, no source', severity: 'fix', label: 'x' };
const floor = { element: 'face', kinds: ['floor'] };
const looked = (id: string, on: object, more: object = {}) => ({ ...base, id, kind: 'looked', on, ...more });
const number = (id: string, limit: object | null) => ({
  ...base,
  id,
  kind: 'number',
  on: floor,
  unit: 'count',
  limit,
  instrument: 'eye',
});
const wait = (id: string, after: string[], more: object = {}) => ({
  ...base,
  id,
  kind: 'wait',
  on: { element: 'shower' },
  after,
  hours: 10,
  ...more,
});
const survey = (more: object = {}) => ({
  ...base,
  id: 'survey',
  kind: 'survey',
  on: floor,
  measures: { of: 'fall', minFall: 0.02, maxFall: 0.05, pondMm: 2 },
  uncertaintyMm: 0.8,
  shotsAtLeast: 4,
  spacingMm: 300,
  ...more,
});

/** A book of a stage of layers, one of waits and an empty one. */
const bookOf = (checks: object[], waits: object[] = []) =>
  RuleBook.parse({
    id: 'b',
    version: 1,
    title: 'b',
    deference: ['x'],
    defectKinds: [],
    methods: [
      {
        key: 'm',
        label: 'm',
        stages: [
          { key: 'one', order: 1, label: 'One', holdPoint: true, checks },
          { key: 'empty', order: 2, label: 'Empty', holdPoint: true, checks: [] },
          { key: 'cure', order: 3, label: 'Cure', holdPoint: true, checks: waits },
        ],
      },
    ],
  });

function site(book: RuleBook): {
  t: Tablet;
  state: () => ReturnType<typeof foldShower>;
  on: (id: string, element?: string) => ReturnType<typeof judge>;
} {
  const t = tablet(1);
  t.write('shower-created', { name: 's', job: 'j', crewId: 'c', timeZone: 'UTC' });
  t.write('geometry-set', { version: 1, geometry: sampleShower() });
  t.write('rules-pinned', { ruleBook: 'b', version: 1, method: 'm' });
  const state = () => foldShower(t.entries, () => book);
  const on = (id: string, element?: string) => {
    const now = state();
    return judge(now, now.requirements.find((r) => r.check.id === id && (!element || r.element === element))!);
  };
  return { t, state, on };
}
const look = (t: Tablet, check: string, answer: string, more: object = {}) =>
  t.write('look', { stage: 'one', checks: [check], places: [{ element: 'floor' }], answer, ...more } as Body<'look'>);

describe('a single figure', () => {
  it('is unseen, then inside or outside its limit to the last bit; the last one told counts', () => {
    const { t, on } = site(
      bookOf([number('n', { atLeast: 2, atMost: 4 }), number('least', { atLeast: 2 }), number('none', null)]),
    );
    expect(on('n')).toMatchObject({ verdict: 'unseen', number: null, worst: {} });
    for (const [value, verdict] of [
      [2, 'pass'],
      [4, 'pass'],
      [1.99, 'fail'],
      [4.01, 'fail'],
      [3, 'pass'],
    ] as const) {
      look(t, 'n', 'ok', { number: value });
      expect([value, on('n').verdict]).toEqual([value, verdict]);
    }
    expect(on('n')).toMatchObject({ number: 3, worst: { low: -3, high: 3 } });
    look(t, 'least', 'ok', { number: 9 });
    expect(on('least').worst).toEqual({ low: -9 });
    look(t, 'none', 'ok', { number: 9 });
    expect(on('none')).toMatchObject({ verdict: 'undecided', number: 9 });
  });
  it('said to be wrong without a figure fails, said to be sound without one says nothing', () => {
    const { t, on } = site(bookOf([number('n', { atLeast: 2 })]));
    look(t, 'n', 'ok');
    expect(on('n').verdict).toBe('unseen');
    look(t, 'n', 'defect');
    expect(on('n').verdict).toBe('fail');
    look(t, 'n', 'ok', { number: 3 });
    expect(on('n').verdict).toBe('pass');
  });
});

describe('what somebody looked at', () => {
  it('"not applicable" on a whole passes; where it waits for a manager it is undecided, only if nothing else is missing', () => {
    const { t, on } = site(
      bookOf([
        looked('stop', floor, { severity: 'stop' }),
        looked('fix', floor),
        looked('seam', { element: 'seam', kinds: ['floor-wall'], sides: 'none' }, { severity: 'stop' }),
      ]),
    );
    const no = (check: string, places: object[] = [{ element: 'floor' }]) =>
      t.write('look', { stage: 'one', checks: [check], places, answer: 'not-applicable', reason: 'r' } as Body<'look'>);
    no('fix');
    expect(on('fix')).toMatchObject({ verdict: 'pass', waitsForManager: false });
    no('stop');
    expect(on('stop')).toMatchObject({ verdict: 'undecided', waitsForManager: true, satisfied: false });
    byOther(t, MANAGER, (boss) =>
      boss.write('look', {
        stage: 'one',
        checks: ['stop'],
        places: [{ element: 'floor' }],
        answer: 'not-applicable',
        reason: 'r',
      } as Body<'look'>),
    );
    expect(on('stop')).toMatchObject({ verdict: 'pass', waitsForManager: false });
    // Half of a seam waits, the other half was never looked at: that is unseen, not a manager's matter alone.
    const place = (fromMm: number, toMm: number) =>
      placeOf(
        foldShower(t.entries, () => bookOf([])),
        foot,
        { fromMm, toMm },
      );
    no('seam', [place(0, 700)]);
    expect(on('seam', foot)).toMatchObject({ verdict: 'unseen', waitsForManager: true });
    no('seam', [place(700, 1524)]);
    expect(on('seam', foot)).toMatchObject({ verdict: 'undecided', waitsForManager: true });
    t.write('look', { stage: 'one', checks: ['seam'], places: [place(0, 1524)], answer: 'ok' } as Body<'look'>);
    expect(on('seam', foot)).toMatchObject({ verdict: 'pass', waitsForManager: false });
  });
  it('approval is asked for where the book says so: seen good it is undecided', () => {
    const { t, on } = site(bookOf([looked('named', floor, { needsApproval: true })]));
    expect(on('named').verdict).toBe('unseen');
    look(t, 'named', 'ok');
    expect(on('named').verdict).toBe('undecided');
    look(t, 'named', 'defect');
    expect(on('named').verdict).toBe('fail');
  });
});

describe('a survey', () => {
  const shot = (t: Tablet, xMm: number, yMm: number, zMm: number) =>
    t.write('reading', {
      stage: 'one',
      check: 'survey',
      place: { element: 'floor' },
      atMm: 0,
      valueMm: 0,
      typed: '0',
      instrument: 'laser',
      shot: { xMm, yMm, zMm },
    } as Body<'reading'>);
  const [W, D] = [1524, 914.4];
  const cone = (x: number, y: number, slope: number) => slope * Math.max(0, Math.hypot(x - W / 2, y - D / 2) - 55);
  const shoot = (t: Tablet, slope: number) => {
    for (let r = 0; r < 5; r += 1)
      for (let c = 0; c < 7; c += 1) shot(t, (W * c) / 6, (D * r) / 4, cone((W * c) / 6, (D * r) / 4, slope));
  };
  it('nobody began is left open, unless the book demands it; with too few shots it is undecided', () => {
    const free = site(bookOf([survey()]));
    expect(free.on('survey').verdict).toBe('unseen');
    expect(isLeftOpen(free.on('survey'))).toBe(true);
    expect(ownBlockersOf(free.state(), 'one')).toEqual([]);
    const asked = site(bookOf([survey({ required: true })]));
    expect(isLeftOpen(asked.on('survey'))).toBe(false);
    expect(ownBlockersOf(asked.state(), 'one')).toHaveLength(1);
    shot(free.t, 0, 0, 20);
    expect(free.on('survey')).toMatchObject({ verdict: 'undecided', worst: {} });
    expect(isLeftOpen(free.on('survey'))).toBe(false);
  });
  it('judges falls by the shots that stand: a place shot again counts as it was shot last', () => {
    const { t, on, state } = site(bookOf([survey()]));
    shoot(t, 0.03);
    expect(on('survey').verdict).toBe('pass');
    expect(on('survey').worst).toMatchObject({ pond: 0 });
    expect(on('survey').worst.least).toBeCloseTo(-0.03, 3);
    shot(t, 10, 10, cone(0, 0, 0.03) - 20);
    expect(on('survey').verdict).toBe('fail');
    shot(t, 0, 0, cone(0, 0, 0.03));
    expect(on('survey').verdict).toBe('pass');
    expect(standingShots(state().evidence.get('floor')!)).toHaveLength(35);
    shot(t, 31, 0, cone(31, 0, 0.03));
    expect(standingShots(state().evidence.get('floor')!)).toHaveLength(36);
    const flat = site(bookOf([survey()]));
    shoot(flat.t, 0.01);
    expect(flat.on('survey').verdict).toBe('fail');
  });
  it('of flatness goes by the gap under its straightedge, without the drain', () => {
    const flat = (gapMm: number) => survey({ measures: { of: 'flat', straightedgeMm: 600, gapMm } });
    const { t, on, state } = site(bookOf([flat(3)]));
    shoot(t, 0);
    expect(on('survey')).toMatchObject({ verdict: 'pass', worst: { gap: 0 } });
    shot(t, W / 2, D / 2, -8);
    expect(on('survey').verdict).toBe('fail');
    expect(on('survey').worst.gap).toBeGreaterThan(3);
    const model = state().geometry!.model;
    expect(surveyedFloor(model, false).floor.drainRimMm).toBe(0);
    expect(surveyedFloor(model, true).floor.drainRimMm).toBeGreaterThan(0);
    expect(surveyedFloor(model, true).openEdges).toEqual([]);
    const check = state().requirements.find((r) => r.check.id === 'survey')!.check as never;
    expect(surveyLimits(check)).toBeNull();
    // Worked out once for the same shots; other shots of the same drawing have their own.
    const readings = state().evidence.get('floor')!;
    expect(surveyFound(model, check, readings)).toBe(surveyFound(model, check, readings));
    expect(surveyFound(model, check, readings.slice(0, 35)).verdict).toBe('pass');
    expect(surveyFound(model, check, []).verdict).toBe('unseen');
    // All on one line no floor can be made of.
    const line = readings.slice(0, 7);
    expect(surveyFound(model, check, line).verdict).toBe('undecided');
  });
});

describe('a wait', () => {
  const done = (t: Tablet, stage: string) => t.write('work-done', { stage, crewId: 'c', who: 'w', day: '2026-01-02' });
  it('is unseen while one of the stages that it follows is not known to be laid; one without checks does not count', () => {
    const { t, on, state } = site(bookOf([looked('a', floor)], [wait('w', ['one', 'empty', 'unheard-of'])]));
    expect(on('w')).toMatchObject({ verdict: 'unseen', readyAtMs: null });
    done(t, 'empty');
    expect(on('w').verdict).toBe('unseen');
    done(t, 'one');
    const laidMs = t.nowMs();
    expect(on('w')).toMatchObject({ verdict: 'undecided', readyAtMs: laidMs + 10 * HOUR_MS });
    expect(on('w').worst).toEqual({ ready: laidMs + 10 * HOUR_MS });
    expect(waitingUntilMs([on('w')])).toBe(laidMs + 10 * HOUR_MS);
    const check = state().requirements.find((r) => r.check.id === 'w')!.check as never;
    expect(waitLayers(state(), check)!.map((l) => l.stage)).toEqual(['one']);
    t.until(laidMs + 10 * HOUR_MS - 2000);
    t.write('note', { words: 'x' } as Body<'note'>);
    expect(on('w').verdict).toBe('undecided');
    t.write('note', { words: 'x' } as Body<'note'>);
    expect(on('w').verdict).toBe('pass');
    expect(waitingUntilMs([on('w')])).toBeNull();
    const none = site(bookOf([], [wait('w', ['one'])]));
    done(none.t, 'one');
    expect(none.on('w').verdict).toBe('unseen');
  });
  it('begins when the work was finished as it was said: never in the time to come, nor before the layer under it was released', () => {
    const { t, state } = site(bookOf([looked('a', floor)], [wait('w', ['one'])]));
    const say = (stage: string, doneAtMs: number) =>
      t.write('work-done', {
        stage,
        crewId: 'c',
        who: 'w',
        day: '2026-01-02',
        doneAt: new Date(doneAtMs).toISOString(),
      });
    const laidAt = (stage: string) => laidIn(state(), stage, false).at(-1)!.laidAtMs;
    t.until(t.nowMs() + 48 * HOUR_MS);
    const earlier = t.nowMs() - 30 * HOUR_MS;
    say('one', earlier);
    expect(laidAt('one')).toBe(earlier);
    say('one', t.nowMs() + 5 * HOUR_MS);
    expect(laidAt('one')).toBe(t.nowMs());
    look(t, 'a', 'ok');
    t.write('stage-released', releaseBody('one'));
    const releasedMs = t.nowMs();
    t.until(releasedMs + 10 * HOUR_MS);
    say('cure', earlier);
    expect(laidAt('cure')).toBe(releasedMs);
  });
  it('begins with the last that was laid there: work, or what was built again at that stage alone; else the release', () => {
    const { t, state } = site(bookOf([looked('a', floor)], [wait('w', ['one'])]));
    const laid = () => laidIn(state(), 'one', false);
    expect(laid()).toEqual([]);
    look(t, 'a', 'ok');
    t.write('stage-released', {
      stage: 'one',
      judged: { ledgerSeq: 0, ledgerHash: '', deviceSeq: 0 },
      inputs: [],
      verdicts: {},
      ruleVersion: 1,
      calculations: {},
    });
    expect(laid()).toMatchObject([
      { told: 'release', element: null, coat: null, filmRatio: 1, laidAtMs: t.nowMs(), stage: 'one' },
    ]);
    t.write('redo', { stage: 'cure', places: [{ element: 'floor' }], reason: 'r' });
    expect(laid().map((l) => l.told)).toEqual(['release']);
    done(t, 'one');
    expect(laid()).toMatchObject([{ told: 'work', element: null, laidAtMs: t.nowMs() }]);
    t.write('redo', { stage: 'one', places: [{ element: 'floor' }, { element: 'wall:back' }], reason: 'r' });
    expect(laid().map((l) => `${l.told} ${l.element}`)).toEqual(['redo floor', 'redo wall:back', 'work null']);
  });
  it('without a flood none was too early, and nothing is found of it', () => {
    const { t, state } = site(bookOf([looked('a', floor)], [wait('w', ['one'], { hours: 0 })]));
    done(t, 'one');
    const check = state().requirements.find((r) => r.check.id === 'w')!.check as never;
    expect(judgeWait(state(), check, true).verdict).toBe('pass');
    expect(floodFound(state()).verdict).toBe('unseen');
    expect(waitingUntilMs([])).toBeNull();
  });
});

describe('what is asked of a shower', () => {
  const asked = (check: object, methods?: Record<string, string>) => {
    const { state } = site(bookOf([check]));
    const { model } = state().geometry!;
    return requirementsOf(model, bookOf([check]).methods[0]!, (methods as never) ?? null);
  };
  it('each side of a seam, or the seam once; only beside the faces that it names', () => {
    const seam = (more: object) =>
      asked(looked('s', { element: 'seam', kinds: ['floor-wall', 'curb-floor'], ...more }));
    expect(seam({ sides: 'none' }).every((r) => r.side === null && r.hasLength && r.lengthMm > 1)).toBe(true);
    expect(seam({ sides: 'each' })).toHaveLength(2 * seam({ sides: 'none' }).length);
    expect(seam({ sides: 'none', beside: ['wall'] }).map((r) => r.element.split('|')[0])).toEqual([
      'floor-wall',
      'floor-wall',
      'floor-wall',
    ]);
  });
  it('faces, some of their sides, corners, openings, the drain, the shower: each as a whole', () => {
    for (const on of [
      { element: 'corner' },
      { element: 'penetration' },
      { element: 'drain' },
      { element: 'shower' },
      floor,
    ]) {
      const found = asked(looked('s', on));
      expect(found.length).toBeGreaterThan(0);
      expect(found.every((r) => !r.hasLength && r.lengthMm === 1 && r.side === null)).toBe(true);
    }
    const walls = (sides?: string[]) =>
      asked(looked('s', { element: 'face', kinds: ['curb-top', 'curb-inner'], ...(sides ? { sides } : {}) })).map(
        (r) => r.element,
      );
    expect(walls()).toHaveLength(2);
    expect(walls(['top'])).toEqual(walls().filter((id) => id.endsWith(':top')));
  });
  it('seams between parts of two methods, the length of each', () => {
    const parts = { floor: 'a', curb: 'a', walls: 'b', niche: 'b', bench: 'b', ceiling: 'b', 'outside-floor': 'a' };
    const found = asked(looked('t', { element: 'transition' }), parts);
    expect(found.length).toBeGreaterThan(2);
    expect(found.every((r) => r.hasLength && r.side === null)).toBe(true);
    expect(found.some((r) => r.element === foot)).toBe(true);
    expect(asked(looked('t', { element: 'transition' }))).toEqual([]);
  });
  it('of the parts that a check is for', () => {
    expect(asked(looked('s', { element: 'corner' }, { parts: ['niche'] }))).toEqual([]);
    expect(asked(looked('s', { element: 'penetration' }, { parts: ['walls'] })).length).toBeGreaterThan(0);
  });
});
