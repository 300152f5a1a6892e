import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { subtract, totalMm, union } from '../shower/seams/intervals';
import { type LapVerdictInput, lapLeg, lapVerdict, spokenStretches, spotsRead, weakestPlace } from './laps';

const IN = 25.4;
const pattern = { readingsAtLeast: 3, endWithinMm: 150, gapAtMostMm: 600, lookOnWhole: true };
const verdict = (ats: number[], lapMm = 2 * IN, more: object = pattern) => {
  const outcome = lapVerdict({
    lengthMm: 1500,
    limitMm: 2 * IN,
    speaksForMm: 150,
    readings: ats.map((atMm) => ({ atMm, lapMm })),
    ...more,
  });
  if (!outcome.ok) throw new Error(outcome.problem.code);
  return outcome.value;
};

describe('laps', () => {
  // Common practice, no source: 5 in band, 1/8 in lost at the crease.
  it('gives the legs of a creased band', () => {
    const legs = lapLeg({ bandWidthMm: 5 * IN, lossMm: IN / 8, offCentreMm: 0 });
    for (const leg of legs.ok ? legs.value.legsMm : []) expect(leg / IN).toBeCloseTo(2.4375, 12);
    expect(legs.ok).toBe(true);
    const off = lapLeg({ bandWidthMm: 127, lossMm: 0, offCentreMm: 10 });
    expect(off).toEqual({ ok: true, value: { legsMm: [73.5, 53.5] } });
    expect(lapLeg({ bandWidthMm: 50, lossMm: 60, offCentreMm: 0 })).toMatchObject({
      ok: false,
      problem: { field: 'lossMm' },
    });
  });

  it('passes with three sound readings near the ends and no wide gap', () => {
    expect(verdict([100, 700, 1400]).verdict).toBe('undecided');
    expect(verdict([150, 750, 1350])).toMatchObject({ verdict: 'pass', nextAtMm: null });
  });

  it('holds for one short reading, whatever the others say', () => {
    const outcome = lapVerdict({
      lengthMm: 1500,
      limitMm: 2 * IN,
      speaksForMm: 150,
      readings: [
        { atMm: 150, lapMm: 60 },
        { atMm: 355.6, lapMm: 1.875 * IN },
      ],
      ...pattern,
    });
    expect(outcome).toMatchObject({ ok: true, value: { verdict: 'fail', lowestMm: 1.875 * IN } });
  });

  it('takes exactly the limit as enough', () => {
    expect(verdict([150, 750, 1350], 50.8).verdict).toBe('pass');
    expect(verdict([150, 750, 1350], 50.79).verdict).toBe('fail');
  });

  it('needs a look over the whole when that is asked', () => {
    expect(verdict([150, 750, 1350], 60, { ...pattern, lookOnWhole: false }).verdict).toBe('undecided');
  });

  it('without a pattern asks for the full length to be spoken for', () => {
    expect(verdict([150, 450, 750, 1050, 1350], 60, {})).toMatchObject({ verdict: 'pass', spokenForMm: 1500 });
    expect(verdict([150, 450, 750, 1350], 60, {})).toMatchObject({ verdict: 'undecided', nextAtMm: 1050 });
  });

  it('names a reading beyond the end of the seam', () => {
    expect(
      lapVerdict({ lengthMm: 100, limitMm: 50, speaksForMm: 150, readings: [{ atMm: 120, lapMm: 60 }] }),
    ).toMatchObject({ ok: false, problem: { field: 'readings.0.atMm' } });
  });

  it('comes to a pass by following its own advice, in no more steps than gaps allow', () => {
    fc.assert(
      fc.property(fc.integer({ min: 60, max: 6000 }), (lengthMm) => {
        const readings: { atMm: number; lapMm: number }[] = [];
        for (let i = 0; i < 60; i += 1) {
          const outcome = lapVerdict({ lengthMm, limitMm: 50, speaksForMm: 150, readings, ...pattern });
          if (!outcome.ok) throw new Error(outcome.problem.code);
          if (outcome.value.nextAtMm === null) break;
          readings.push({ atMm: outcome.value.nextAtMm, lapMm: 55 });
        }
        expect(lapVerdict({ lengthMm, limitMm: 50, speaksForMm: 150, readings, ...pattern })).toMatchObject({
          value: { verdict: 'pass' },
        });
        expect(readings.length).toBeLessThanOrEqual(3 + Math.ceil(lengthMm / 300));
      }),
    );
  });

  it('lets two readings at one place speak for the same stretch', () => {
    expect(spokenStretches([100, 100], 150, 200)).toEqual([
      { fromMm: 0, toMm: 200 },
      { fromMm: 0, toMm: 200 },
    ]);
  });

  it('clips what a reading speaks for at the ends and half-way to its neighbours', () => {
    expect(spokenStretches([50, 250], 150, 500)).toEqual([
      { fromMm: 0, toMm: 150 },
      { fromMm: 150, toMm: 400 },
    ]);
  });
});

