import { describe, expect, it } from 'vitest';
import { numbers } from '../units/randomNumbers';
import { leakHeight } from './leakHeight';

const value = <T>(o: { ok: boolean; value?: T }): T => {
  if (!o.ok) throw new Error(JSON.stringify(o));
  return o.value!;
};
const from = (start: number, count: number, every: number) =>
  Array.from({ length: count }, (_, k) => start + k * every);

describe('the height of a leak against the same search in small steps', () => {
  type Level = { atHours: number; levelMm: number };
  type Course = (hours: readonly number[], start: number, k: number, h0: number) => number[];

  /** All heights on a ladder from two falls below the lowest level to one above it, each with its best opening. */
  function plainHeight(readings: readonly Level[], stepMm: number, course: Course) {
    const levels = readings.map((r) => r.levelMm);
    const hours = readings.map((r) => r.atHours);
    const lowest = Math.min(...levels);
    const fall = levels[0]! - lowest;
    const off = (h0: number, k: number) => {
      const differences = course(hours, levels[0]!, k, h0).map((c, i) => levels[i]! - c);
      const mean = differences.reduce((sum, d) => sum + d, 0) / differences.length;
      return differences.reduce((sum, d) => sum + (d - mean) ** 2, 0);
    };
    /** Over openings a tenth apart, and finer and finer round the best of them. */
    const least = (h0: number) => {
      let [low, high] = [Math.log(1e-5), Math.log(1e4)];
      let best = Infinity;
      for (let round = 0; round < 7; round += 1) {
        const tried = Array.from({ length: 41 }, (_, i) => low + ((high - low) * i) / 40);
        const found = tried.map((x) => off(h0, Math.exp(x)));
        best = Math.min(best, ...found);
        const at = found.indexOf(Math.min(...found));
        [low, high] = [tried[Math.max(0, at - 1)]!, tried[Math.min(40, at + 1)]!];
      }
      return best;
    };
    const ladder = Array.from({ length: 161 }, (_, i) => lowest - 2 * fall + (3 * fall * i) / 160);
    const found = ladder.map((h0) => ({ h0, misfit: least(h0) }));
    const best = found.reduce((a, b) => (b.misfit < a.misfit ? b : a));
    const rounding = (levels.length * stepMm ** 2) / 12;
    const borne = found.filter(
      (f) => levels.length * Math.log(Math.max(f.misfit, rounding) / Math.max(best.misfit, rounding)) <= 3.84,
    );
    return { heightMm: best.h0, lowMm: borne[0]!.h0, highMm: borne.at(-1)!.h0 };
  }
  /** In closed form: over a floor of one square metre without evaporation the root of the head falls steadily. */
  const closed: Course = (hours, start, k, h0) =>
    hours.map((t) => (start <= h0 ? start : h0 + Math.max(0, Math.sqrt(start - h0) - (k * (t - hours[0]!)) / 2) ** 2));
  const readAt = (hours: readonly number[], h0: number, k: number, seed: number, scatterMm: number): Level[] => {
    const { normal } = numbers(seed);
    return closed(hours, 76, k, h0).map((levelMm, i) => ({
      atHours: hours[i]!,
      levelMm: levelMm + scatterMm * normal(),
    }));
  };
  it.each([
    [70, 0.6, 1, 0.05, 73, 1 / 3],
    [66, 0.4, 2, 0.2, 60, 0.5],
    [72, 0.3, 3, 0.3, 40, 0.6],
    // Read so seldom that most of it runs out between two readings.
    [66, 1.1, 4, 0.02, 12, 2],
    [60, 0.9, 5, 0.02, 9, 3.5],
  ])('to %s mm, over a level floor, without evaporation', (h0, k, seed, scatterMm, count, every) => {
    const readings = readAt(from(1, count, every), h0, k, seed, scatterMm);
    const found = value(leakHeight({ readings, resolutionMm: 0.1, evaporationMmPerHour: 0 }));
    const plain = plainHeight(readings, 0.1, closed);
    expect(found.heightMm).toBeCloseTo(plain.heightMm, 6);
    expect(found.lowMm).toBeCloseTo(plain.lowMm, 6);
    expect(found.highMm).toBeCloseTo(plain.highMm, 6);
  });
  it('with evaporation, over a floor whose wetted area grows with the level', () => {
    const table = [
      { levelMm: 68, m2: 0.9 },
      { levelMm: 74, m2: 1.5 },
      { levelMm: 71, m2: 1.0 },
    ];
    const area = (h: number) => (h <= 68 ? 0.9 : h <= 71 ? 0.9 + (h - 68) / 30 : h <= 74 ? 1 + (h - 71) / 6 : 1.5);
    const small: Course = (hours, start, k, h0) => {
      let h = start;
      return hours.map((t, i) => {
        const dt = i === 0 ? 0 : (t - hours[i - 1]!) / 10;
        for (let s = 0; s < 10 && dt > 0; s += 1) {
          const slope = (x: number) => (-k * Math.sqrt(Math.max(0, x - h0))) / area(x) - 0.06;
          const first = slope(h);
          h += (dt * (first + slope(h + dt * first))) / 2;
        }
        return h;
      });
    };
    const { normal } = numbers(9);
    const hours = from(0, 30, 0.8);
    const readings = small(hours, 76, 0.5, 69).map((levelMm, i) => ({
      atHours: hours[i]!,
      levelMm: levelMm + 0.15 * normal(),
    }));
    const found = value(leakHeight({ readings, resolutionMm: 0.1, evaporationMmPerHour: 0.06, areaByLevel: table }));
    const plain = plainHeight(readings, 0.1, small);
    const rung = (3 * (76 - 66)) / 160;
    expect(Math.abs(found.heightMm - plain.heightMm)).toBeLessThan(rung);
    expect(Math.abs(found.lowMm - plain.lowMm)).toBeLessThan(rung);
    expect(Math.abs(found.highMm - plain.highMm)).toBeLessThan(rung);
  });
  it('from many readings every so many are kept, and the last one', () => {
    const readings = readAt(from(0, 300, 0.08), 70, 0.6, 5, 0.1);
    const kept = readings.filter((_, i) => i % 3 === 0 || i === 299);
    const of = (r: Level[]) => value(leakHeight({ readings: r, resolutionMm: 0.1, evaporationMmPerHour: 0 }));
    expect(of(readings)).toEqual(of(kept));
  });
  it('is refused where the level fell by less than three steps, and of fewer than eight readings', () => {
    const of = (count: number, resolutionMm: number) =>
      leakHeight({ readings: readAt(from(0, count, 2), 73, 0.9, 1, 0), resolutionMm, evaporationMmPerHour: 0 });
    expect(of(12, 0.99)).toMatchObject({ ok: true });
    expect(of(12, 1.01)).toMatchObject({ ok: false, problem: { field: 'readings' } });
    expect(of(8, 0.1)).toMatchObject({ ok: true });
    expect(of(7, 0.1)).toMatchObject({ ok: false, problem: { field: 'readings' } });
  });
});
