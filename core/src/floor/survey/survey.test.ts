import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PlanPoint } from '../../shower/geometry/point';
import { signedAreaMm2 } from '../../shower/geometry/polygon';
import { SHAPES } from '../../tests/anyShower';
import { type FallSurveyInput, fallSurvey, guesses } from '../fall/fallSurvey';
import { judgeSurvey, surveyCertainty, whereNext } from './judgeSurvey';
import { type Shot, usableShots } from './shots';
import { heightAt, makeSurface, ownHeights } from './surface';
import { nextPlace, surveyPlan } from './surveyPlan';
import { planeWeights } from './weights';
import { wildShots } from './wildShots';

const IN = 25.4;
const RIM = 55;
const floor = (w = 60 * IN, d = 36 * IN): PlanPoint[] => [
  { xMm: 0, yMm: 0 },
  { xMm: w, yMm: 0 },
  { xMm: w, yMm: d },
  { xMm: 0, yMm: d },
];
const middle = { xMm: 30 * IN, yMm: 18 * IN };
const cone =
  (slope: number, drain = middle) =>
  (x: number, y: number): number =>
    slope * (Math.hypot(x - drain.xMm, y - drain.yMm) - RIM);
const grid = (height: (x: number, y: number) => number, columns = 9, rows = 6): Shot[] =>
  Array.from({ length: rows * columns }, (_, k) => {
    const xMm = ((k % columns) * 60 * IN) / (columns - 1);
    const yMm = (Math.floor(k / columns) * 36 * IN) / (rows - 1);
    return { xMm, yMm, zMm: height(xMm, yMm) };
  });
const input = (shots: Shot[], more: Partial<FallSurveyInput> = {}): FallSurveyInput => ({
  footprint: floor(),
  drain: middle,
  drainRimMm: RIM,
  drainZMm: 0,
  shots,
  uncertaintyMm: IN / 32,
  minFall: 0.25 / 12,
  maxFall: 0.5 / 12,
  seed: 7,
  runs: 200,
  ...more,
});
const surveyed = (more: Partial<FallSurveyInput>, shots = grid(cone(0.03))) => {
  const found = fallSurvey(input(shots, more));
  if (!found.ok) throw new Error(found.problem.code);
  return found.value;
};
const LIMITS = { uncertaintyMm: IN / 32, minFall: 0.25 / 12, maxFall: 0.5 / 12, pondMm: IN / 16 };
const judged = (shots: Shot[], open: number[] = []) => {
  const found = judgeSurvey({ footprint: floor(), drain: middle, drainRimMm: RIM }, 0, shots, LIMITS, open);
  if (!found.ok) throw new Error(found.problem.code);
  return found.value;
};

describe('the surface through shots', () => {
  it('covers every room exactly, however it is cut, and is exact on any plane', () => {
    const room = fc.record({
      shape: fc.constantFrom(...SHAPES),
      w: fc.double({ min: 1000, max: 2400, noNaN: true }),
      d: fc.double({ min: 900, max: 2000, noNaN: true }),
      slopes: fc.tuple(
        fc.double({ min: -0.05, max: 0.05, noNaN: true }),
        fc.double({ min: -0.05, max: 0.05, noNaN: true }),
      ),
    });
    fc.assert(
      fc.property(room, ({ shape, w, d, slopes: [sx, sy] }) => {
        const { footprint, drain } = shape(w, d) as unknown as { footprint: PlanPoint[]; drain?: PlanPoint };
        const at = drain ?? { xMm: w / 2, yMm: d / 2 };
        const plan = surveyPlan({ footprint, drain: at, drainRimMm: RIM }, 300);
        const height = (p: PlanPoint) => 40 + sx * p.xMm + sy * p.yMm;
        const made = makeSurface(
          { footprint, drain: at, drainRimMm: 0 },
          plan.map((p) => ({ ...p, zMm: height(p) })),
        );
        if (!made.ok) throw new Error(made.problem.code);
        const { triangles, x, y, outline } = made.value;
        const area = triangles.reduce(
          (sum, [a, b, c]) => sum + Math.abs((x[b]! - x[a]!) * (y[c]! - y[a]!) - (x[c]! - x[a]!) * (y[b]! - y[a]!)) / 2,
          0,
        );
        expect(area / signedAreaMm2(footprint)).toBeCloseTo(1, 6);
        const z = ownHeights(made.value, 0);
        for (const v of outline) expect(z[v.vertex]!).toBeCloseTo(height({ xMm: x[v.vertex]!, yMm: y[v.vertex]! }), 6);
        for (const p of plan) expect(heightAt(made.value, z, p)).toBeCloseTo(height(p), 6);
      }),
      { numRuns: 60 },
    );
  });
  it('gives weights that add up to one, at any place', () => {
    const shots = grid(cone(0.02));
    fc.assert(
      fc.property(
        fc.double({ min: -50, max: 1600, noNaN: true }),
        fc.double({ min: -50, max: 950, noNaN: true }),
        (x, y) => {
          const weights = planeWeights({ xMm: x, yMm: y }, [...shots.entries()])!;
          expect(weights.reduce((s, [, w]) => s + w, 0)).toBeCloseTo(1, 9);
        },
      ),
    );
  });
});

