import { describe, expect, it } from 'vitest';
import { floodFound } from '../checks/flood';
import { distanceTo } from '../checks/place';
import { showerHeadMm } from '../checks/raisedLimits';
import type { Body } from '../log/bodies';
import { allEvidence } from '../log/state';
import { showerModel } from '../shower/geometry/showerModel';
import { endFlood, flooded, logged, PLACES, readyForWater, waterIn } from '../tests/sampleFlood';
import { sampleShower } from '../tests/sampleShower';
import { begun, climb, fold, pass, placeOf } from '../tests/sampleTablet';

const RISE = 0.75 * 25.4;

describe('moisture that comes to light after a test had passed', () => {
  const after = (body: object) => {
    const t = flooded(begun());
    t.write('moisture-look', { where: PLACES[0]!, ...body } as Body<'moisture-look'>);
    const { flood, defects } = fold(t.entries);
    return [flood!.end!.verdict, defects.size];
  };
  it('takes its verdict back, said in the old words as in the new ones', () => {
    expect(after({ found: true, moment: 'end' })).toEqual(['fail', 1]);
    expect(after({ found: true })).toEqual(['fail', 1]);
    expect(after({ found: false, answer: 'wet', moment: 'leaving' })).toEqual(['fail', 1]);
  });
  it('what was dry, not seen, or wet before the water changes nothing', () => {
    expect(after({ found: false, moment: 'end' })).toEqual(['pass', 0]);
    expect(after({ found: true, answer: 'dry', moment: 'end' })).toEqual(['pass', 0]);
    expect(after({ found: true, answer: 'could-not-see', moment: 'end' })).toEqual(['pass', 0]);
    expect(after({ found: true, answer: 'wet', moment: 'start' })).toEqual(['pass', 0]);
  });
  it('one wet place among dry ones is what an acceptance must have been shown', () => {
    const t = readyForWater(begun());
    waterIn(t);
    logged(t);
    t.write('moisture-look', { where: PLACES[0]!, found: true, answer: 'wet', moment: 'leaving' });
    endFlood(t);
    expect(floodFound(fold(t.entries))).toMatchObject({ verdict: 'fail', worst: { wet: 1 } });
    const dry = readyForWater(begun());
    waterIn(dry);
    logged(dry);
    endFlood(dry);
    expect(floodFound(fold(dry.entries)).worst).not.toHaveProperty('wet');
  });
});

describe('a redo and the points near it', () => {
  it('takes what was seen of a corner or an opening of a later stage within its reach, not beyond', () => {
    const t = begun();
    climb(t, 'drain-tie-in');
    pass(t, 'drain-tie-in');
    const state = fold(t.entries);
    const model = state.geometry!.model;
    const seam = model.seams.find((s) => s.id === 'floor-wall|floor|wall:back')!;
    const [start, end] = [seam.points[0]!, seam.points.at(-1)!];
    const cornerAt = (p: readonly number[]) =>
      model.corners.find((c) => Math.hypot(...c.point.map((x, i) => x - p[i]!)) < 1 && c.kind === 'inside')!;
    t.write('redo', {
      stage: 'boards',
      places: [placeOf(state, seam.id, { fromMm: 0, toMm: 50 })],
      reason: 'cut open',
    });
    const left = allEvidence(fold(t.entries)).filter((e) => e.check === 'corner-piece');
    const of = (id: string) => left.filter((e) => e.element === id).map((e) => e.voided);
    expect(of(cornerAt(start).id)).toEqual([true]);
    expect(of(cornerAt(end).id)).toEqual([false]);
    const drain = allEvidence(fold(t.entries)).filter((e) => e.element === model.drain.id);
    expect(drain.length).toBeGreaterThan(0);
    expect(drain.every((e) => !e.voided)).toBe(true);
  });
  it('a drain that moved an inch is to be looked at again, by less it is not; and it is no face', () => {
    const moved = (by: number) => {
      const t = begun();
      climb(t, 'drain-tie-in');
      pass(t, 'drain-tie-in');
      const geometry = sampleShower();
      t.write('geometry-set', {
        version: 2,
        geometry: { ...geometry, drain: { ...geometry.drain, yMm: geometry.drain.yMm + by } },
      });
      const { evidence, geometry: now } = fold(t.entries);
      return evidence.get(now!.model.drain.id)!.every((e) => e.lookAgain);
    };
    expect([moved(24.9), moved(25), moved(-30)]).toEqual([false, true, true]);
  });
});

describe('walls that face sideways and shower heads', () => {
  it('a surface that faces sideways is as near as its plane', () => {
    const wall = (at: (u: number, v: number) => [number, number, number]) => [
      at(0, 0),
      at(200, 0),
      at(200, 100),
      at(0, 100),
    ];
    const loops = [wall((u, v) => [u, 7, v]), wall((u, v) => [7, u, v]), wall((u, v) => [u, v, 7])];
    const over: [number, number, number][] = [
      [50, 27, 50],
      [27, 50, 50],
      [50, 50, 27],
    ];
    for (const [i, loop] of loops.entries()) expect(distanceTo(over[i]!, { loop })).toBeCloseTo(20, 9);
  });
  it('the highest of several shower heads counts; without one there is none', () => {
    const heads = (...heightsMm: number[]) => {
      const arms = heightsMm.map((heightMm, k) => ({
        id: `arm${k}`,
        kind: 'shower-arm' as const,
        edge: 3,
        alongMm: 300 + 200 * k,
        heightMm,
        diameterMm: 20,
      }));
      const made = showerModel({ ...sampleShower(), penetrations: arms });
      if (!made.ok) throw new Error(made.problem.code);
      return showerHeadMm(made.value);
    };
    expect(heads(1900, 2100)).toBeCloseTo(2100 + RISE, 6);
    expect(heads(2100, 1900)).toBeCloseTo(2100 + RISE, 6);
    expect(heads()).toBeNull();
  });
});
