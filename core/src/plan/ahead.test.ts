import { describe, expect, it } from 'vitest';
import { atMoment, foldShower } from '../proof/fold/foldShower';
import { defaultRuleBook } from '../rules/defaultRuleBook';
import { sampleShower } from '../tests/sampleShower';
import { begun, CLOCK, climb, fold, SHOWER, type Tablet, tablet } from '../tests/sampleTablet';
import { type ShowerAhead, showerAhead } from './ahead';
import { dayStops } from './dayStops';
import { FIRST_WEIGHTS, inspectorDay, movedTo } from './inspectorDay';
import { NOTHING_SET, type PlanWays, planShower, planShowers, type ShowerSet, workTimes } from './planOf';
import { suggestLooks } from './suggestLooks';
import { whatMoved } from './whatMoved';
import { addDaysTo, dayAt, WorkCalendar, workTime } from './workCalendar';

const HOUR = 3_600_000;
const WAYS: PlanWays = { calendar: WorkCalendar.parse({ fromHour: 7, toHour: 16 }), stageHours: {}, looked: {} };
const NO_WAYS = { places: {}, minutes: {}, kmPerHour: 35, start: null };

/** A shower's stages ahead, at a moment. */
const aheadAt = (t: Tablet, ms: number): ShowerAhead => showerAhead(atMoment(fold(t.entries), ms), SHOWER)!;
const planned = (ahead: ShowerAhead, nowMs: number, set: ShowerSet = NOTHING_SET) =>
  planShower(ahead, WAYS, set, workTimes(WAYS.calendar, nowMs), nowMs)!;
/** A log of the air, hour by hour, over some days before a moment: so warm by day, so cold by night. */
function logged(t: Tablet, toMs: number, days: number, day: number, night: number): void {
  const startMs = toMs - days * 24 * HOUR;
  const minutes = Array.from({ length: days * 24 }, (_, k) => k * 60);
  const airC = minutes.map((m) => {
    const hour = new Date(startMs + m * 60_000).getUTCHours();
    return hour >= 8 && hour < 20 ? day : night;
  });
  t.until(toMs);
  t.write('climate-reading', {
    airC: airC.at(-1)!,
    relativeHumidity: 0.5,
    instrument: 'logger',
    series: { startAt: new Date(startMs).toISOString(), minutes, airC, relativeHumidity: airC.map(() => 0.5) },
  } as never);
}

const SHIPPED = defaultRuleBook();
/** A shower of bonded sheet whose membrane and tie-in the crew said to be done; its mortar cures. */
function bonded(): Tablet {
  const t = tablet(5);
  t.write('shower-created', { name: 'Loft', job: 'Mill', crewId: 'crew', timeZone: 'UTC' });
  t.write('geometry-set', { version: 1, geometry: sampleShower() });
  t.write('rules-pinned', {
    ruleBook: SHIPPED.id,
    version: SHIPPED.version,
    method: 'bonded-sheet',
    beginsAt: 'membrane',
  });
  for (const stage of ['membrane', 'drain-tie-in'])
    t.write('work-done', { stage, crewId: 'crew', who: 'Cy', day: '2023-11-14' });
  return t;
}