describe('stretches', () => {
  const stretch = fc
    .tuple(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 0, max: 100 }))
    .map(([a, b]) => ({ fromMm: Math.min(a, b), toMm: Math.max(a, b) }));
  it('taking away and adding back the same part loses nothing', () => {
    fc.assert(
      fc.property(fc.array(stretch), fc.array(stretch), (a, b) => {
        const left = subtract(a, b);
        const common = totalMm(a) - totalMm(left);
        expect(totalMm([...left, ...b])).toBeCloseTo(totalMm([...a, ...b]), 9);
        expect(common).toBeGreaterThanOrEqual(0);
        expect(union(union(a))).toEqual(union(a));
      }),
    );
  });
});

describe('where a lap is known the least', () => {
  it('is the wide gap, or beside the low reading, or an end that nobody came near', () => {
    const at = (atMm: number, lapMm = 55) => ({ atMm, lapMm });
    expect(weakestPlace([at(100), at(500), at(1500)], 1600)!.atMm).toBe(1000);
    expect(weakestPlace([at(100), at(500, 51), at(900), at(1300)], 1400)!.atMm).toBe(300);
    expect(weakestPlace([at(900), at(1000)], 1100)!.atMm).toBe(0);
    expect(weakestPlace([], 1000)).toBeNull();
  });
  it('lies on the seam and never above the lowest reading', () => {
    const reading = fc.record({ atMm: fc.integer({ min: 0, max: 2000 }), lapMm: fc.integer({ min: 30, max: 80 }) });
    fc.assert(
      fc.property(fc.array(reading, { minLength: 1, maxLength: 12 }), (readings) => {
        const { atMm, perhapsMm } = weakestPlace(readings, 2000)!;
        expect(atMm).toBeGreaterThanOrEqual(0);
        expect(atMm).toBeLessThanOrEqual(2000);
        expect(perhapsMm).toBeLessThanOrEqual(Math.max(...readings.map((r) => r.lapMm)));
      }),
    );
  });
});