describe('shots that no floor can be made of', () => {
  const at = (xMm: number, yMm: number, zMm = 0): Shot => ({ xMm, yMm, zMm });
  it.each([
    ['shots', [at(100, 100), at(900, 100)], 'shots-too-few'],
    ['shots', [at(100, 100), at(500, 100), at(900, 100)], 'shots-on-a-line'],
    ['shots.3', [at(100, 100), at(900, 100), at(500, 800), at(100, 100, 5)], 'shots-at-one-place'],
    ['shots.1', [at(100, 100), at(2000, 100), at(500, 800)], 'shot-outside'],
    ['shots.1', [at(100, 100), at(900, Number.NaN), at(500, 800)], 'shot-incomplete'],
  ])('are refused at %s', (field, shots, code) => {
    const found = usableShots({ footprint: floor(), drain: middle, drainRimMm: RIM }, shots);
    expect(found).toMatchObject({ ok: false, problem: { code, field } });
  });
  it('take one of two that say the same, and leave out what stands in the drain', () => {
    const shots = [at(100, 100), at(900, 100), at(500, 800), at(100, 100), { ...middle, zMm: -3 }];
    const found = usableShots({ footprint: floor(), drain: middle, drainRimMm: RIM }, shots);
    expect(found.ok && found.value).toHaveLength(3);
  });
  it('with a drain over the whole edge are taken for rod readings that grow downwards', () => {
    const found = fallSurvey(input(grid((x, y) => -cone(0.03)(x, y))));
    expect(found).toMatchObject({ ok: false, problem: { field: 'drainZMm' } });
  });
  it('wild are named, and only they', () => {
    const shots = grid(cone(0.025));
    expect(wildShots(shots)).toEqual([]);
    shots[20]!.zMm += 30;
    expect(wildShots(shots)[0]).toMatchObject({ shot: 20 });
    expect(wildShots(shots)[0]!.offMm).toBeGreaterThan(20);
  });
});

