import { RATES, SUSPECT_KINDS, type SuspectKind, USUAL_AMOUNT } from './startingValues';
import type { Rates } from './suspects';

/** How much of all leaks each kind is expected to be, in an ordinary shower: shares that add up to one. */
export function sharesOf(rates: Rates): Record<SuspectKind, number> {
  const all = SUSPECT_KINDS.reduce((sum, k) => sum + rates[k] * USUAL_AMOUNT[k], 0);
  return Object.fromEntries(SUSPECT_KINDS.map((k) => [k, (rates[k] * USUAL_AMOUNT[k]) / all])) as Record<
    SuspectKind,
    number
  >;
}

/** The starting values count as much as so many calls that ended [own choice]. */
export const WORTH_CALLS = 30;

/**
 * Rates of kinds as a firm's finds move them: the mean of a Dirichlet distribution whose start is the starting values, with the finds
 * counted to it. `own` are starting values of the firm. `finds` has how often each kind was found; what nobody knows, a path that stayed unknown among them, moves nothing.
 */
export function ratesOf(finds: Readonly<Record<string, number>>, own: Readonly<Partial<Rates>> = {}): Rates {
  const start = (kind: SuspectKind) => own[kind] ?? RATES[kind];
  const usual = SUSPECT_KINDS.map((k) => start(k) * USUAL_AMOUNT[k]);
  const all = usual.reduce((sum, u) => sum + u, 0);
  const count = (kind: SuspectKind) => (Object.hasOwn(finds, kind) ? finds[kind]! : 0);
  const found = SUSPECT_KINDS.reduce((sum, k) => sum + count(k), 0);
  return Object.fromEntries(
    SUSPECT_KINDS.map((kind, k) => {
      const share = usual[k]! / all;
      const now = (WORTH_CALLS * share + count(kind)) / (WORTH_CALLS + found);
      return [kind, start(kind) * (now / share)];
    }),
  ) as Record<SuspectKind, number>;
}
