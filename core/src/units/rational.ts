/** Exact fraction of two integers, denominator above zero, always in lowest terms. */
export interface Rational {
  n: bigint;
  d: bigint;
}

function gcd(a: bigint, b: bigint): bigint {
  let x = a < 0n ? -a : a;
  let y = b;
  while (y !== 0n) [x, y] = [y, x % y];
  return x === 0n ? 1n : x;
}

/** n / d in lowest terms. Throws on a zero denominator: the caller checks what people typed. */
export function rational(n: bigint, d: bigint = 1n): Rational {
  if (d === 0n) throw new RangeError('a fraction needs a denominator other than zero');
  const sign = d < 0n ? -1n : 1n;
  const g = gcd(n, d < 0n ? -d : d);
  return { n: (sign * n) / g, d: (sign * d) / g };
}

/** Exact sum. */
export function add(a: Rational, b: Rational): Rational {
  return rational(a.n * b.d + b.n * a.d, a.d * b.d);
}

/** Exact product. */
export function multiply(a: Rational, b: Rational): Rational {
  return rational(a.n * b.n, a.d * b.d);
}

/** Decimal digits with an optional point or comma, exactly: "5,7" is 57/10. */
export function fromDecimal(text: string): Rational {
  const [whole = '0', part = ''] = text.replace(',', '.').split('.');
  return rational(BigInt(`${whole || '0'}${part}`), 10n ** BigInt(part.length));
}

/** The nearest double. */
export function toNumber(a: Rational): number {
  return Number(a.n) / Number(a.d);
}
