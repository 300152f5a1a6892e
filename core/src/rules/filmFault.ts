import { filmPlausible } from '../membrane/film/filmArithmetic';
import { done, type Outcome, refuse } from '../outcome/outcome';
import type { ProductLine } from './productLine';

/** What a range states. */
const stated = ({ least, most }: { least?: number | undefined; most?: number | undefined } = {}) =>
  [least, most].filter((f) => f !== undefined);

/**
 * Refuses what a label can't say of a film: a figure a thousand times off, more solids than all of it, or more dry than its wet
 * coats leave. The field is the figure.
 */
export function filmFault({ name: line, figures }: Pick<ProductLine, 'name' | 'figures'>): Outcome<null> {
  const { solidsPercent, dryUm, wetUm, coats } = figures;
  for (const figure of ['wetUm', 'dryUm'] as const)
    for (const um of stated(figures[figure])) {
      if (um === 0) return refuse('line-film-of-nothing', figure, { line });
      const read = filmPlausible(um, figure);
      if (read.ok) continue;
      // The same fault, told of the line whose label says it.
      const { code, values } = read.problem;
      return { ok: false, problem: { code: `line-${code}`, field: figure, values: { ...values, line } } };
    }
  if (stated(solidsPercent).some((percent) => percent > 0 && percent <= 1))
    return refuse('line-solids-share', 'solidsPercent', { line });
  if (Math.max(solidsPercent?.least ?? 0, solidsPercent?.most ?? 0) > 100)
    return refuse('line-solids-over-all', 'solidsPercent', { line });
  const solids = (solidsPercent?.most ?? solidsPercent?.least ?? 100) / 100;
  const most = wetUm?.most === undefined ? null : wetUm.most * (coats?.most ?? coats?.least ?? 1) * solids;
  if (dryUm?.least !== undefined && most !== null && coats !== undefined && dryUm.least > most + 1)
    return refuse('line-dry-over-wet', 'dryUm', { line });
  return done(null);
}