describe('fall from a survey', () => {
  it('of a cone is its slope on every path', () => {
    const { leastFall, greatestFall, verdict, outOfLevelMm } = surveyed({ runs: 0 });
    // Between two shots of the edge the surface is straight, and so a little higher than the cone.
    expect(leastFall).toBeCloseTo(0.03, 6);
    expect(greatestFall).toBeGreaterThan(0.03);
    expect(greatestFall).toBeLessThan(0.031);
    expect(verdict).toBe('pass');
    expect(outOfLevelMm).toBeCloseTo(0.03 * (Math.hypot(30, 18) - 18) * IN, 6);
  });
  it('of a level edge is least at the far corner, and steepest where the edge comes nearest', () => {
    const rise = 0.0224 * (Math.hypot(30, 18) * IN - RIM);
    const shots = grid((x, y) => (x === 0 || y === 0 || x > 59.9 * IN || y > 35.9 * IN ? rise : rise * 0.5));
    const { leastFall, at, greatestFall, greatestAt } = surveyed({ runs: 0 }, shots);
    expect(leastFall).toBeCloseTo(0.0224, 6);
    expect([at.xMm % (60 * IN), at.yMm % (36 * IN)].map((v) => Math.abs(v) < 1e-6 || v > 900)).toEqual([true, true]);
    expect(greatestFall).toBeCloseTo(rise / (18 * IN - RIM), 3);
    expect(greatestAt.xMm).toBeCloseTo(30 * IN, -2);
  });
  it('is undecided within half the uncertainty of a limit, along the path that decides', () => {
    const longest = Math.hypot(30, 18) * IN - RIM;
    const guard = IN / 64 / longest;
    const flat = (slope: number) => surveyed({ runs: 0, maxFall: 1 }, grid(cone(slope))).verdict;
    expect(flat(0.25 / 12 + 2 * guard)).toBe('pass');
    expect(flat(0.25 / 12 + 0.5 * guard)).toBe('undecided');
    expect(flat(0.25 / 12 - 0.5 * guard)).toBe('undecided');
    expect(flat(0.25 / 12 - 2 * guard)).toBe('fail');
    expect(surveyed({ runs: 0 }, grid(cone(0.045))).verdict).toBe('fail');
  });
  it('tells how likely the least fall is under its limit: never for a steep floor, always for a flat one, the same for one seed', () => {
    expect(surveyed({}, grid(cone(0.035))).probabilityBelow).toBe(0);
    expect(surveyed({ maxFall: 1 }, grid(cone(0.018))).probabilityBelow).toBe(1);
    const near = grid(cone(0.0216));
    const share = surveyed({}, near).probabilityBelow!;
    expect(share).toBeGreaterThan(0.02);
    expect(share).toBeLessThan(0.98);
    expect(surveyed({}, near).probabilityBelow).toBe(share);
    expect(surveyed({ seed: 8 }, near).probabilityBelow).not.toBe(share);
    expect(surveyed({ uncertaintyMm: 0 }, near).probabilityBelow).toBe(0);
  });
});

describe('a survey as a whole', () => {
  const birdbath = () => grid(cone(0.03)).map((s, k) => (k === 24 ? { ...s, zMm: s.zMm - 16 } : s));
  it('finds a birdbath with its place and depth, sees how likely it is, and passes once it is filled', () => {
    const found = judged(birdbath());
    expect(found.ponds).toHaveLength(1);
    const deep = birdbath()[24]!;
    expect(found.ponds[0]!.at).toEqual({ xMm: deep.xMm, yMm: deep.yMm });
    expect(found.deepestMm).toBeGreaterThan(IN / 16);
    expect(found.verdict).toBe('fail');
    const { probabilityPond, runs } = surveyCertainty(found, 0, LIMITS, { seed: 3, runs: 300 });
    expect(runs).toBe(300);
    expect(probabilityPond).toBeGreaterThan(0.9);
    expect(judged(grid(cone(0.03))).verdict).toBe('pass');
  });
  it('can be stopped, and says how many guesses it made', () => {
    const seen: number[] = [];
    const stopped = surveyCertainty(judged(birdbath()), 0, LIMITS, {
      seed: 1,
      runs: 1000,
      onProgress: (n) => {
        seen.push(n);
        return n < 100;
      },
    });
    expect(stopped.runs).toBe(99);
    expect(seen).toEqual([50, 100]);
  });
  it('names where one more shot would help: on the outline when its fall hangs, nowhere when all is far from a limit', () => {
    const few = [0, 8, 22, 31, 45, 53].map((k) => grid(cone(0.0215))[k]!);
    expect(whereNext(judged(few), LIMITS)).not.toBeNull();
    expect(whereNext(judged(grid(cone(0.032))), LIMITS)).toBeNull();
    // Filled so far that the pond is as deep as it may be: half-way to its neighbours decides.
    const filled = judged(birdbath()).deepestMm - LIMITS.pondMm;
    const hanging = birdbath().map((b, k) => (k === 24 ? { ...b, zMm: b.zMm + filled } : b));
    expect(whereNext(judged(hanging), LIMITS)?.why).toBe('pond');
  });
});