describe('what a shower has ahead', () => {
  it('goes from to build over built to gone, stage by stage', () => {
    const t = begun();
    expect(aheadAt(t, CLOCK).stages[0]).toMatchObject({ key: 'base', step: 'to-build', askedMs: null });
    t.write('work-done', { stage: 'base', crewId: 'crew', who: 'Cy', day: '2023-11-14' });
    t.write('look-requested', { stage: 'base', readyAt: new Date(CLOCK + 5 * HOUR).toISOString() });
    const asked = aheadAt(t, t.nowMs()).stages[0]!;
    expect(asked).toMatchObject({ key: 'base', step: 'built', wantedMs: CLOCK + 5 * HOUR });
    const climbed = begun();
    climb(climbed, 'penetrations');
    expect(aheadAt(climbed, climbed.nowMs()).stages[0]!.key).toBe('penetrations');
  });

  it('a cold night in the logger’s days before puts the look off, says why, and what heating would win', () => {
    const look = (day: number, night: number) => {
      const t = bonded();
      logged(t, t.nowMs() + HOUR, 3, day, night);
      const state = atMoment(
        foldShower(t.entries, () => SHIPPED),
        t.nowMs(),
      );
      const ahead = showerAhead(state, SHOWER)!;
      return { wait: ahead.stages.find((s) => s.key === 'cure')!.wait!, plan: planned(ahead, t.nowMs()) };
    };
    const [mild, cold] = [look(26, 25), look(14, 2)];
    expect(mild.wait.decides).toBe('label');
    expect(cold.wait.decides).toBe('cold');
    expect(cold.wait.earliestMs).toBeLessThanOrEqual(cold.wait.likelyMs);
    expect(cold.wait.latestMs).toBeGreaterThanOrEqual(cold.wait.likelyMs);
    expect(cold.wait.likelyMs).toBeGreaterThan(mild.wait.likelyMs + 6 * HOUR);
    expect(cold.wait.heatWinsHours).toBeGreaterThan(1);
    const lookAt = ({ plan }: typeof cold) => plan.plan.stages.find((s) => s.key === 'cure')!.lookMs;
    expect(lookAt(cold)).toBeGreaterThan(lookAt(mild));
  });

  it('goes by a file of the coming days as far as it lies ahead, and forgets one that has run out', () => {
    const t = bonded();
    const nowMs = t.nowMs() + HOUR;
    const at = (hours?: { atMs: number; airC: number; relativeHumidity: number }[]) => {
      const state = atMoment(
        foldShower(t.entries, () => SHIPPED),
        nowMs,
      );
      const expected = hours ? { airC: 25, relativeHumidity: 0.5, hours } : null;
      return showerAhead(state, SHOWER, expected)!.stages.find((s) => s.key === 'cure')!.wait!;
    };
    const days = (fromMs: number, airC: number) =>
      Array.from({ length: 72 }, (_, k) => ({ atMs: fromMs + k * HOUR, airC, relativeHumidity: 0.5 }));
    expect(at(days(nowMs + HOUR, 3)).likelyMs).toBeGreaterThan(at(days(nowMs + HOUR, 25)).likelyMs + 6 * HOUR);
    expect(at(days(nowMs - 500 * HOUR, 3))).toEqual(at());
  });

  it('names what a promised day leaves out, and the goods that a stage waits for', () => {
    const t = begun();
    const nowMs = t.nowMs();
    const today = dayAt('UTC', nowMs);
    const squeezed = planned(aheadAt(t, nowMs), nowMs, { goods: [], promisedOn: addDaysTo(today, 1) });
    expect(squeezed.squeeze!.needs).toBeGreaterThan(squeezed.squeeze!.left);
    expect(squeezed.squeeze!.missing.length).toBeGreaterThan(0);
    const kept = planned(aheadAt(t, nowMs), nowMs, { goods: [], promisedOn: addDaysTo(today, 60) });
    expect(kept.squeeze).toBeNull();
    const goods = [{ stage: 'base', what: 'tray', dueOn: addDaysTo(today, 20) }];
    const waiting = planned(aheadAt(t, nowMs), nowMs, { goods, promisedOn: null });
    expect(waiting.goods.base).toEqual(goods[0]);
    expect(waiting.plan.stages[0]!.likelyMs).toBeGreaterThanOrEqual(nowMs + 18 * 24 * HOUR);
  });
});

