import { describe, expect, it } from 'vitest';
import type { FloodTest } from '../log/floodTest';
import { floodCheckOf } from '../rules/ruleBook';
import { sampleModel } from '../tests/sampleShower';
import { BOOK } from '../tests/sampleTablet';
import { floodShortfalls, leastFillMm, thresholdMm, wholeVerdict } from './floodNeeds';
import { firstLevel, floodEntries, isWetLook, lowestRead, plannedEndMs, verdictInput } from './floodReadings';

const HOUR = 3_600_000;
const IN = 25.4;
const check = floodCheckOf(BOOK.methods[0]!)!.check;
const model = sampleModel();
const test = (more: Partial<FloodTest> = {}): FloodTest => ({
  entry: 'start',
  stage: 'flood-test',
  startedAt: new Date(0).toISOString(),
  startMs: 0,
  by: 'Ines',
  running: true,
  waterLineMm: 76,
  filledToMm: 76.2,
  plannedHours: 24,
  method: 'marks',
  resolutionMm: 1.6,
  panResolutionMm: null,
  smallestLeakMmPerDay: 1,
  prepared: [],
  levels: [],
  series: [],
  events: [],
  climate: [],
  looks: [],
  inputs: ['start'],
  end: null,
  voided: null,
  layersMissing: [],
  provedBelowMm: null,
  ...more,
});
const level = (atHours: number, levelMm: number, of: 'water' | 'pan' = 'water') => ({
  entry: `${of} ${atHours}`,
  of,
  atHours,
  levelMm,
  by: 'Ines',
});
const series = (hours: number[], levelMm: number[], of: 'water' | 'pan' = 'water', resolutionMm = 0.1) => ({
  entry: `${of} file`,
  of,
  resolutionMm,
  file: 'a.csv',
  hours,
  levelMm,
  by: 'Ines',
});
const look = (where: string, moment: 'start' | 'leaving' | 'end' | null, atHours: number, answer = 'dry' as const) => ({
  entry: `${where} ${moment}`,
  where,
  answer: answer as FloodTest['looks'][number]['answer'],
  moment,
  words: '',
  at: '',
  atMs: atHours * HOUR,
  by: 'Ines',
});

