import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** Chance that is the same for the same seed. */
export interface Chance {
  /** Between 0 and 1, never either. */
  share: () => number;
  /** A whole number from 0 to most. */
  pick: (most: number) => number;
  /** One of some. */
  oneOf: <T>(list: readonly T[]) => T;
  /** A count whose mean is given. */
  count: (mean: number) => number;
  /** A factor of mean 1; the smaller the shape, the wilder. */
  factor: (shape: number) => number;
  /** Until something happens that is waited for so long on average. */
  until: (mean: number) => number;
}

/** Chance from a seed. */
export function chance(seed: number): Chance {
  // Neighbouring seeds begin alike: spread over all bits, and the first draws are thrown away.
  const rng = xoroshiro128plus(Math.imul(seed + 1, 0x9e3779b1));
  for (let k = 0; k < 16; k += 1) rng.next();
  const share = () => ((rng.next() >>> 0) + 0.5) / 2 ** 32;
  const pick = (most: number) => Math.floor(share() * (most + 1));
  return {
    share,
    pick,
    oneOf: (list) => list[pick(list.length - 1)]!,
    count: (mean) => {
      // Multiplied shares fall below exp(-mean) after a Poisson count of them.
      let [product, n] = [share(), 0];
      for (const end = Math.exp(-mean); product > end; n += 1) product *= share();
      return n;
    },
    // The sum of so many exponentials is a gamma of that shape.
    factor: (shape) => Array.from({ length: shape }, () => -Math.log(share())).reduce((a, b) => a + b, 0) / shape,
    until: (mean) => -Math.log(share()) * mean,
  };
}
