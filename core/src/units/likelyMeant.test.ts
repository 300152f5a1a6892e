import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { doubtOf, isFar } from './likelyMeant';

const IN = 25.4;
const LAP = { atLeast: 2 * IN };

describe('a typed length', () => {
  it.each([
    ['225', '2.25'],
    ['214', '2 1/4'],
    ['178', '1 7/8'],
    ['2516', '2 5/16'],
    ['21/4', '2 1/4'],
    // 2 1/8 as it stands, and just as well 1 7/8 without its space, which is short.
    ['17/8', '1 7/8'],
    ['115/16', '1 15/16'],
  ])('%s of a lap is asked about, as %s', (typed, meant) => {
    expect(doubtOf(typed, 'in', LAP)).toMatchObject({ meant });
  });
  it('that is plain is taken as it is', () => {
    for (const typed of ['2', '2 1/4', '2.25', '1 7/8', '7/8', '9/8', '0', '6', '51 mm'])
      expect(doubtOf(typed, 'in', LAP), typed).toBeNull();
  });
  it('that nothing lies near is asked about all the same', () => {
    expect(doubtOf('900', 'in', LAP)).toMatchObject({ meant: null });
    expect(doubtOf('1/32', 'in', LAP)).toMatchObject({ meant: null });
  });
  it('of a height or a gap goes by its own limit', () => {
    expect(doubtOf('84', 'in', { atLeast: 78 * IN })).toBeNull();
    expect(doubtOf('800', 'in', { atLeast: 78 * IN })).toMatchObject({ mm: 800 * IN });
    expect(doubtOf('18', 'in', { atMost: IN / 8 })).toMatchObject({ meant: '1/8' });
    expect(doubtOf('516', 'mm', { atLeast: 50 })).toMatchObject({ meant: '51.6' });
  });
  it('has no doubt without a limit, nor where it can not be read', () => {
    expect(doubtOf('225', 'in', {})).toBeNull();
    expect(doubtOf('two', 'in', LAP)).toBeNull();
  });
  it('what it is taken to mean is never far, and is asked about no more', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 99_999 }), fc.integer({ min: 1, max: 96 }), (typed, least) => {
        const limit = { atLeast: least * IN };
        const doubt = doubtOf(String(typed), 'in', limit);
        if (!doubt?.meant) return;
        expect(isFar(limit, doubt.mm)).toBe(true);
        expect(doubtOf(doubt.meant, 'in', limit)).toBeNull();
      }),
    );
  });
});
