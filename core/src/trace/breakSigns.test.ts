import fc from 'fast-check';
import { expect, it } from 'vitest';
import { BREAKS, INSIDES } from '../log/callBodies';
import { signsOf, toldByBreak } from './breakSigns';
import { CUT_UNDER_MM, TRAP_PIPE_MM, trapFaults } from './trapKept';

it('a board in layers is gypsum or cellulose fibre, one in one piece fibre-cement; cast stone breaks in lumps, fibreglass is sawn', () => {
  expect(toldByBreak('board', { how: 'layers' })).toEqual({ likely: ['gypsum', 'cellulose-fibre'], sure: false });
  expect(toldByBreak('board', { how: 'layers', inside: 'white' })).toEqual({ likely: ['gypsum'], sure: true });
  expect(toldByBreak('board', { how: 'one-piece' }).likely).toEqual(['fibre-cement']);
  expect(toldByBreak('pan', { how: 'lumps' }).likely).toEqual(['cast-stone']);
  expect(toldByBreak('pan', { how: 'fibres', inside: 'glass' })).toEqual({ likely: ['fibreglass'], sure: true });
});

it('nothing is told by nothing, and one sign or two that disagree make nobody sure', () => {
  expect(toldByBreak('board', {})).toEqual({ likely: [], sure: false });
  fc.assert(
    fc.property(
      fc.constantFrom('board' as const, 'pan' as const),
      fc.option(fc.constantFrom(...BREAKS), { nil: undefined }),
      fc.option(fc.constantFrom(...INSIDES), { nil: undefined }),
      (part, how, inside) => {
        const { likely, sure } = toldByBreak(part, { ...(how ? { how } : {}), ...(inside ? { inside } : {}) });
        if (!how || !inside) expect(sure).toBe(false);
        if (sure) {
          expect(likely).toHaveLength(1);
          expect(toldByBreak(part, { how: how! }).likely).toContain(likely[0]);
          expect(toldByBreak(part, { inside: inside! }).likely).toContain(likely[0]);
        }
      },
    ),
  );
});

it('only signs that tell something of the part are asked, and each of them does', () => {
  for (const part of ['board', 'pan'] as const) {
    const { how, inside } = signsOf(part);
    for (const sign of BREAKS) expect(toldByBreak(part, { how: sign }).likely.length > 0).toBe(how.includes(sign));
    for (const sign of INSIDES)
      expect(toldByBreak(part, { inside: sign }).likely.length > 0).toBe(inside.includes(sign));
  }
  expect(signsOf('board').how).not.toContain('lumps');
});

it('a trap stays where it is free, clean and two inches wide', () => {
  expect(trapFaults({ clogged: false, debris: false, pipeMm: TRAP_PIPE_MM })).toEqual([]);
  // A rule laid over a 2 in pipe reads a little less.
  expect(trapFaults({ clogged: false, debris: false, pipeMm: 49 })).toEqual([]);
  expect(trapFaults({ clogged: true, debris: true, pipeMm: 38 })).toEqual(['clogged', 'debris', 'narrow']);
  expect(CUT_UNDER_MM).toBeCloseTo(101.6, 9);
});
