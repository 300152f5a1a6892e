/** Where a distribution function passes p, between -4 and 4, by plain bisection. */
export function bisected(cdf: (x: number) => number, p: number): number {
  let [low, high] = [-4, 4];
  for (let k = 0; k < 26; k += 1) {
    const middle = (low + high) / 2;
    if (cdf(middle) < p) low = middle;
    else high = middle;
  }
  return low;
}
