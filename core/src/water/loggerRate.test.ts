import tCdf from '@stdlib/stats-base-dists-t-cdf';
import fc from 'fast-check';
import { determinant, inverse, Matrix } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { bisected } from '../tests/bisected';
import { numbers } from '../units/randomNumbers';
import { type Blocks, blockMeans, type Column, fitColumns, loggerRate } from './loggerRate';
import { quantile } from './rate';
import type { Segment } from './series';
import { slowing } from './slowing';

/*
 * The same sums the plain way: the whole matrix of errors written out and inverted by a library of matrices, windows sorted by
 * their number, mixtures asked by bisection. Written from what the calculations say of themselves, not from their code.
 */

interface Plain {
  values: number[];
  errors: number[];
  residualSd: number;
  logLikelihood: number;
}

/** Errors that correlate as correlation^(distance / width): the inverse of their matrix, and the log of its determinant. */
function errorsOf({ hours, widthHours }: Blocks, correlation: number) {
  const n = hours.length;
  const errors = Matrix.zeros(n, n);
  for (let i = 0; i < n; i += 1)
    for (let j = 0; j < n; j += 1)
      errors.set(i, j, i === j ? 1 : correlation ** (Math.abs(hours[i]! - hours[j]!) / widthHours));
  return { sure: inverse(errors), logDet: Math.log(determinant(errors)) };
}

/** Generalised least squares, columns with a prior held to it. */
function plainFit(
  { hours, levelMm, segment }: Blocks,
  { sure, logDet }: ReturnType<typeof errorsOf>,
  segments: number,
  floorVariance: number,
  columns: readonly Column[],
  scatterMm = 0,
): Plain {
  const n = hours.length;
  const known = new Matrix(
    hours.map((_, i) => [
      ...Array.from({ length: segments }, (_, s) => (segment[i] === s ? 1 : 0)),
      ...columns.map((c) => c.values[i]!),
    ]),
  );
  const y = Matrix.columnVector([...levelMm]);
  const normal = known.transpose().mmul(sure).mmul(known);
  columns.forEach(({ priorMm }, c) => {
    if (priorMm !== undefined) {
      const at = segments + c;
      normal.set(at, at, normal.get(at, at) + (scatterMm / priorMm) ** 2);
    }
  });
  const spread = inverse(normal);
  const right = known.transpose().mmul(sure).mmul(y);
  const found = spread.mmul(right);
  const freedom = n - segments - columns.filter((c) => c.priorMm === undefined).length;
  const left = y.transpose().mmul(sure).mmul(y).get(0, 0) - found.transpose().mmul(right).get(0, 0);
  const residual = Math.max(0, left) + freedom * floorVariance;
  return {
    values: found.to1DArray(),
    errors: spread.diagonal().map((d) => Math.sqrt((residual / freedom) * d)),
    residualSd: Math.sqrt(residual / freedom),
    logLikelihood: -0.5 * (logDet + Math.log(determinant(normal)) + freedom * Math.log(residual)),
  };
}

/** Means over 72 equal windows from the first reading to the last, each segment for itself. */
function plainMeans(segments: readonly Segment[]): Blocks {
  const all = segments.flatMap((s, segment) => s.hours.map((hours, i) => ({ hours, levelMm: s.levelMm[i]!, segment })));
  const [from, to] = [all[0]!.hours, all.at(-1)!.hours];
  const isFew = all.length <= 72;
  const groups = new Map<string, typeof all>();
  all.forEach((r, i) => {
    const window = isFew ? i : Math.min(71, Math.floor(((r.hours - from) / (to - from)) * 72));
    const name = `${r.segment} ${window}`;
    groups.set(name, [...(groups.get(name) ?? []), r]);
  });
  const mean = (values: readonly number[]) => values.reduce((sum, v) => sum + v, 0) / values.length;
  const blocks = [...groups.values()];
  return {
    hours: blocks.map((g) => mean(g.map((r) => r.hours))),
    levelMm: blocks.map((g) => mean(g.map((r) => r.levelMm))),
    segment: blocks.map((g) => g[0]!.segment),
    widthHours: (to - from) / (isFew ? all.length - 1 : 72),
  };
}

const TRIED = [
  0, 0.05, 0.1, 0.15, 0.2, 0.25, 0.3, 0.35, 0.4, 0.45, 0.5, 0.55, 0.6, 0.65, 0.7, 0.75, 0.8, 0.85, 0.88, 0.91, 0.93,
  0.95, 0.965, 0.98,
];

