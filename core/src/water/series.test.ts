import { describe, expect, it } from 'vitest';
import { INSTRUMENTS, stepOf } from './gauge';
import {
  checkReadings,
  median,
  questionsOfLogger,
  questionsOfMarks,
  type Segment,
  settleFor,
  splitAtEvents,
  stuckIn,
} from './series';

const at = (...rows: [atHours: number, levelMm: number][]) => rows.map(([atHours, levelMm]) => ({ atHours, levelMm }));
const every = (count: number, hours: number, level: (k: number) => number): Segment => ({
  hours: Array.from({ length: count }, (_, k) => k * hours),
  levelMm: Array.from({ length: count }, (_, k) => level(k)),
});

describe('readings of a level', () => {
  it('are refused before the start, doubled, or out of order, each by its number', () => {
    const refused = (...rows: [number, number][]) => {
      const found = checkReadings(at(...rows), 'readings');
      return found.ok ? null : [found.problem.field, found.problem.code];
    };
    expect(refused()).toBeNull();
    expect(refused([0, 1], [0.5, 1], [9, 1])).toBeNull();
    expect(refused([0, 1], [-0.1, 1])).toEqual(['readings.1.atHours', 'reading-before-start']);
    expect(refused([-1, 1])![0]).toBe('readings.0.atHours');
    expect(refused([1, 1], [2, 1], [2, 3])).toEqual(['readings.2.atHours', 'readings-at-one-time']);
    expect(refused([1, 1], [3, 1], [2, 3])).toEqual(['readings.2.atHours', 'reading-back']);
  });
  it('are split where something broke the series, and left out close to it', () => {
    const readings = at([0, 10], [1, 9], [1.9, 8], [2, 7], [2.1, 6], [3, 5], [4, 4]);
    expect(splitAtEvents(readings, [], 0.25)).toEqual([
      { hours: [0, 1, 1.9, 2, 2.1, 3, 4], levelMm: [10, 9, 8, 7, 6, 5, 4] },
    ]);
    expect(splitAtEvents(readings, [2], 0.25)).toEqual([
      { hours: [0, 1], levelMm: [10, 9] },
      { hours: [3, 4], levelMm: [5, 4] },
    ]);
    // A mark is taken when the water is still: at the very moment it belongs to what was before.
    expect(splitAtEvents(readings, [2], 0).map((s) => s.hours)).toEqual([
      [0, 1, 1.9, 2],
      [2.1, 3, 4],
    ]);
    expect(splitAtEvents(at([0, 1], [1, 1]), [1], 1).map((s) => s.hours)).toEqual([[0], [1]].slice(0, 1));
    expect(splitAtEvents(readings, [3.5, -1, 1.5], 0).map((s) => s.hours)).toEqual([[0, 1], [1.9, 2, 2.1, 3], [4]]);
    expect(splitAtEvents(readings, [9], 0)).toHaveLength(1);
    expect(settleFor('marks')).toBe(0);
    expect(settleFor('logger')).toBe(0.25);
  });
  it('have a middle value', () => {
    expect(median([3])).toBe(3);
    expect(median([9, 1, 3])).toBe(3);
    expect(median([10, 1, 3, 9])).toBe(6);
    expect(median([100, 20, 3])).toBe(20);
  });
});

