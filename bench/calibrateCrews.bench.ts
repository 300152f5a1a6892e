// npm run calibrate, a part: whether a crew that is no different is left alone, and one that is worse is found; how often intervals hold the truth.
import { funnel } from '@careful-seam/core/crews/funnel';
import { kappa } from '@careful-seam/core/crews/kappa';
import { rateInterval, shareInterval } from '@careful-seam/core/crews/rateInterval';
import { timeToFix } from '@careful-seam/core/crews/timeToFix';
import { twoRates } from '@careful-seam/core/crews/twoRates';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import { writeSection } from './performanceDoc';

/** Firms of each kind. */
const FIRMS = 2000;
/** Crews of a firm. */
const CREWS = 12;
/** Showers of a crew, and seam of each, ft. */
const [SHOWERS, SHOWER_FT] = [30, 40];
/** Showers of the crew that is worse: 400 ft in all. */
const WORSE_SHOWERS = 10;
/** Defects to be expected in a foot of seam. */
const RATE = 0.05;
/** Shape of the gamma between showers, mean 1. */
const SHAPE = 2;
/** How much worse. */
const WORSE = 3;

const rng = xoroshiro128plus(20_261_130);
const share = (): number => ((rng.next() >>> 0) + 0.5) / 2 ** 32;
const gamma = (shape: number): number =>
  Array.from({ length: shape }, () => -Math.log(share())).reduce((a, b) => a + b, 0) / shape;
function poisson(mean: number): number {
  let [product, n] = [share(), 0];
  for (const end = Math.exp(-mean); product > end; n += 1) product *= share();
  return n;
}

/** A crew whose showers have so many times the usual defects, in clusters. */
function crewOf(name: string, showers: number, times: number) {
  const byShower = Array.from({ length: showers }, () => ({
    count: poisson(RATE * SHOWER_FT * times * gamma(SHAPE)),
    exposure: SHOWER_FT,
  }));
  return { name, count: byShower.reduce((n, s) => n + s.count, 0), exposure: showers * SHOWER_FT, byShower };
}

/** Who of a firm is outside, and who may be named. */
function told(groups: ReturnType<typeof crewOf>[]) {
  const found = funnel({ groups });
  if (!found.ok) throw new Error('a firm that has worked can be told');
  return {
    outside: found.value.groups.filter((g) => g.outside).map((g) => g.name),
    named: found.value.groups.filter((g) => g.discovery).map((g) => g.name),
  };
}

let [outside, named, foundOut] = [0, 0, 0];
for (let k = 0; k < FIRMS; k += 1) {
  const equal = told(Array.from({ length: CREWS }, (_, i) => crewOf(`${i}`, SHOWERS, 1)));
  outside += equal.outside.length > 0 ? 1 : 0;
  named += equal.named.length > 0 ? 1 : 0;
  const one = told([
    ...Array.from({ length: CREWS - 1 }, (_, i) => crewOf(`${i}`, SHOWERS, 1)),
    crewOf('worse', WORSE_SHOWERS, WORSE),
  ]);
  foundOut += one.named.includes('worse') ? 1 : 0;
}

/** How often an interval holds the truth. */
function coverage(draw: () => { low: number; high: number | null } | null, truth: number): number {
  let [held, of] = [0, 0];
  for (let k = 0; k < FIRMS; k += 1) {
    const found = draw();
    if (!found) continue;
    of += 1;
    if (found.low <= truth && (found.high === null || found.high >= truth)) held += 1;
  }
  return held / of;
}
const foundIn = <T>(found: { ok: true; value: T } | { ok: false }): T | null => (found.ok ? found.value : null);

const intervals = {
  'rate-interval, 5 expected': coverage(
    () => foundIn(rateInterval({ count: poisson(5), exposure: 100, confidence: 0.95 })),
    0.05,
  ),
  'share-interval, 8 of 40 expected': coverage(() => {
    const count = Array.from({ length: 40 }, share).filter((s) => s < 0.2).length;
    return foundIn(shareInterval({ count, of: 40, confidence: 0.95 }));
  }, 0.2),
  'two-rates, 10 against 20 expected': coverage(
    () =>
      foundIn(
        twoRates({
          a: { count: poisson(10), exposure: 100 },
          b: { count: poisson(20), exposure: 100 },
          confidence: 0.95,
        }),
      ),
    0.5,
  ),
  'two-rates, clustered by gamma (shape 2) and widened by what the funnel finds': coverage(() => {
    const [a, b] = [crewOf('a', 20, 1.5), crewOf('b', 60, 1)];
    const both = funnel({ groups: [a, b] });
    if (!both.ok) return null;
    return foundIn(twoRates({ a, b, confidence: 0.95, overdispersion: both.value.overdispersion }));
  }, 1.5),
  'time-to-fix, share that stands after 2 days, a fifth still open': coverage(
    () => {
      const spells = Array.from({ length: 60 }, () => {
        const [fixed, seen] = [-Math.log(share()) * 3, -Math.log(share()) * 12];
        return { days: Math.min(fixed, seen), closed: fixed <= seen };
      });
      const found = foundIn(timeToFix({ spells }));
      return found?.steps.filter((s) => s.days <= 2).at(-1) ?? null;
    },
    Math.exp(-2 / 3),
  ),
  'kappa, 200 seams seen by two': coverage(
    () => {
      const cells = [0, 0, 0, 0];
      for (let k = 0; k < 200; k += 1) {
        const s = share();
        cells[s < 0.2 ? 0 : s < 0.3 ? 1 : s < 0.4 ? 2 : 3]! += 1;
      }
      const found = foundIn(
        kappa({
          table: [
            [cells[0]!, cells[1]!],
            [cells[2]!, cells[3]!],
          ],
        }),
      );
      return found?.low == null ? null : { low: found.low, high: found.high };
    },
    (0.8 - (0.3 * 0.3 + 0.7 * 0.7)) / (1 - (0.3 * 0.3 + 0.7 * 0.7)),
  ),
};

const percent = (x: number): string => `${(x * 100).toFixed(1)} %`;
const lines = [
  `| of ${FIRMS.toLocaleString('en')} firms | found | at most / least |`,
  '|---|---|---|',
  `| twelve equal crews, clustered defects: somebody lies outside 99.8 % | ${percent(outside / FIRMS)} | 5 % |`,
  `| twelve equal crews, clustered defects: somebody is named | ${percent(named / FIRMS)} | 5 % |`,
  `| eleven equal crews and one three times worse with 400 ft: it is named | ${percent(foundOut / FIRMS)} | 80 % |`,
  '',
  '| interval of 95 % | holds the truth |',
  '|---|---|',
  ...Object.entries(intervals).map(([name, held]) => `| ${name} | ${percent(held)} |`),
];
console.log(lines.join('\n'));
writeSection(
  'Whether a crew is really different',
  `Made by \`npm run calibrate\`: firms of ${CREWS} crews with ${SHOWERS} showers of ${SHOWER_FT} ft each, ${RATE} defects to be expected in a foot, showers scattered by a gamma of shape ${SHAPE}. Invented, seeded.\n\n${lines.join('\n')}`,
);
const sound = outside / FIRMS <= 0.05 && named / FIRMS <= 0.05 && foundOut / FIRMS >= 0.8;
process.exitCode = sound && Object.values(intervals).every((held) => held >= 0.92) ? 0 : 1;
