import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import { describe, expect, it } from 'vitest';
import { bisected } from '../tests/bisected';
import { evaporationOf } from './evaporationOf';
import { USUAL_CLIMATE } from './floodPlan';
import { floodVerdict } from './floodVerdict';
import type { FloodVerdictInput } from './floodVerdictInput';
import { lossRate } from './lossRate';
import { simulateFlood } from './simulateFlood';

const value = <T>(o: { ok: boolean; value?: T }): T => {
  if (!o.ok) throw new Error(JSON.stringify(o));
  return o.value!;
};

describe('the bounds of a verdict against the sums that they are', () => {
  /** The quantile of a rate less what is taken off less what a logger creeps, each of its values as likely as the others. */
  const plainNet = (cdf: (x: number) => number, taken: readonly number[], driftSd: number) => {
    const creeping =
      driftSd === 0 ? [0] : Array.from({ length: 21 }, (_, i) => (normalQuantile((i + 0.5) / 21, 0, 1) * driftSd) / 24);
    const below = (x: number) =>
      creeping.reduce((sum, d) => sum + taken.reduce((inner, e) => inner + cdf(x + e + d), 0) / taken.length, 0) /
      creeping.length;
    return { below, at: (p: number) => bisected(below, p) * 24 };
  };
  const flood = (more: object) =>
    simulateFlood({
      method: 'logger',
      leakMmPerDay: 0.3,
      evaporationMmPerDay: 2.4,
      hours: 24,
      everyHours: 1 / 6,
      resolutionMm: 0.1,
      scatterMm: 0.15,
      correlationHours: 1,
      smallestLeakMmPerDay: 1,
      seed: 11,
      ...more,
    });
  it.each<[string, FloodVerdictInput]>([
    ['a pan logged with the water', flood({})],
    ['a leak under a pan', flood({ leakMmPerDay: 1.6, seed: 3 })],
    ['the air alone', { ...flood({ noPan: true, climate: USUAL_CLIMATE, leakMmPerDay: 3 }) }],
    ['a logger that creeps more than is usual', { ...flood({ seed: 4 }), driftMmPerDay: 0.4 }],
    ['a logger that does not creep', { ...flood({ seed: 5 }), driftMmPerDay: 0 }],
    ['marks of an eye', flood({ method: 'marks', eyeSdMm: 0.5, resolutionMm: 1.6, leakMmPerDay: 2 })],
    ['nothing known of the air', flood({ noPan: true, leakMmPerDay: 1, seed: 8 })],
    ['few readings', flood({ everyHours: 1, seed: 6 })],
  ])('%s', (_name, input) => {
    const found = value(floodVerdict(input));
    const settled =
      input.method === 'logger' ? input.readings.filter((r) => r.atHours >= 0.5 - 1 / 60) : input.readings;
    const readings = settled[0]!.atHours > 2 ? input.readings : settled;
    const segment = { hours: readings.map((r) => r.atHours), levelMm: readings.map((r) => r.levelMm) };
    const window: [number, number] = [segment.hours[0]!, segment.hours.at(-1)!];
    const loss = lossRate(input.method, [segment], input.resolutionMm, 0.5, 0)!;
    const evaporation = value(evaporationOf(input, readings, window, [], 0, input.resolutionMm));
    const { taken, takenForPass } = evaporation;
    const { rate, cautious } = evaporation.against ?? loss;
    const driftSd = input.method === 'logger' ? (input.driftMmPerDay ?? 0.07) : 0;
    const middle = plainNet(rate.cdf, taken ?? [0], driftSd);
    const doubt = plainNet(cautious.cdf, taken ?? [0], driftSd);
    const most = plainNet(rate.cdf, takenForPass, driftSd);
    const near = (a: number, b: number) =>
      expect(Math.abs(a - b)).toBeLessThan(0.01 * (middle.at(0.975) - middle.at(0.025)));
    near(found.netLossMmPerDay!, Math.max(0, middle.at(0.5)));
    if (taken === null) expect([found.lowMmPerDay, found.failBoundMmPerDay]).toEqual([null, null]);
    else near(found.lowMmPerDay!, Math.max(0, middle.at(0.025)));
    if (taken !== null) near(found.failBoundMmPerDay!, Math.max(0, 0.4 * middle.at(0.005) + 0.6 * doubt.at(0.005)));
    // Given that nothing leaks in: what lies below zero is shared out over the rest.
    const below = most.below(0);
    near(found.highMmPerDay!, most.at(below + 0.975 * (1 - below)));
    near(found.lossMmPerDay!, bisected(loss.rate.cdf, 0.5) * 24);
  });
});
