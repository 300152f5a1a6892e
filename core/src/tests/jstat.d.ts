/** What tests take from the independent package of distributions. */
declare module 'jstat' {
  export const jStat: {
    /** Lower regularized incomplete gamma function, P(a, x). */
    lowRegGamma: (a: number, x: number) => number;
    normal: { cdf: (x: number, mean: number, sd: number) => number };
    negbin: { cdf: (k: number, r: number, p: number) => number };
  };
}