describe('the pattern of readings, to the place', () => {
  const input = (ats: number[], more: Partial<LapVerdictInput> = {}): LapVerdictInput => ({
    lengthMm: 1000,
    limitMm: 50,
    readings: ats.map((atMm) => ({ atMm, lapMm: 55 })),
    speaksForMm: 100,
    ...more,
  });
  const next = (ats: number[], more: Partial<LapVerdictInput> = {}) => {
    const found = lapVerdict(input(ats, more));
    if (!found.ok) throw new Error(found.problem.code);
    return found.value;
  };
  const pattern = { readingsAtLeast: 3, endWithinMm: 150, gapAtMostMm: 400 };

  it('asks for the near end, then the far one, then the widest gap, cut into parts that fit', () => {
    expect(next([], pattern).nextAtMm).toBe(150);
    expect(next([151], pattern).nextAtMm).toBe(150);
    expect(next([150], pattern).nextAtMm).toBe(850);
    expect(next([150, 849], pattern).nextAtMm).toBe(850);
    expect(next([150, 850], pattern).nextAtMm).toBe(500);
    expect(next([150, 551, 850], pattern).nextAtMm).toBeCloseTo(350.5, 9);
    expect(next([150, 550, 850], pattern)).toMatchObject({ verdict: 'pass', nextAtMm: null });
    // A gap of 900 wants three parts, the first of which is asked for.
    expect(next([50, 950], { ...pattern, gapAtMostMm: 400 }).nextAtMm).toBeCloseTo(350, 9);
    // On a seam that is shorter than twice the end's reach, its middle.
    expect(next([], { ...pattern, lengthMm: 200 }).nextAtMm).toBe(100);
    expect(next([], { readingsAtLeast: 1 }).nextAtMm).toBe(100);
  });
  it('asks for as many spots as fit, in the middle of the widest room, or at an end that has more', () => {
    const count = (readingsAtLeast: number, ats: number[], lengthMm = 1000) =>
      next(ats, { readingsAtLeast, lengthMm }).nextAtMm;
    expect(count(2, [500])).toBe(0);
    expect(count(2, [400])).toBe(1000);
    expect(count(3, [100, 900])).toBe(500);
    expect(count(3, [450, 550])).toBe(0);
    expect(count(3, [250, 350])).toBe(1000);
    expect(count(2, [100, 149])).toBe(1000);
    expect(count(2, [100, 150])).toBeNull();
    // A seam of less than 150 mm has one spot, of 150 two, of 300 three.
    expect(count(3, [70], 149)).toBeNull();
    expect(count(3, [70], 150)).not.toBeNull();
    expect(count(3, [0, 150], 299)).toBeNull();
    expect(count(3, [0, 300], 300)).toBe(150);
    expect(spotsRead([100, 0, 49, 50, 99])).toBe(3);
    expect(spotsRead([])).toBe(0);
  });
  it('without a pattern, goes on from what nothing speaks for', () => {
    expect(next([]).nextAtMm).toBe(100);
    expect(next([100]).nextAtMm).toBe(300);
    expect(next([100, 300, 500, 700]).nextAtMm).toBe(900);
    expect(next([100, 300, 500, 750]).nextAtMm).toBe(625);
    expect(next([100, 300, 500, 700, 900])).toMatchObject({ verdict: 'pass', spokenForMm: 1000 });
    expect(next([100, 300])).toMatchObject({ verdict: 'undecided', spokenForMm: 400 });
    expect(next([0, 1000]).spokenForMm).toBe(200);
  });
  it('refuses what lies beside the seam, to the last bit, and never passes on nothing', () => {
    const at = (atMm: number) => lapVerdict(input([500, atMm]));
    expect(at(-0.001)).toMatchObject({ ok: false, problem: { field: 'readings.1.atMm' } });
    expect(at(1000.001)).toMatchObject({ ok: false });
    expect(at(0).ok && at(1000).ok && at(1000 + 1e-7).ok).toBe(true);
    expect(next([], { lengthMm: 0, readingsAtLeast: 0 }).verdict).toBe('undecided');
    const low = lapVerdict({ ...input([]), readings: [{ atMm: 500, lapMm: 49.999 }] });
    expect(low).toMatchObject({ ok: true, value: { verdict: 'fail', lowestMm: 49.999 } });
    expect(next([], pattern).lowestMm).toBeNull();
  });
  it('knows least where a band may have wandered farthest from its readings', () => {
    const weakest = (...readings: [number, number][]) =>
      weakestPlace(
        readings.map(([atMm, lapMm]) => ({ atMm, lapMm })),
        1000,
      );
    expect(weakest()).toBeNull();
    // 15 mm a metre: at the far end 600 mm away 9 mm less, in the middle of 400 mm 3 less of the mean.
    expect(weakest([0, 60], [400, 60])).toEqual({ atMm: 1000, perhapsMm: 51 });
    expect(weakest([100, 60], [1000, 40])!.atMm).toBe(1000);
    const middle = weakest([0, 60], [1000, 58])!;
    expect(middle.atMm).toBe(500);
    expect(middle.perhapsMm).toBeCloseTo(59 - 7.5, 9);
    expect(weakest([1000, 58], [0, 60])).toEqual(middle);
    expect(weakest([300, 55])).toEqual({ atMm: 1000, perhapsMm: 55 - 10.5 });
    expect(weakest([700, 55])).toEqual({ atMm: 0, perhapsMm: 55 - 10.5 });
  });
});