/** The rate of a logger as its two distributions: of the likeliest correlation, and of all that the series bears. */
function plainRate(segments: readonly Segment[], stepMm: number, filledHours: number) {
  const blocks = plainMeans(segments);
  const readings = segments.reduce((sum, s) => sum + s.hours.length, 0);
  const floor = (stepMm ** 2 / 12) * (blocks.hours.length / readings);
  const line: Column = { values: blocks.hours };
  const drunk: Column = {
    values: blocks.hours.map((t) => (t <= filledHours ? 1 : Math.exp((filledHours - t) / 2))),
    priorMm: 0.2,
  };
  const moved = { ...blocks, levelMm: blocks.levelMm.map((l) => l - blocks.levelMm[0]!) };
  const fits = TRIED.map((c) => {
    const errors = errorsOf(moved, c);
    const { residualSd } = plainFit(moved, errors, segments.length, floor, [line]);
    return { c, ...plainFit(moved, errors, segments.length, floor, [drunk, line], residualSd) };
  });
  const most = Math.max(...fits.map((f) => f.logLikelihood));
  const best = fits.find((f) => f.logLikelihood === most)!;
  const borne = fits.filter((f) => Math.exp(f.logLikelihood - most) > 0.01);
  const freedom = blocks.hours.length - segments.length - 1;
  const changes = segments.flatMap((s) => s.levelMm.slice(1).map((l, i) => l - s.levelMm[i]!));
  const middle = (values: readonly number[]) => {
    const sorted = [...values].sort((a, b) => a - b);
    return (sorted[Math.floor((sorted.length - 1) / 2)]! + sorted[Math.ceil((sorted.length - 1) / 2)]!) / 2;
  };
  const usual = middle(changes);
  const scatter = (1.4826 * middle(changes.map((c) => Math.abs(c - usual)))) / Math.sqrt(2);
  const span = segments.at(-1)!.hours.at(-1)! - segments[0]!.hours[0]!;
  // The two ends of a smooth series are each off by up to half a step: together a triangle as wide as two steps.
  const ends =
    scatter < stepMm / 2
      ? Array.from({ length: 21 }, (_, i) => {
          const p = (i + 0.5) / 21;
          return ((p < 0.5 ? Math.sqrt(2 * p) - 1 : 1 - Math.sqrt(2 - 2 * p)) * stepMm) / span;
        })
      : [0];
  const at = (parts: typeof fits, p: number) => {
    const weights = parts.map((f) => Math.exp(f.logLikelihood - most));
    const total = weights.reduce((sum, w) => sum + w, 0);
    return bisected(
      (x) =>
        ends.reduce(
          (sum, e) =>
            sum +
            parts.reduce(
              (inner, f, i) =>
                inner + (weights[i]! / total) * tCdf((x + e + f.values.at(-1)!) / f.errors.at(-1)!, freedom),
              0,
            ),
          0,
        ) / ends.length,
      p,
    );
  };
  const cautious = (p: number) => at(borne, p);
  const likeliest = blocks.hours.length < 36 ? cautious : (p: number) => at([best], p);
  return { likeliest, cautious, correlation: best.c, blockSdMm: best.residualSd, borne: borne.length };
}

/** A level that falls, with a scatter that holds for a while. */
function falling(seed: number, hours: readonly number[], perHour: number, scatterMm: number, stepMm = 0): Segment {
  const { normal } = numbers(seed);
  let error = scatterMm * normal();
  const levelMm = hours.map((t, i) => {
    const keep = i > 0 ? Math.exp(hours[i - 1]! - t) : 0;
    error = keep * error + Math.sqrt(1 - keep * keep) * scatterMm * normal();
    const level = 76 - perHour * t + error;
    return stepMm > 0 ? Math.round(level / stepMm) * stepMm : level;
  });
  return { hours: [...hours], levelMm };
}
const from = (start: number, count: number, every: number) =>
  Array.from({ length: count }, (_, k) => start + k * every);

