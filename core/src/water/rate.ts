/** An uncertain rate as a distribution. mm per hour throughout, a fall of the level counted as positive. */
export interface Rate {
  /** Probability that the rate is at most x. */
  cdf: (x: number) => number;
  /** A stretch that holds practically all of the distribution. */
  span: readonly [number, number];
}

/** The value below which a share p of the distribution lies, by bisection. */
export function quantile(rate: Rate, p: number): number {
  let [low, high] = rate.span;
  for (let k = 0; k < 44; k += 1) {
    const middle = (low + high) / 2;
    if (rate.cdf(middle) < p) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** n values of equal weight that stand for the distribution. */
export function equalShares(rate: Rate, n: number): number[] {
  return Array.from({ length: n }, (_, i) => quantile(rate, (i + 0.5) / n));
}

/** Fewer values of equal weight that stand for the same distribution: means of neighbours after sorting. */
export function thinOut(values: readonly number[], n: number): number[] {
  const sorted = [...values].sort((a, b) => a - b);
  if (sorted.length <= n) return sorted;
  return Array.from({ length: n }, (_, i) => {
    const part = sorted.slice(Math.floor((i * sorted.length) / n), Math.floor(((i + 1) * sorted.length) / n));
    return part.reduce((sum, x) => sum + x, 0) / part.length;
  });
}

const TABLE = 300;

/** The point where a distribution function passes p, by bisection. */
function crossing(cdf: Rate['cdf'], [low, high]: Rate['span'], p: number): number {
  return quantile({ cdf, span: [low, high] }, p);
}

/** The same distribution as a table over the stretch that matters, so that asking it again costs next to nothing. */
export function tabulated(cdf: Rate['cdf'], span: Rate['span']): Rate {
  const low = crossing(cdf, span, 2e-5);
  const high = Math.max(crossing(cdf, span, 1 - 2e-5), low + 1e-12);
  const step = (high - low) / TABLE;
  const table = Array.from({ length: TABLE + 1 }, (_, k) => cdf(low + k * step));
  return {
    span: [low, high],
    cdf: (x) => {
      const at = (x - low) / step;
      if (at <= 0) return 0;
      if (at >= TABLE) return 1;
      const k = Math.floor(at);
      return table[k]! + (table[k + 1]! - table[k]!) * (at - k);
    },
  };
}

/** The rate less something uncertain given as values of equal weight. */
export function less(rate: Rate, taken: readonly number[]): Rate {
  const [low, high] = rate.span;
  const cdf = (x: number): number => taken.reduce((sum, e) => sum + rate.cdf(x + e), 0) / taken.length;
  return tabulated(cdf, [low - Math.max(...taken), high - Math.min(...taken)]);
}

/** The same distribution known to be at least zero: what lay below is shared out over the rest. One that lies all below stays at zero. */
export function atLeastZero(rate: Rate): Rate {
  const below = rate.cdf(0);
  if (below <= 0) return rate;
  const rest = Math.max(1 - below, 1e-9);
  const cdf = (x: number): number => (x < 0 ? 0 : Math.min(1, Math.max(0, (rate.cdf(x) - below) / rest)));
  return { cdf, span: [0, Math.max(rate.span[1], 1e-12)] };
}
