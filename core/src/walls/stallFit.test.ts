import { describe, expect, it } from 'vitest';
import { stallFit, studShims } from './stallFit';

describe('a pan in its frame', () => {
  it('fits where the gap on each side is between 1/16 and 1/8 in at every height', () => {
    const fit = (framesMm: number[]) => stallFit({ framesMm, panMm: 1000, leastMm: 1.5875, mostMm: 3.175 });
    expect(fit([1004, 1006])).toEqual({
      ok: true,
      value: { leastGapMm: 2, mostGapMm: 3, outOfSquareMm: 2, verdict: 'pass' },
    });
    expect(fit([1002, 1006]).ok && fit([1002, 1006])).toMatchObject({ value: { verdict: 'fail', leastGapMm: 1 } });
    expect(fit([1004, 1008])).toMatchObject({ value: { verdict: 'fail', mostGapMm: 4 } });
    expect(stallFit({ framesMm: [1], panMm: 1, leastMm: 2, mostMm: 1 })).toMatchObject({ ok: false });
  });
});

describe('studs', () => {
  it('are packed out to the foremost, and the worst between its neighbours is named', () => {
    const found = studShims({ behindMm: [2, 0, 5, 1], limitMm: 3 });
    expect(found).toEqual({ ok: true, value: { shimsMm: [2, 0, 5, 1], worstMm: 4.5, worstStud: 2, verdict: 'fail' } });
    const plane = studShims({ behindMm: [0, 2, 4, 6], limitMm: 1 });
    expect(plane).toMatchObject({ value: { worstMm: 0, verdict: 'pass', shimsMm: [0, 2, 4, 6] } });
  });
});