describe('an inspector’s day', () => {
  const NOW = Date.UTC(2026, 11, 1, 8);
  const at = (id: string, job: string, change: Partial<ShowerAhead['stages'][number]> = {}): ShowerAhead => ({
    id,
    name: id,
    job,
    crewId: `crew ${id}`,
    timeZone: 'UTC',
    flood: null,
    toldMs: NOW,
    stages: [
      {
        key: 'membrane',
        label: 'Membrane',
        holdPoint: true,
        contested: false,
        crewId: `crew ${id}`,
        step: 'built',
        sinceMs: NOW - HOUR,
        askedMs: null,
        wantedMs: null,
        defects: 0,
        open: 5,
        wait: null,
        waitHours: 0,
        likelyWaitHours: 0,
        ...change,
      },
    ],
  });
  const WORK = workTime(WAYS.calendar, NOW);
  const day = (showers: ShowerAhead[], pins: Record<string, number> = {}, pinnedIn: string[] = []) =>
    inspectorDay({
      planned: planShowers(showers, WAYS, () => NOTHING_SET, NOW),
      work: WORK,
      nowMs: NOW,
      visits: new Set(),
      at: null,
      ways: NO_WAYS,
      weights: FIRST_WEIGHTS,
      pins,
      pinnedIn,
    });
  const flood = (id: string, endMs: number): ShowerAhead => ({
    ...at(id, 'Wet house'),
    flood: { stage: 'membrane', startMs: NOW - 20 * HOUR, endMs, readByMs: endMs + HOUR },
  });

  it('reads a flood in its time, also outside the hours of the inspector, and goes to crews that stand first', () => {
    const evening = Date.UTC(2026, 11, 1, 18);
    const told = day([at('a', 'One'), flood('w', evening), at('b', 'One')]);
    expect(told.route.order).toEqual(['a', 'b', 'w']);
    expect(told.route.begins[2]).toBe(evening);
    expect(told.route.late).toEqual([]);
    const soon = day([at('a', 'One'), flood('w', NOW + HOUR / 2), at('b', 'One')]);
    expect(soon.route.late).toEqual([]);
    expect(soon.route.begins[soon.route.order.indexOf('w')]).toBeLessThanOrEqual(NOW + 1.5 * HOUR);
  });

  it('leaves out what is not ready, and says what it waits for', () => {
    const told = day([
      at('a', 'One', { step: 'to-build' }),
      at('b', 'One', { step: 'put-right', defects: 2 }),
      at('c', 'One'),
    ]);
    expect(told.route.order).toEqual(['c']);
    expect(told.notToday.map((n) => [n.shower, n.waits])).toEqual([
      ['b', 'put-right'],
      ['a', 'crew'],
    ]);
  });

  it('of a look that was forgotten says that it was due, and still goes there', () => {
    const forgotten = at('a', 'One', { holdPoint: false, sinceMs: NOW - 130 * HOUR });
    const told = day([forgotten]);
    expect(told.route.late).toEqual(['a']);
    expect(told.byId.get('a')!.closesMs).toBeLessThan(NOW);
  });

  it('tells the price of another order by crew, and keeps what was set', () => {
    const told = day([at('a', 'One'), at('b', 'Two'), at('c', 'Three')]);
    const last = told.route.order[2]!;
    const { price, route } = movedTo(told, last, 0);
    expect(route.order[0]).toBe(last);
    expect(price.idleHours).toBeGreaterThanOrEqual(-1e-9);
    expect(day([at('a', 'One'), at('b', 'Two'), at('c', 'Three')], { [last]: 0 }).route.order[0]).toBe(last);
    // What is done makes room: who was to be third is second now.
    const three = [at('a', 'One'), at('b', 'Two'), at('c', 'Three')];
    const left = [three[0]!, three[1]!, at('d', 'Four')];
    expect(day(left, { b: 2 }, ['c', 'a', 'b']).route.order[1]).toBe('b');
    expect(day(left, { b: 2 }).route.order[2]).toBe('b');
    // Pins that no longer fit are let go.
    expect(day([at('a', 'One')], { gone: 3, a: 7 }).route.order).toEqual(['a']);
  });

  it('goes by the firm’s hours where a site has a zone that nobody knows', () => {
    const lost = { ...at('a', 'One'), timeZone: 'Nowhere/Town' };
    const told = day([lost, at('b', 'One')]);
    expect(told.route.order).toHaveLength(2);
    const set = { goods: [{ stage: 'membrane', what: 'tile', dueOn: '2026-12-09' }], promisedOn: '2026-12-02' };
    expect(planShower(lost, WAYS, set, workTimes(WAYS.calendar, NOW), NOW)?.plan.readyMs).toBeGreaterThan(NOW);
  });

  it('holds sixty showers for one inspector, and says what a day can not hold', () => {
    const many = Array.from({ length: 90 }, (_, k) => at(`s${k}`, `Job ${k % 7}`));
    const told = day(many);
    expect(told.route.order).toHaveLength(80);
    expect(told.leftOut).toBe(10);
    expect(told.route.exact).toBe(false);
  });

  it('says what moved, causes before what follows from them', () => {
    const before = { order: ['a', 'b', 'c'], begins: [0, HOUR, 2 * HOUR], opens: { a: 0, b: 0, c: 0 } };
    const now = { order: ['c', 'd', 'a'], begins: [0, HOUR, 5 * HOUR], opens: { a: 4 * HOUR, c: 0, d: 0 } };
    expect(whatMoved(before, now).map((m) => [m.id, m.what])).toEqual([
      ['b', 'gone'],
      ['d', 'new'],
      ['a', 'opens-later'],
      ['c', 'sooner'],
    ]);
    expect(whatMoved(before, before)).toEqual([]);
  });

  it('of stops alone names the hours on both days', () => {
    const { shifts } = dayStops(
      planShowers([at('a', 'One')], WAYS, () => NOTHING_SET, NOW),
      WORK,
      NOW,
      new Set(),
    );
    expect(shifts.map((s) => s.day)).toEqual(['2026-12-01', '2026-12-02']);
  });
});

