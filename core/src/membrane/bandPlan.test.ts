import { describe, expect, it } from 'vitest';
import { boardCut } from '../walls/boardCut';
import { bandPlan } from './bandPlan';
import { linerWidth } from './linerWidth';
import { drawPlaces, samplingConfidence, samplingPlan } from './samplingPlan';

const IN = 25.4;
const value = <T>(o: { ok: boolean; value?: T }): T => {
  if (!o.ok) throw new Error(JSON.stringify(o));
  return o.value!;
};

describe('a band', () => {
  const band = {
    bandWidthMm: 5 * IN,
    lossMm: IN / 8,
    offCentreMm: 0,
    otherEdgeMm: [0, 0] as [number, number],
    cornerLegMm: 54,
    stopShortMm: 3,
    limitMm: 2 * IN,
  };
  it('of 5 in with 1/8 in lost has legs of 2.4375 in', () => {
    const plan = value(bandPlan(band));
    expect(plan.legsMm.map((l) => l / IN)).toEqual([2.4375, 2.4375]);
    expect(plan).toMatchObject({ verdict: 'pass', onCornerMm: 51 });
    expect(plan.roomMm / IN).toBeCloseTo(0.4375, 9);
  });
  it('1/2 in off centre is short on one side; stopped too far from the corner it misses the piece', () => {
    expect(value(bandPlan({ ...band, offCentreMm: IN / 2 }))).toMatchObject({ verdict: 'fail' });
    expect(value(bandPlan({ ...band, stopShortMm: 4 }))).toMatchObject({ verdict: 'fail' });
    expect(value(bandPlan({ ...band, otherEdgeMm: [IN / 2, 0] }))).toMatchObject({ verdict: 'fail' });
    expect(bandPlan({ ...band, offCentreMm: 90 })).toMatchObject({ problem: { field: 'offCentreMm' } });
    expect(bandPlan({ ...band, lossMm: 200 })).toMatchObject({ problem: { field: 'lossMm' } });
  });
});

describe('a liner', () => {
  const liner = { openingWidthMm: 60 * IN, openingDepthMm: 36 * IN, turnUpMm: 6 * IN, overCurbMm: 0 };
  it('5 ft in an opening of nearly 4 ft turns up 6 in', () => {
    const found = value(linerWidth({ ...liner, openingDepthMm: 48 * IN }));
    expect(found).toMatchObject({ rollMm: 60 * IN, shortMm: 0, seamAtMm: null, turned: false });
    expect(found.turnUpGivenMm).toBeCloseTo(6 * IN, 6);
  });
  it('takes the roll that fits with least waste', () => {
    expect(value(linerWidth(liner)).rollMm).toBeCloseTo(48 * IN, 6);
  });
  it('says what is short, and where the seam falls, where no roll is wide enough', () => {
    const found = value(linerWidth({ ...liner, openingWidthMm: 96 * IN, openingDepthMm: 72 * IN }));
    expect(found.shortMm).toBeCloseTo(12 * IN, 6);
    expect(found.seamAtMm).toBeCloseTo((72 - 6 - 1) * IN, 6);
  });
});

describe('a board', () => {
  it('is cut less its neighbours, and its valve hole moves with the groove: 44 1/2 becomes 44 3/8 and 16 1/2 becomes 16', () => {
    const cut = value(
      boardCut({
        topMm: 36 * IN,
        bottomMm: 35.9 * IN,
        heightMm: 60 * IN,
        boardMm: IN / 2,
        neighbours: 1,
        grooveMm: 0,
        headroomMm: 0,
        valve: { fromCornerMm: 16.5 * IN, overPanMm: 44.375 * IN },
      }),
    );
    expect(cut.hole!.fromEdgeMm / IN).toBeCloseTo(16, 9);
    expect(cut.topMm / IN).toBeCloseTo(35.5, 9);
    expect(cut.taper).toBe(true);
    expect(
      boardCut({ topMm: 10, bottomMm: 10, heightMm: 5, boardMm: 12, neighbours: 1, grooveMm: 0, headroomMm: 0 }),
    ).toMatchObject({ ok: false });
  });
});

describe('readings at random places', () => {
  it('59 for 5 %, 29 for 10 %, at 95 %; three say 14 %', () => {
    expect(value(samplingPlan({ mostShare: 0.05, confidence: 0.95 })).readings).toBe(59);
    expect(value(samplingPlan({ mostShare: 0.1, confidence: 0.95 })).readings).toBe(29);
    expect(samplingConfidence(3, 0.05)).toBeCloseTo(0.1426, 4);
    expect(samplingConfidence(59, 0.05)).toBeGreaterThanOrEqual(0.95);
    expect(samplingConfidence(58, 0.05)).toBeLessThan(0.95);
  });
  it('fall on long lines more often than on short ones, and the same seed draws the same', () => {
    const lines = [
      { element: 'long', side: null, lengthMm: 3000 },
      { element: 'short', side: 'a', lengthMm: 1000 },
    ];
    const places = drawPlaces(lines, 4000, 7);
    expect(places).toEqual(drawPlaces(lines, 4000, 7));
    expect(places.filter((p) => p.element === 'long').length / 4000).toBeCloseTo(0.75, 1);
    expect(places.every((p) => p.atMm >= 0 && p.atMm <= (p.element === 'long' ? 3000 : 1000))).toBe(true);
    const quarters = [0, 1, 2, 3].map(
      (k) => places.filter((p) => p.element === 'long' && Math.floor(p.atMm / 750.01) === k).length,
    );
    for (const q of quarters) expect(Math.abs(q / 3000 - 0.25)).toBeLessThan(0.04);
  });
});