describe('the fit of a logger against the whole matrix of its errors', () => {
  it('with any blocks, segments, columns, priors and correlation', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.4, max: 2, noNaN: true }), { minLength: 8, maxLength: 24 }),
        fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 24, maxLength: 24 }),
        fc.constantFrom(0, 0.3, 0.75, 0.95),
        fc.integer({ min: 1, max: 2 }),
        fc.double({ min: 0, max: 0.1, noNaN: true }),
        fc.double({ min: 0.01, max: 2, noNaN: true }),
        (gaps, levels, correlation, segments, floorVariance, scatterMm) => {
          let last = 0;
          const hours = gaps.map((g) => {
            last += g;
            return last;
          });
          const blocks: Blocks = {
            hours,
            levelMm: levels.slice(0, hours.length),
            segment: hours.map((_, i) => (segments === 2 && i >= 4 ? 1 : 0)),
            widthHours: 0.7,
          };
          const columns: Column[] = [
            { values: hours.map((t) => Math.exp(-t / 2)), priorMm: 0.2 },
            { values: hours.map((t) => (t / hours.at(-1)!) ** 2) },
            { values: hours },
          ];
          const found = fitColumns(blocks, correlation, segments, floorVariance, columns, scatterMm);
          const plain = plainFit(blocks, errorsOf(blocks, correlation), segments, floorVariance, columns, scatterMm);
          expect(found.slope).toBeCloseTo(plain.values.at(-1)!, 7);
          expect(found.standardError).toBeCloseTo(plain.errors.at(-1)!, 7);
          expect(found.starts).toEqual(plain.values.slice(0, segments).map((v) => expect.closeTo(v, 6)));
          expect(found.residualSd).toBeCloseTo(plain.residualSd, 7);
          expect(found.logLikelihood).toBeCloseTo(plain.logLikelihood, 5);
        },
      ),
      { numRuns: 60 },
    );
  });

  const broken = [falling(4, from(0, 40, 0.3), 0.1, 0.15), falling(5, from(13, 50, 0.2), 0.1, 0.15)];
  it.each<[string, Segment[], number, number]>([
    ['every ten minutes', [falling(1, from(0.5, 144, 1 / 6), 0.1, 0.15)], 0.1, 0],
    ['every ten minutes, its filling later than zero', [falling(2, from(3, 144, 1 / 6), 0.2, 0.15)], 0.1, 2.5],
    ['hourly: few blocks', [falling(3, from(0, 25, 1), 0.1, 0.2)], 0.1, 0],
    ['in two runs', broken, 0.1, 0],
    ['six readings', [falling(6, from(0, 6, 4), 0.1, 0.2)], 0.1, 0],
    ['thirty-five blocks', [falling(16, from(0, 35, 0.7), 0.1, 0.2)], 0.1, 0],
    ['thirty-six blocks', [falling(17, from(0, 36, 0.7), 0.1, 0.2)], 0.1, 0],
    ['seventy-two readings', [falling(7, from(0, 72, 1 / 3), 0.1, 0.2)], 0.1, 0],
    ['seventy-three readings', [falling(8, from(0, 73, 1 / 3), 0.1, 0.2)], 0.1, 0],
    ['smoother than half its step', [falling(9, from(0, 120, 0.2), 0.13, 0.002, 0.3)], 0.3, 0],
    ['a little rougher than half its step', [falling(10, from(0, 120, 0.2), 0.13, 0.4)], 0.3, 0],
  ])('the rate of a series, %s', (_name, segments, stepMm, filledHours) => {
    const found = loggerRate(segments, stepMm, filledHours)!;
    const plain = plainRate(segments, stepMm, filledHours);
    expect(found.correlation).toBeCloseTo(plain.correlation, 9);
    expect(found.blockSdMm).toBeCloseTo(plain.blockSdMm, 8);
    const width = plain.cautious(0.975) - plain.cautious(0.025);
    for (const p of [0.005, 0.025, 0.5, 0.8, 0.975]) {
      expect(Math.abs(quantile(found.rate, p) - plain.likeliest(p))).toBeLessThan(0.004 * width);
      expect(Math.abs(quantile(found.cautious, p) - plain.cautious(p))).toBeLessThan(0.004 * width);
    }
  });
  it('means over windows are those of the plain sorting', () => {
    for (const segments of [broken, [falling(1, from(0.5, 144, 1 / 6), 0.1, 0.15)], [broken[0]!]]) {
      const [found, plain] = [blockMeans(segments), plainMeans(segments)];
      expect(found.segment).toEqual(plain.segment);
      expect(found.hours).toEqual(plain.hours.map((t) => expect.closeTo(t, 9)));
      expect(found.levelMm).toEqual(plain.levelMm.map((l) => expect.closeTo(l, 9)));
      expect(found.widthHours).toBeCloseTo(plain.widthHours, 12);
    }
  });
  it('nothing is said of fewer than five blocks, of each run one more, nor of runs of one reading', () => {
    expect(loggerRate([falling(1, from(0, 4, 1), 0.1, 0.1)], 0.1)).toBeNull();
    expect(loggerRate([falling(1, from(0, 5, 1), 0.1, 0.1)], 0.1)).not.toBeNull();
    const two = (count: number) => [falling(1, from(0, 3, 1), 0.1, 0.1), falling(2, from(5, count, 1), 0.1, 0.1)];
    expect(loggerRate(two(2), 0.1)).toBeNull();
    expect(loggerRate(two(3), 0.1)).not.toBeNull();
    const lone = { hours: [40], levelMm: [3] };
    expect(loggerRate([...two(3), lone], 0.1)).toEqual(expect.objectContaining({ blockSdMm: expect.any(Number) }));
    expect(loggerRate([...two(3), lone], 0.1)!.blockSdMm).toBe(loggerRate(two(3), 0.1)!.blockSdMm);
    expect(loggerRate([lone], 0.1)).toBeNull();
  });
});

