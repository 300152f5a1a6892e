import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clip, type Stretch, subtract, totalMm, union } from './intervals';

const stretch = fc
  .tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 40 }))
  .map(([fromMm, toMm]): Stretch => ({ fromMm, toMm }));
const list = fc.array(stretch, { maxLength: 6 });
/** Each millimetre that is covered, counted one by one. */
const dots = (stretches: readonly Stretch[]): boolean[] =>
  Array.from({ length: 41 }, (_, mm) => stretches.some((s) => mm >= s.fromMm && mm < s.toMm));
const sound = (stretches: readonly Stretch[]) => {
  for (const s of stretches) expect(s.toMm).toBeGreaterThan(s.fromMm);
  return dots(stretches);
};

describe('stretches of a seam against their millimetres one by one', () => {
  it('joined they cover the same, in order, with room between them', () => {
    fc.assert(
      fc.property(list, (a) => {
        const joined = union(a);
        expect(sound(joined)).toEqual(dots(a));
        joined.slice(1).forEach((s, i) => {
          expect(s.fromMm).toBeGreaterThan(joined[i]!.toMm);
        });
        expect(totalMm(a)).toBe(dots(a).filter(Boolean).length);
      }),
      { seed: 1, numRuns: 500 },
    );
  });
  it('taken away, what is left is what only the first covers', () => {
    fc.assert(
      fc.property(list, list, (a, holes) => {
        const taken = dots(holes);
        expect(
          sound(
            subtract(
              a,
              holes.filter((h) => h.toMm > h.fromMm),
            ),
          ),
        ).toEqual(dots(a).map((d, i) => d && !taken[i]));
      }),
      { seed: 2, numRuns: 500 },
    );
  });
  it('leave what they were given as it was, and are cut at the ends of a seam', () => {
    const given = [
      { fromMm: 5, toMm: 9 },
      { fromMm: 0, toMm: 6 },
    ];
    expect(union(given)).toEqual([{ fromMm: 0, toMm: 9 }]);
    expect(given[1]).toEqual({ fromMm: 0, toMm: 6 });
    expect(
      union([
        { fromMm: 0, toMm: 5 },
        { fromMm: 5, toMm: 7 },
      ]),
    ).toEqual([{ fromMm: 0, toMm: 7 }]);
    expect(subtract([{ fromMm: 0, toMm: 10 }], [{ fromMm: 10, toMm: 20 }])).toEqual([{ fromMm: 0, toMm: 10 }]);
    expect(clip({ fromMm: -3, toMm: 20 }, 12)).toEqual({ fromMm: 0, toMm: 12 });
    expect(clip({ fromMm: 3, toMm: 7 }, 12)).toEqual({ fromMm: 3, toMm: 7 });
    expect(clip({ fromMm: 15, toMm: 20 }, 12)).toEqual({ fromMm: 15, toMm: 12 });
  });
});
