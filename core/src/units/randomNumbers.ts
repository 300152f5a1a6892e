import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** Seeded normal and uniform numbers. */
export function numbers(seed: number) {
  const rng = xoroshiro128plus(Math.imul(seed, 0x9e3779b1));
  for (let k = 0; k < 40; k += 1) rng.next();
  const uniform = (): number => ((rng.next() >>> 0) + 0.5) / 4294967296;
  const normal = (): number => Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
  return { uniform, normal };
}