describe('levels that somebody is asked about', () => {
  it('marks that rise by more than one step, and what an eye misses', () => {
    const rises = (eyeMm: number, ...levelMm: number[]) =>
      questionsOfMarks([{ hours: levelMm.map((_, k) => k * 2), levelMm }], 1.5, eyeMm);
    expect(rises(0, 10, 11.5, 9)).toEqual([]);
    expect(rises(0, 10, 11.6)).toMatchObject([{ kind: 'level-rose', atHours: 2 }]);
    expect(rises(0, 10, 11.6)[0]!.byMm).toBeCloseTo(1.6, 9);
    expect(rises(0.5, 10, 13)).toEqual([]);
    expect(rises(0.5, 10, 13.1)).toHaveLength(1);
    expect(rises(0, 10, 9, 12, 8, 15)).toMatchObject([{ atHours: 4 }, { atHours: 8 }]);
  });
  it('a logger that jumps, up or down, where it does; a steady fall is none, and a short series says nothing', () => {
    const quiet = (k: number) => 70 - 0.02 * k + 0.05 * Math.sin(k * 2.4);
    const jump = (by: number, count = 60, from = 30) =>
      questionsOfLogger([every(count, 1 / 6, (k) => quiet(k) + (k >= from ? by : 0))], 0.1);
    expect(jump(0)).toEqual([]);
    expect(jump(1.2)).toEqual([]);
    expect(jump(3)).toMatchObject([{ kind: 'level-rose' }]);
    expect(jump(3)[0]!.byMm).toBeGreaterThan(2.5);
    expect(jump(3)[0]!.atHours).toBeCloseTo(29.5 / 6, 6);
    expect(jump(-3)).toMatchObject([{ kind: 'level-jumped' }]);
    expect(jump(-3)[0]!.atHours).toBeCloseTo(29.5 / 6, 6);
    expect(jump(3, 5, 3)).toEqual([]);
    expect(jump(3, 12, 6)).toHaveLength(1);
    // Ten steps of a coarse gauge are no jump.
    const coarse = (by: number) => questionsOfLogger([every(60, 1 / 6, (k) => 70 + (k >= 30 ? by : 0))], 0.5);
    expect(coarse(4.9)).toEqual([]);
    expect(coarse(5.1)).toHaveLength(1);
    // Two of them, far apart; and each series for itself.
    const twice = every(90, 1 / 6, (k) => quiet(k) + (k >= 30 ? 3 : 0) - (k >= 60 ? 4 : 0));
    expect(questionsOfLogger([twice], 0.1).map((q) => q.kind)).toEqual(['level-rose', 'level-jumped']);
    expect(questionsOfLogger([twice, twice], 0.1)).toHaveLength(4);
  });
  it('a jump is placed between the two readings between which it lies, wherever that is', () => {
    const quiet = (k: number) => 70 - 0.02 * k + 0.03 * Math.sin(k * 2.4);
    const placed = (count: number, from: number, steps: readonly number[]) => {
      const stood = (k: number) => steps.slice(0, Math.max(0, k - from + 1)).reduce((sum, x) => sum + x, 0);
      return questionsOfLogger([every(count, 1 / 6, (k) => quiet(k) + stood(k))], 0.1);
    };
    for (const by of [3, -3]) {
      for (let from = 5; from <= 55; from += 1) {
        expect(placed(60, from, [by])).toHaveLength(1);
        expect(placed(60, from, [by])[0]!.atHours).toBeCloseTo((from - 0.5) / 6, 9);
      }
      for (let from = 2; from <= 10; from += 1)
        expect(placed(12, from, [by]).map((q) => q.atHours)).toEqual([expect.closeTo((from - 0.5) / 6, 9)]);
    }
    // Of one that took two steps the larger one, first or second.
    expect(placed(60, 30, [1.5, 4])).toMatchObject([{ atHours: expect.closeTo(30.5 / 6, 9) }]);
    expect(placed(60, 30, [4, 1.5])).toMatchObject([{ atHours: expect.closeTo(29.5 / 6, 9) }]);
    expect(placed(60, 30, [-1.5, -4])).toMatchObject([{ atHours: expect.closeTo(30.5 / 6, 9) }]);
    // How far: middle of the readings after it less middle of those before.
    expect(placed(60, 30, [5])[0]!.byMm).toBeCloseTo(5 - 5 * 0.02, 1);
    // One reading that lies off alone is none.
    expect(placed(60, 30, [9, -9])).toEqual([]);
  });
  it('many small changes make what is usual, so that only what is far beyond them is a jump', () => {
    const rough = (by: number) =>
      questionsOfLogger([every(60, 1 / 6, (k) => 70 + (k % 10 < 5 ? 0 : 0.6) + (k >= 30 ? by : 0))], 0.1);
    expect(rough(1.4)).toEqual([]);
    expect(rough(4.5)).toHaveLength(1);
    const few = (count: number) => questionsOfLogger([every(count, 1, (k) => 70 + (k >= 3 ? 9 : 0))], 0.1);
    expect(few(5)).toEqual([]);
    expect(few(6)).toHaveLength(1);
    // From forty readings on five are taken to each side, so that a peak of two is none.
    const peak = (count: number) =>
      questionsOfLogger([every(count, 1, (k) => 70 + (k === 20 || k === 21 ? 9 : 0))], 0.1).length;
    expect(peak(40)).toBe(0);
    expect(peak(39)).toBeGreaterThan(0);
  });
  it('a fine gauge that shows one figure for six hours and twelve readings stands still', () => {
    const run = (count: number, everyHours: number, stepMm = 0.1) =>
      stuckIn(
        at([0, 71], ...Array.from({ length: count }, (_, k): [number, number] => [1 + k * everyHours, 70]), [99, 69]),
        stepMm,
      );
    expect(run(13, 0.5)).toEqual({ atHours: 1, hours: 6 });
    expect(run(12, 0.5)).toBeNull();
    expect(run(12, 0.55)).toMatchObject({ atHours: 1 });
    expect(run(11, 1)).toBeNull();
    expect(run(13, 0.5, 0.25)).not.toBeNull();
    expect(run(13, 0.5, 0.26)).toBeNull();
    // To its end as well.
    expect(stuckIn(at(...Array.from({ length: 20 }, (_, k): [number, number] => [k, 70])), 0.1)).toEqual({
      atHours: 0,
      hours: 19,
    });
    expect(stuckIn([], 0.1)).toBeNull();
  });
  it('the step of a series is what its levels differ by, where that is half as coarse again as was said', () => {
    const twice = (...levels: number[]) => [...levels, ...levels];
    expect(stepOf(twice(70, 71, 72), 0.1)).toBe(1);
    expect(stepOf(twice(70, 70.15, 70.3), 0.1)).toBe(0.1);
    expect(stepOf(twice(70, 70.16, 70.32), 0.1)).toBeCloseTo(0.16, 9);
    expect(stepOf(twice(70, 75), 0.1)).toBe(0.1);
    expect(stepOf([72, 70, 71, 70.0001, 71, 72], 0.1)).toBeCloseTo(0.9999, 3);
    // Few readings of a water that falls fast are no coarse gauge.
    expect(stepOf([76, 70, 64], 1.6)).toBe(1.6);
    expect(stepOf([76, 70, 64, 64, 70], 1.6)).toBe(1.6);
    expect(stepOf([], 0.1)).toBe(0.1);
    expect(INSTRUMENTS.marks.eyeMm).toBe(0.5);
  });
});
