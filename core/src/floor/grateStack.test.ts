import { describe, expect, it } from 'vitest';
import { TROWEL_JOBS, trowelFor } from '../membrane/trowel';
import { FRAME_MM, grateStack } from './grateStack';

describe('the stack under a grate', () => {
  const stack = (tileMm: number, mortarMm: number) => {
    const found = grateStack({ tileMm, mortarMm, frameMm: FRAME_MM });
    if (!found.ok) throw new Error(found.problem.code);
    return found.value;
  };
  it('makes up what tile and mortar stand over the frame', () => {
    expect(stack(9.5, 12.7)).toMatchObject({ parts: 'one' });
    expect(stack(9.5, 12.7).spacerMm).toBeCloseTo(17.4375, 4);
    expect(stack(6, 3).parts).toBe('none');
    expect(stack(10, 30).parts).toBe('stacked');
    expect(stack(3, 0).parts).toBe('too-high');
    expect(grateStack({ tileMm: 0, mortarMm: 1, frameMm: 1 }).ok).toBe(false);
  });
});

describe('the trowel in hand', () => {
  it('fits its job or does not', () => {
    expect(trowelFor('foam-pan', 9.525, 0).verdict).toBe('pass');
    expect(trowelFor('foam-pan', 6.35, 0).verdict).toBe('fail');
    expect(trowelFor('sheet-and-bands', 6.35, 0).verdict).toBe('fail');
    expect(trowelFor('wall-tile', 6.35, 300).verdict).toBe('pass');
    expect(trowelFor('wall-tile', 6.35, 600).verdict).toBe('fail');
    expect(trowelFor('wall-tile', 9.525, 24 * 25.4).verdict).toBe('pass');
    expect(trowelFor('floor-tile', (3 * 25.4) / 16, 50).verdict).toBe('pass');
    expect(trowelFor('hard-curb', 19.05, 0).verdict).toBe('pass');
    for (const job of TROWEL_JOBS) expect(trowelFor(job, trowelFor(job, 0, 0).leastMm, 0).verdict).toBe('pass');
  });
});
