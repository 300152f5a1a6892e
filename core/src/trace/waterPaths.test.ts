import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type WaterPaths, type WaterPathsInput, waterPaths } from './waterPaths';

const value = (input: WaterPathsInput): WaterPaths => {
  const outcome = waterPaths(input);
  if (!outcome.ok) throw new Error(JSON.stringify(outcome));
  return outcome.value;
};

/** Can one come from one end to the other through barriers of which some are open? */
function leads({ from, to }: WaterPathsInput, open: readonly WaterPathsInput['barriers'][number][]): boolean {
  const reached = new Set([from]);
  for (let grown = true; grown; ) {
    grown = false;
    for (const {
      between: [a, b],
    } of open)
      if (reached.has(a) !== reached.has(b)) {
        reached.add(a).add(b);
        grown = true;
      }
  }
  return reached.has(to);
}

/** All subsets of a list, smallest first. */
const subsets = <T>(list: readonly T[]): T[][] =>
  Array.from({ length: 2 ** list.length }, (_, k) => list.filter((_x, i) => (k >> i) & 1)).sort(
    (a, b) => a.length - b.length,
  );

const SPACES = ['s', 'a', 'b', 'c', 't'];
const anyGraph: fc.Arbitrary<WaterPathsInput> = fc
  .array(fc.tuple(fc.constantFrom(...SPACES), fc.constantFrom(...SPACES), fc.boolean()), { maxLength: 9 })
  .map((list) => ({
    spaces: SPACES,
    barriers: list.map(([a, b, intact], k) => ({ name: `b${k}`, between: [a, b], intact })),
    from: 's',
    to: 't',
  }));

describe('water-paths', () => {
  it('finds what trying every set of barriers finds: barriers left, the least to close, every open way', () => {
    fc.assert(
      fc.property(anyGraph, (input) => {
        const { barriersLeft, cut, paths, more } = value(input);
        const broken = input.barriers.filter((b) => !b.intact);
        const intact = input.barriers.filter((b) => b.intact);
        const through = subsets(intact).find((some) => leads(input, [...broken, ...some]));
        expect(barriersLeft).toBe(through?.length ?? null);
        const least = subsets(broken).find(
          (closed) =>
            !leads(
              input,
              broken.filter((b) => !closed.includes(b)),
            ),
        );
        expect(cut).toHaveLength(least!.length);
        expect(
          leads(
            input,
            broken.filter((b) => !cut.includes(b.name)),
          ),
        ).toBe(false);
        expect(more).toBe(false);
        expect(new Set(paths.map((p) => p.join())).size).toBe(paths.length);
        // Every way leads, of broken barriers alone, and where one is open there is one.
        for (const path of paths)
          expect(
            leads(
              input,
              broken.filter((b) => path.includes(b.name)),
            ),
          ).toBe(true);
        expect(paths.length > 0).toBe(leads(input, broken));
      }),
      { numRuns: 400 },
    );
  });

  it('a whole shower keeps one barrier between water and timber; an open lap and a fastener through it leave two to close', () => {
    const barrier = (name: string, a: string, b: string, intact = true) => ({
      name,
      between: [a, b] as [string, string],
      intact,
    });
    const whole = {
      spaces: ['shower', 'bed', 'timber'],
      barriers: [
        barrier('tile', 'shower', 'bed', false),
        barrier('lap', 'bed', 'timber'),
        barrier('fastener', 'bed', 'timber'),
      ],
      from: 'shower',
      to: 'timber',
    };
    expect(value(whole)).toEqual({ barriersLeft: 1, cut: [], paths: [], more: false });
    const open = { ...whole, barriers: whole.barriers.map((b) => ({ ...b, intact: false })) };
    expect(value(open)).toMatchObject({
      barriersLeft: 0,
      cut: ['tile'],
      paths: [
        ['tile', 'lap'],
        ['tile', 'fastener'],
      ],
    });
  });

  it('ends where there are more open ways than anybody reads', () => {
    const spaces = Array.from({ length: 16 }, (_, k) => `s${k}`);
    const barriers = spaces.flatMap((a, i) =>
      spaces
        .slice(i + 1)
        .map((b, j) => ({ name: `${a}-${b}-${j}`, between: [a, b] as [string, string], intact: false })),
    );
    const told = value({ spaces, barriers, from: 's0', to: 's15' });
    expect(told.more).toBe(true);
    expect(told.paths).toHaveLength(200);
    expect(told.cut).toHaveLength(15);
  });

  it('refuses what can’t be', () => {
    const good: WaterPathsInput = { spaces: ['s', 't'], barriers: [], from: 's', to: 't' };
    const code = (more: Partial<WaterPathsInput>) => waterPaths({ ...good, ...more });
    const b = { name: 'b', between: ['s', 't'] as [string, string], intact: true };
    expect(code({ spaces: ['s', 't', 's'] })).toMatchObject({ problem: { code: 'water-space-twice' } });
    expect(code({ barriers: [b, b] })).toMatchObject({ problem: { code: 'water-barrier-twice' } });
    expect(code({ barriers: [{ ...b, between: ['s', 'x'] }] })).toMatchObject({
      problem: { code: 'water-space-unknown' },
    });
    expect(code({ to: 'x' })).toMatchObject({ problem: { code: 'water-end-unknown' } });
    expect(value(good)).toEqual({ barriersLeft: null, cut: [], paths: [], more: false });
  });
});
