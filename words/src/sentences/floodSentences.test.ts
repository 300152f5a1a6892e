import type { FloodTest } from '@careful-seam/core/log/floodTest';
import { defaultRuleBook } from '@careful-seam/core/rules/defaultRuleBook';
import { floodCheckOf } from '@careful-seam/core/rules/ruleBook';
import { showerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { FLOOD_REASONS, type FloodVerdict, floodVerdict } from '@careful-seam/core/water/floodVerdict';
import type { FloodVerdictInput } from '@careful-seam/core/water/floodVerdictInput';
import { waterIn } from '@careful-seam/core/water/waterIn';
import { describe, expect, it } from 'vitest';
import { makeWords } from '../texts/words';
import { type ChartPens, floodChart } from './floodChart';
import { airWords, floodAdvice, floodSentence, smallLength, volumeWords, weightWords } from './floodSentences';

const { t } = makeWords('en');
const built = showerModel(sampleShower({}));
if (!built.ok) throw new Error(built.problem.code);
const model = built.value;
const { check } = floodCheckOf(defaultRuleBook().methods[0]!)!;
const test = {
  startMs: Date.parse('2026-03-10T14:00:00Z'),
  waterLineMm: 76.2,
  filledToMm: 76.2,
  smallestLeakMmPerDay: 1,
  series: [],
  looks: [{ entry: '1', where: 'below', answer: 'wet', moment: 'leaving', words: '', at: '', by: '' }],
} as unknown as FloodTest;

const input = (fall: number, panFall: number | null, more: Partial<FloodVerdictInput> = {}): FloodVerdictInput => {
  const readings = (byDay: number) =>
    Array.from({ length: 25 }, (_, h) => ({ atHours: h, levelMm: 76 - (byDay * h) / 24 }));
  return {
    method: 'marks',
    readings: readings(fall),
    resolutionMm: 0.1,
    eyeErrorMm: 0,
    ...(panFall === null ? {} : { pan: { readings: readings(panFall), resolutionMm: 0.1 } }),
    smallestLeakMmPerDay: 1,
    plannedHours: 24,
    moistureFound: false,
    ...more,
  };
};
function judged(i: FloodVerdictInput): FloodVerdict {
  const found = floodVerdict(i);
  if (!found.ok) throw new Error(found.problem.code);
  return found.value;
}
const say = (i: FloodVerdictInput, unit: 'in' | 'mm' = 'mm', change: Partial<FloodTest> = {}) =>
  floodSentence(t, { model, test: { ...test, ...change }, check, verdict: judged(i), unit, zone: 'UTC' });

describe('the verdict in one sentence', () => {
  it('tells the owner of the house what was lost, against what must be seen', () => {
    expect(say(input(2, 2))).toMatch(/^Beside what the air took, at most 0\.\d mm a day can have leaked\. .* 1\.0 mm/);
    expect(say(input(6, 2))).toMatch(
      /^It loses 4\.0 mm a day more than the air takes .* about 5\.6 L or 24 cups .* hole of 0\.\d mm/,
    );
    expect(say(input(6, 2), 'in')).toContain('0.16 in a day more');
    expect(say(input(2, 2, { moistureFound: true }))).toContain('Below: ceiling or cellar under the shower');
    expect(say(input(0, null))).toContain('even with no evaporation at all');
  });

  it('tells why nothing is decided: unknown air, an unset limit, one reading, a rise that nobody explained', () => {
    expect(say(input(6, null))).toBe(
      'The level fell by 6.0 mm a day, and nothing tells how much of that the air took.',
    );
    expect(say(input(2, 2, { smallestLeakMmPerDay: null }), 'mm', { smallestLeakMmPerDay: null })).toContain(
      'nothing can pass',
    );
    expect(say({ ...input(2, 2), readings: [{ atHours: 0, levelMm: 76 }] })).toContain('One reading says nothing yet');
    const refilled = input(2, 2);
    const rose = refilled.readings.map((r) => (r.atHours > 12 ? { ...r, levelMm: r.levelMm + 9 } : r));
    expect(say({ ...refilled, readings: rose })).toMatch(
      /^At Wed 11 Mar, 03:00 the level rose by 8\.9 mm\. Did someone add water\?/,
    );
  });

  it('has words for every reason it may give as advice, and for every source of the evaporation', () => {
    const undecided = judged(input(2, 2, { plannedHours: 30 }));
    expect(floodAdvice(t, { ...undecided, reasons: [...FLOOD_REASONS] })).not.toContainEqual(
      expect.stringMatching(/flood\.reason/),
    );
    expect(floodAdvice(t, undecided)).toEqual(['The planned time is not run.']);
    expect(airWords(t, judged(input(2, 2)), 'mm')).toMatch(
      /control pan says the air took 2\.0 mm a day \(1\.\d mm to 2\.\d mm\)/,
    );
    expect(airWords(t, judged(input(2, null)), 'mm')).toContain('evaporation is unknown');
  });
});

describe('figures of a flood', () => {
  it('in the units of the person, without a minus before nought', () => {
    expect([smallLength(-0.01, 'mm'), smallLength(1, 'in'), smallLength(2.54, 'in')]).toEqual([
      '0.0 mm',
      '0.04 in',
      '0.10 in',
    ]);
    const water = waterIn(model, 76.2)!;
    expect([volumeWords(water.volumeL, 'in'), weightWords(water.massKg, 'in')]).toEqual(['23.4 gal', '195 lb']);
    expect([volumeWords(water.volumeL, 'mm'), weightWords(water.massKg, 'mm')]).toEqual(['88.5 L', '88 kg']);
  });
});

describe('the chart', () => {
  const pens: ChartPens = {
    ink: '#000',
    soft: '#555',
    hair: '#ccc',
    water: '#00f',
    air: '#850',
    hold: '#a00',
    font: 'x',
    fontSize: 12,
  };
  const seriesOf = (i: FloodVerdictInput, narrow = false) => {
    const option = floodChart(t, i, judged(i), pens, 'mm', narrow) as {
      series: { name: string; data: [number, number][] }[];
      legend: { data: string[] };
    };
    return { byName: new Map(option.series.map((s) => [s.name, s.data])), legend: option.legend.data };
  };
  it('draws the fall from nought, the air as a band, and the leak that must be seen', () => {
    const { byName } = seriesOf(input(4, 2));
    expect(byName.get('level')![0]).toEqual([0, 0]);
    expect(byName.get('level')!.at(-1)![1]).toBeCloseTo(4, 6);
    expect(byName.get('control pan')!.at(-1)![1]).toBeCloseTo(2, 6);
    expect(byName.get('loss as read')!.at(-1)![1]).toBeCloseTo(4, 1);
    expect(byName.get('with a leak of 1.0 mm a day')!.at(-1)![1]).toBeCloseTo(3, 1);
    expect(seriesOf(input(4, null)).byName.has('what the air takes')).toBe(false);
  });
  it('takes a refill out of the line, and names all lines in the legend where it is narrow', () => {
    const refilled = input(4, 2, { events: [{ atHours: 12.5, kind: 'refill' }] });
    const readings = refilled.readings.map((r) => (r.atHours > 12.5 ? { ...r, levelMm: r.levelMm + 9 } : r));
    const { byName, legend } = seriesOf({ ...refilled, readings }, true);
    expect(byName.get('level')!.at(-1)![1]).toBeCloseTo(4, 1);
    expect(legend).toContain('what the air takes');
  });
});