describe('what a flood test is judged by', () => {
  it('is nothing before the water was read, or while it settles', () => {
    expect(verdictInput(test(), check)).toBeNull();
    expect(verdictInput(test({ levels: [level(0.1, 76), level(1, 60, 'pan')] }), check)).toBeNull();
    expect(verdictInput(test({ levels: [level(check.settleHours, 76)] }), check)!.readings).toHaveLength(1);
    // To the minute.
    expect(verdictInput(test({ levels: [level(check.settleHours - 0.9 / 60, 76)] }), check)!.readings).toHaveLength(1);
    expect(verdictInput(test({ levels: [level(check.settleHours - 1.1 / 60, 76)] }), check)).toBeNull();
  });
  it('marks in their order, the last of one moment, none from before the water; the rule book’s hours and leak', () => {
    const found = verdictInput(
      test({
        levels: [level(24, 74), level(1, 76), level(1, 75.5), level(-1, 99)],
        plannedHours: 2,
        smallestLeakMmPerDay: 50,
      }),
      check,
    )!;
    expect(found.readings).toEqual([
      { atHours: 1, levelMm: 75.5 },
      { atHours: 24, levelMm: 74 },
    ]);
    expect(found).toMatchObject({
      method: 'marks',
      resolutionMm: 1.6,
      plannedHours: check.plannedHours,
      smallestLeakMmPerDay: check.smallestLeakMmPerDay,
      settleHours: check.settleHours,
      moistureFound: false,
    });
    expect(found).not.toHaveProperty('pan');
    expect(found).not.toHaveProperty('events');
    expect(found).not.toHaveProperty('climate');
  });
  it('a logger’s last file of each water, with its own step, and what was read by hand beside it counts no more', () => {
    const found = verdictInput(
      test({
        levels: [level(1, 70), level(24, 60)],
        series: [
          series([0, 1], [76, 75]),
          series([-1, 0, 1, 2], [90, 76, 75, 74], 'water', 0.5),
          series([0, 1], [60, 59], 'pan', 0.2),
        ],
      }),
      check,
    )!;
    expect(found.readings.map((r) => r.levelMm)).toEqual([76, 75, 74]);
    expect(found).toMatchObject({ method: 'logger', resolutionMm: 0.5, pan: { resolutionMm: 0.2 } });
    expect(found.pan!.readings).toHaveLength(2);
  });
  it('a pan needs two readings, and has the step of its own gauge', () => {
    const read = (panResolutionMm: number | null, ...pan: ReturnType<typeof level>[]) =>
      verdictInput(test({ panResolutionMm, levels: [level(1, 76), level(24, 75), ...pan] }), check)!.pan;
    expect(read(null, level(1, 60, 'pan'))).toBeUndefined();
    expect(read(null, level(0, 60, 'pan'), level(24, 58, 'pan'))!.readings.map((r) => r.atHours)).toEqual([0, 24]);
    expect(read(null, level(-0.1, 60, 'pan'), level(24, 58, 'pan'))).toBeUndefined();
    expect(read(null, level(1, 60, 'pan'), level(24, 58, 'pan'))).toMatchObject({ resolutionMm: 1.6 });
    expect(read(0.5, level(1, 60, 'pan'), level(24, 58, 'pan'))).toMatchObject({ resolutionMm: 0.5 });
  });
  it('events and air of the test, the air read up to two hours before it at its start', () => {
    const event = (atHours: number) => ({
      entry: 'e',
      kind: 'refill' as const,
      of: 'water' as const,
      atHours,
      words: 'x',
    });
    const air = (atHours: number) => ({ entry: 'c', atHours, waterC: 20, airC: 21, relativeHumidity: 0.5 });
    const found = verdictInput(
      test({
        levels: [level(1, 76)],
        events: [event(-1), event(0), event(5)],
        climate: [air(-3), air(-2), air(4)],
      }),
      check,
    )!;
    expect(found.events).toEqual([
      { kind: 'refill', of: 'water', atHours: 0 },
      { kind: 'refill', of: 'water', atHours: 5 },
    ]);
    expect(found.climate).toEqual([
      { atHours: 0, waterC: 20, airC: 21, relativeHumidity: 0.5, airSpeedMs: 0.05 },
      { atHours: 4, waterC: 20, airC: 21, relativeHumidity: 0.5, airSpeedMs: 0.05 },
    ]);
  });
  it('moisture that was there before the water is no leak', () => {
    expect(isWetLook({ answer: 'wet', moment: 'start' })).toBe(false);
    expect(isWetLook({ answer: 'wet', moment: 'leaving' })).toBe(true);
    expect(isWetLook({ answer: 'wet', moment: null })).toBe(true);
    expect(isWetLook({ answer: 'dry', moment: 'end' })).toBe(false);
    const wet = { ...look('below', 'end', 24), answer: 'wet' as const };
    expect(verdictInput(test({ levels: [level(1, 76)], looks: [wet] }), check)!.moistureFound).toBe(true);
  });
  it('its first and lowest level, all its entries, and when its time is run', () => {
    expect(firstLevel(test())).toBeNull();
    expect(firstLevel(test({ levels: [level(5, 74), level(1, 75), level(0, 60, 'pan')] }))).toBe(75);
    expect(firstLevel(test({ levels: [level(1, 75)], series: [series([-1, 0.2], [80, 76])] }))).toBe(76);
    expect(lowestRead(test())).toBe(76.2);
    expect(lowestRead(test({ levels: [level(5, 74), level(6, 10, 'pan'), level(9, 75)] }))).toBe(74);
    const file = series([-1, 0, 5, 10, 15], [1, 76, 75, 74, 20]);
    expect(lowestRead(test({ series: [file] }))).toBe(20);
    const cut = { entry: 'e', kind: 'power-cut' as const, of: 'water' as const, atHours: 15, words: '' };
    expect(lowestRead(test({ series: [file], events: [cut] }))).toBe(74);
    expect(lowestRead(test({ series: [file], events: [{ ...cut, kind: 'refill' }] }))).toBe(20);
    expect(plannedEndMs(test({ startMs: HOUR }))).toBe(25 * HOUR);
    expect(floodEntries(null)).toEqual([]);
    const end = { entry: 'end' } as FloodTest['end'];
    expect(floodEntries(test({ looks: [look('below', 'end', 24)], end }))).toEqual(['start', 'below end', 'end']);
    expect(floodEntries(test())).toEqual(['start']);
  });
});