describe('where the rod goes', () => {
  it('is on the floor, off the drain, and every place once', () => {
    const plan = surveyPlan({ footprint: floor(), drain: middle, drainRimMm: RIM }, 200);
    expect(plan.length).toBeGreaterThan(30);
    for (const p of plan) {
      expect(p.xMm).toBeGreaterThan(0);
      expect(Math.hypot(p.xMm - middle.xMm, p.yMm - middle.yMm)).toBeGreaterThan(RIM);
    }
    expect(nextPlace(plan, [])).toEqual(plan[0]);
    expect(nextPlace(plan, [plan[0]!])).toEqual(plan[1]);
    expect(nextPlace(plan, plan)).toBeNull();
  });
});

describe('a drain beside a wall', () => {
  /** A channel 30 in long and 2 in wide, so far from the wall at the back. */
  const channel = (offMm: number): PlanPoint[] => {
    const [x, y] = [15 * IN, offMm];
    return [
      { xMm: x, yMm: y },
      { xMm: x + 30 * IN, yMm: y },
      { xMm: x + 30 * IN, yMm: y + 2 * IN },
      { xMm: x, yMm: y + 2 * IN },
    ];
  };
  const withChannel = (offMm: number) => ({
    footprint: floor(),
    drain: { xMm: 30 * IN, yMm: offMm + IN },
    drainRimMm: 0,
    rim: channel(offMm),
  });
  /** Falls 3 % to the channel along the shortest way from anywhere. */
  const toChannel = (offMm: number, slope = 0.03) => {
    const [x0, x1, y0, y1] = [15 * IN, 45 * IN, offMm, offMm + 2 * IN];
    return (x: number, y: number) => slope * Math.hypot(Math.max(x0 - x, 0, x - x1), Math.max(y0 - y, 0, y - y1));
  };
  const judgedBy = (offMm: number, shots: Shot[]) => {
    const found = judgeSurvey(withChannel(offMm), 0, shots, LIMITS);
    if (!found.ok) throw new Error(found.problem.code);
    return found.value;
  };
  const OFFS = [3, 6, 10, 15, 20, 30, 40, 50, 60];

  it.each(OFFS)('%i mm behind a channel passes with a perfect fall, with shots at the wall', (off) => {
    expect(judgedBy(off, grid(toChannel(off), 13, 9)).verdict).toBe('pass');
  });
  it.each(OFFS)('%i mm behind a channel passes with a perfect fall, where the rod finds no room behind it', (off) => {
    const shots = grid(toChannel(off), 13, 9).filter((s) => s.yMm > 20 || s.xMm < 14 * IN || s.xMm > 46 * IN);
    expect(judgedBy(off, shots).verdict).toBe('pass');
  });
  it.each(OFFS)('%i mm behind a round drain passes with a perfect fall', (off) => {
    const drain = { xMm: 30 * IN, yMm: off + RIM };
    const limits = { ...LIMITS, maxFall: 0.6 / 12 };
    const found = judgeSurvey(
      { footprint: floor(), drain, drainRimMm: RIM },
      0,
      grid(cone(0.03, drain), 13, 9),
      limits,
    );
    expect(found.ok && found.value.verdict).toBe('pass');
  });
  it('does not pass where the floor in front of the channel is flat, or too steep', () => {
    for (const off of OFFS) {
      expect(judgedBy(off, grid(toChannel(off, 0.015), 13, 9)).verdict).toBe('fail');
      expect(judgedBy(off, grid(toChannel(off, 0.06), 13, 9)).verdict).toBe('fail');
    }
  });
  it('fails where the strip behind it runs off to the wall', () => {
    const off = 60;
    const shots = grid(toChannel(off), 13, 9).map((s) => (s.yMm === 0 ? { ...s, zMm: -0.03 * off } : s));
    const found = judgedBy(off, shots);
    expect(found.verdict).toBe('fail');
    expect(found.falls.leastFall).toBeLessThan(0);
    expect(found.falls.at.yMm).toBe(0);
  });
  it('is undecided where a wide strip behind it has no shot, and the next shot is asked for there', () => {
    const off = 7 * IN;
    const shots = grid(toChannel(off), 13, 9).filter((s) => s.yMm > off + 2 * IN || s.xMm < 12 * IN || s.xMm > 48 * IN);
    const found = judgedBy(off, shots);
    expect(found.verdict).toBe('undecided');
    expect(whereNext(found, LIMITS)).toMatchObject({ why: 'unseen', at: { yMm: 0 } });
    const behind = grid(toChannel(off), 13, 9);
    expect(judgedBy(off, behind).verdict).toBe('pass');
    expect(whereNext(judgedBy(off, behind), LIMITS)?.why).not.toBe('unseen');
  });
  it('lets no short path hide a long one that is proved to be outside', () => {
    const shots = grid(toChannel(60), 13, 9).map((s) => {
      if (s.yMm === 0 && s.xMm > 15 * IN && s.xMm < 45 * IN) return { ...s, zMm: 60 * 0.0165 };
      return s.yMm > 35 * IN ? { ...s, zMm: (36 * IN - 60 - 2 * IN) * 0.0195 } : s;
    });
    expect(judgedBy(60, shots).verdict).toBe('fail');
  });
  it('decides nothing where every path is too short', () => {
    const drain = { xMm: 150, yMm: 150 };
    const footprint = floor(300, 300);
    const shots = [0, 150, 300].flatMap((xMm) => [0, 150, 300].map((yMm) => ({ xMm, yMm, zMm: 0 })));
    const limits = { ...LIMITS, minFall: 0, maxFall: 1 / 12 };
    const near = judgeSurvey({ footprint, drain, drainRimMm: 140 }, 0, shots, { ...limits, uncertaintyMm: 6 });
    expect(near.ok && near.value.verdict).toBe('undecided');
  });
});