describe('a suggestion of looks', () => {
  const LOOKERS = [
    { id: 'ada', away: [], knows: [] },
    { id: 'bo', away: ['2026-12-01'], knows: ['Two'] },
  ];
  const look = (shower: string, job: string, change: object = {}) => ({
    shower,
    job,
    lookOn: '2026-12-01',
    minutes: 60,
    inspectorId: null,
    visitOn: null,
    ...change,
  });

  it('keeps a job together, goes round days off, keeps what is set', () => {
    const looks = [look('a', 'One'), look('b', 'One'), look('c', 'Two', { lookOn: '2026-12-02' })];
    const told = suggestLooks(looks, LOOKERS, () => true, 480);
    expect(told).toEqual([
      { shower: 'a', inspectorId: 'ada', visitOn: '2026-12-01' },
      { shower: 'b', inspectorId: 'ada', visitOn: '2026-12-01' },
      { shower: 'c', inspectorId: 'bo', visitOn: '2026-12-02' },
    ]);
    const set = [look('a', 'One', { inspectorId: 'bo', visitOn: '2026-12-03' })];
    expect(suggestLooks(set, LOOKERS, () => true, 480)).toEqual([]);
  });

  it('balances what two can do, and puts off what a day does not hold', () => {
    const both = [
      { id: 'ada', away: [], knows: [] },
      { id: 'bo', away: [], knows: [] },
    ];
    const looks = Array.from({ length: 20 }, (_, k) => look(`s${String(k).padStart(2, '0')}`, `Job ${k % 5}`));
    const told = suggestLooks(looks, both, () => true, 480);
    expect(told).toHaveLength(20);
    const first = (who: string) => told.filter((s) => s.inspectorId === who && s.visitOn === '2026-12-01').length;
    expect([first('ada'), first('bo')]).toEqual([8, 8]);
    expect(told.filter((s) => s.visitOn === '2026-12-02')).toHaveLength(4);
  });

  it('leaves out what nobody can take', () => {
    const away = [{ id: 'ada', away: ['2026-12-01'], knows: [] }];
    const told = suggestLooks([look('a', 'One', { visitOn: '2026-12-01' })], away, () => true, 480);
    expect(told).toEqual([]);
    expect(suggestLooks([look('a', 'One')], [], () => true, 480)).toEqual([]);
  });
});