describe('a loss that slowed against the whole matrix', () => {
  function plainSlowing(segment: Segment, stepMm: number, filledHours: number) {
    const blocks = plainMeans([segment]);
    const [first, last] = [blocks.hours[0]!, blocks.hours.at(-1)!];
    const drunk: Column = {
      values: blocks.hours.map((t) => (t <= filledHours ? 1 : Math.exp((filledHours - t) / 2))),
      priorMm: 0.2,
    };
    const errors = [0, 0.4, 0.6, 0.75, 0.87, 0.95].map((c) => errorsOf(blocks, c));
    const tried = Array.from({ length: 22 }, (_, k) => first + ((k + 1) / 23) * (last - first))
      .filter((at) => at - first >= 1.5 && last - at >= 1.5)
      .flatMap((at) => {
        const bend: Column = { values: blocks.hours.map((t) => (t < at ? t - at : 0)) };
        return errors.map((e) => ({
          at,
          ...plainFit(blocks, e, 1, stepMm ** 2 / 12, [drunk, { values: blocks.hours }, bend], 0.2),
        }));
      });
    const most = Math.max(...tried.map((f) => f.logLikelihood));
    const best = tried.find((f) => f.logLikelihood === most)!;
    const likely = tried.filter((f) => f.logLikelihood >= most - 1.92).map((f) => f.at);
    const ran = best.at - first;
    const extraMm = -best.values.at(-1)! * ran;
    const errorMm = best.errors.at(-1)! * ran;
    if (extraMm <= 2.5 * errorMm) return null;
    return {
      atHours: best.at,
      fromHours: Math.min(...likely),
      toHours: Math.max(...likely),
      extraMm,
      isLeak: extraMm - 2.5 * errorMm > 0.8,
    };
  }
  const stopping = (seed: number, perHour: number, untilHours: number): Segment => {
    const base = falling(seed, from(0, 144, 1 / 6), 0.02, 0.1);
    return {
      hours: base.hours,
      levelMm: base.levelMm.map((l, i) => l - perHour * Math.min(base.hours[i]!, untilHours)),
    };
  };
  it.each([
    [1, 0.5, 6],
    [2, 0.3, 9],
    [3, 0.12, 8],
    [4, 0.06, 12],
    [5, 0, 6],
    [6, 0.25, 4],
    [7, 0.8, 2],
    [8, 0.1, 18],
    [9, -0.5, 6],
  ])('series %s: %s mm an hour more until hour %s', (seed, perHour, untilHours) => {
    const segment = stopping(seed, perHour, untilHours);
    for (const filledHours of [0, 1.5]) {
      const [found, plain] = [slowing([segment], 0.1, filledHours), plainSlowing(segment, 0.1, filledHours)];
      if (!plain) expect(found).toBeNull();
      else
        expect(found).toEqual({
          ...plain,
          atHours: expect.closeTo(plain.atHours, 9),
          fromHours: expect.closeTo(plain.fromHours, 9),
          toHours: expect.closeTo(plain.toHours, 9),
          extraMm: expect.closeTo(plain.extraMm, 6),
        });
    }
  });
  it('is asked of one run of 24 readings at least, over more than three hours', () => {
    const of = (count: number, every: number) => {
      const hours = from(0, count, every);
      return { hours, levelMm: hours.map((t) => 76 - Math.min(t, 6) + 0.02 * Math.sin(t * 5)) };
    };
    expect(slowing([of(24, 1)], 0.1, 0)).not.toBeNull();
    expect(slowing([of(23, 1)], 0.1, 0)).toBeNull();
    expect(slowing([of(24, 1), of(24, 1)], 0.1, 0)).toBeNull();
    expect(slowing([of(24, 1), { hours: [99], levelMm: [1] }], 0.1, 0)).not.toBeNull();
    expect(slowing([of(140, 0.02)], 0.1, 0)).toBeNull();
    expect(slowing([], 0.1, 0)).toBeNull();
  });
});