describe('a level that is out', () => {
  it('makes a floor near its limit less sure than its shots do, and a steep one no less', () => {
    const near = grid(cone(0.0216));
    const at = (tiltMmPerM: number) => surveyed({ tiltMmPerM, runs: 2000, uncertaintyMm: 0.1 }, near).probabilityBelow!;
    expect(at(0)).toBeLessThan(0.01);
    expect(at(1.5)).toBeGreaterThan(0.2);
    expect(surveyed({ tiltMmPerM: 1.5, runs: 500 }, grid(cone(0.035))).probabilityBelow).toBe(0);
  });
  it('tilts the whole floor about its drain, by as much as it is said', () => {
    const found = judged(grid(cone(0.03)));
    const next = guesses(found.surface, 0, { uncertaintyMm: 0, tiltMmPerM: 0.35 }, 5);
    const tilts = Array.from({ length: 4000 }, () => {
      const { z, drainZMm } = next();
      expect(drainZMm).toBe(0);
      const off = found.surface.shots.map((s, i) => z[i]! - s.zMm);
      // Opposite corners go opposite ways, as on a plane through the drain.
      expect(off[0]! + off.at(-1)!).toBeCloseTo(0, 9);
      return (off[8]! - off[0]!) / (60 * IN);
    });
    const sd = Math.sqrt(tilts.reduce((sum, t) => sum + t * t, 0) / tilts.length);
    expect(sd * 1.96).toBeGreaterThan(0.00033);
    expect(sd * 1.96).toBeLessThan(0.00037);
  });
  it('is a usual one where nobody says', () => {
    const near = grid(cone(0.0213));
    const said = (more: object) => surveyed({ uncertaintyMm: 0.1, runs: 3000, ...more }, near).probabilityBelow!;
    expect(said({})).toBe(said({ tiltMmPerM: 0.35 }));
    expect(said({})).toBeGreaterThan(said({ tiltMmPerM: 0 }));
  });
});