describe('what a flood test falls short of', () => {
  const places = check.places.map((p) => p.id);
  const looks = (start = 0.1, end = 24) => [
    ...places.map((p) => look(p, 'start', start)),
    ...places.map((p) => look(p, 'end', end)),
  ];
  const full = { levels: [level(1, 76.2)], looks: looks() };
  const short = (more: Partial<FloodTest> = {}, hoursRun: number | null = 24) =>
    floodShortfalls(test({ ...full, ...more }), check, model, hoursRun === null ? null : { hoursRun }).map(
      ({ kind, where, by }) => `${kind} ${where ?? ''} ${by.toFixed(1)}`,
    );

  it('nothing, where all that the rule book asks is there', () => {
    expect(short()).toEqual([]);
  });
  it('hours, to the minute; all of them where nothing was judged', () => {
    expect(short({}, 24 - 0.5 / 60)).toEqual([]);
    expect(short({}, 23.9)).toEqual(['hours  0.1']);
    expect(short({}, null)).toEqual([`hours  ${check.plannedHours.toFixed(1)}`]);
  });
  it('depth at the threshold: by the fill, or by what the first reading says, whichever is lower', () => {
    const least = leastFillMm(model, check);
    expect(thresholdMm(model)).toBeCloseTo(0.75 * IN, 6);
    expect(least).toBeCloseTo(0.75 * IN + check.atThresholdAtLeastMm, 6);
    expect(short({ filledToMm: least, levels: [level(1, least)] })).toEqual([]);
    expect(short({ filledToMm: least - 0.4, levels: [level(1, least)] })).toEqual([]);
    expect(short({ filledToMm: least - 5, levels: [level(1, least)] })).toEqual(['depth  5.0']);
    expect(short({ filledToMm: least + 10, levels: [level(1, least - 7)] })).toEqual(['depth  7.0']);
    expect(short({ filledToMm: least - 5, levels: [] })).toEqual(['depth  5.0']);
  });
  it('water over the curb, and layers that were not there', () => {
    expect(short({ filledToMm: 6 * IN, levels: [level(1, 6 * IN)] })).toEqual([]);
    expect(short({ filledToMm: 6 * IN + 2, levels: [level(1, 6 * IN)] })).toEqual(['over-curb  2.0']);
    expect(short({ layersMissing: ['membrane', 'cure'] })).toEqual([
      'layers-missing membrane 1.0',
      'layers-missing cure 1.0',
    ]);
  });
  it('looks at the start and at the end, each at a moment at which it says something', () => {
    const [first] = places;
    const missing = places.map((p) => `start-look ${p} 1.0`);
    expect(short({ looks: looks(check.startLookWithinHours) })).toEqual([]);
    expect(short({ looks: looks(check.startLookWithinHours + 0.01) })).toEqual(missing);
    expect(short({ looks: looks(0.1, check.plannedHours - 0.5) })).toEqual([]);
    expect(short({ looks: looks(0.1, check.plannedHours - 0.51) })).toEqual(places.map((p) => `end-look ${p} 1.0`));
    expect(short({ looks: looks().slice(1) })).toEqual([`start-look ${first} 1.0`]);
    const unseen = looks().map((l, i) => (i === 0 ? { ...l, answer: 'could-not-see' as const } : l));
    expect(short({ looks: unseen })).toEqual([`start-look ${first} 1.0`]);
    // A look while leaving is neither.
    expect(short({ looks: looks().map((l) => ({ ...l, moment: 'leaving' as const })) })).toHaveLength(
      2 * places.length,
    );
  });
  it('passes only as a whole: what leaks fails, what lacks something is undecided', () => {
    const lack = [{ kind: 'hours' as const, by: 1, where: null }];
    expect(wholeVerdict({ verdict: 'pass' }, false, [])).toBe('pass');
    expect(wholeVerdict({ verdict: 'pass' }, false, lack)).toBe('undecided');
    expect(wholeVerdict({ verdict: 'pass' }, true, [])).toBe('fail');
    expect(wholeVerdict({ verdict: 'fail' }, false, lack)).toBe('fail');
    expect(wholeVerdict({ verdict: 'undecided' }, false, [])).toBe('undecided');
    expect(wholeVerdict(null, false, [])).toBe('undecided');
    expect(wholeVerdict(null, true, lack)).toBe('fail');
  });
});
