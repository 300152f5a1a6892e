import { describe, expect, it } from 'vitest';
import { hoursStillNeeded } from './hoursStillNeeded';

const now = (more: Partial<Parameters<typeof hoursStillNeeded>[0]> = {}, input: object = {}) =>
  hoursStillNeeded({
    net: 0,
    low: -1,
    high: 2,
    fail: -3,
    hoursRun: 24,
    systematic: 0,
    evaporationKnown: true,
    input: { method: 'marks', smallestLeakMmPerDay: 1, plannedHours: 24 } as never,
    ...more,
    ...(Object.keys(input).length > 0
      ? { input: { method: 'marks', smallestLeakMmPerDay: 1, plannedHours: 24, ...input } as never }
      : {}),
  });

describe('hours until a decision, if the loss goes on as it is', () => {
  it('marks shrink with the time: half of the width wants twice the hours', () => {
    // 2 mm a day of half-width at 24 h, 1 mm of room: 48 h in all.
    expect(now()).toBeCloseTo(24, 9);
    expect(now({ net: 0.5, high: 1.5 })).toBeCloseTo(24, 9);
    expect(now({ hoursRun: 12 })).toBeCloseTo(12, 9);
  });
  it('a logger’s with the time to the power of three halves', () => {
    expect(now({}, { method: 'logger' })).toBeCloseTo(24 * 2 ** (2 / 3) - 24, 9);
  });
  it('never before the planned time is run, nor less than none', () => {
    expect(now({ high: 0.5 })).toBe(0);
    expect(now({ high: 0.5, hoursRun: 10 })).toBe(14);
    expect(now({ high: 0.5, hoursRun: 30 })).toBe(0);
    expect(now({ high: 0 })).toBe(0);
  });
  it('what no time shrinks stays: beyond the room there is no end', () => {
    expect(now({ systematic: 1 })).toBeNull();
    // Moving part √(2² − 0.6²), room √(1 − 0.6²).
    expect(now({ systematic: 0.6 })).toBeCloseTo(24 * (Math.sqrt(4 - 0.36) / 0.8) - 24, 9);
    expect(now({ net: 1, high: 3, evaporationKnown: false })).toBeNull();
  });
  it('a leak is shown by time as well, where evaporation is known', () => {
    const leak = { net: 2, high: 6, fail: -1 };
    expect(now(leak)).toBeCloseTo(24 * (3 / 2) - 24, 9);
    expect(now({ ...leak, evaporationKnown: false })).toBeNull();
    const stays = 1 * (2.576 / 1.96);
    expect(now({ ...leak, systematic: 1 })).toBeCloseTo(
      24 * (Math.sqrt(9 - stays ** 2) / Math.sqrt(4 - stays ** 2)) - 24,
      6,
    );
    expect(now({ ...leak, systematic: 1.6 })).toBeNull();
  });
  it('without a leak to exclude only a leak can be shown; after two weeks nobody waits any more', () => {
    expect(now({}, { smallestLeakMmPerDay: null })).toBeNull();
    expect(now({ net: 2, fail: -1 }, { smallestLeakMmPerDay: null })).toBeCloseTo(12, 9);
    expect(now({ high: 13.9 })).toBeCloseTo(24 * 13.9 - 24, 6);
    expect(now({ high: 14.1 })).toBeNull();
  });
});
