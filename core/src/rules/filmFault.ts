import { filmPlausible } from '../membrane/film/filmArithmetic';
import type { ProductLine } from './productLine';

/** What a range states. */
const stated = ({ least, most }: { least?: number | undefined; most?: number | undefined } = {}) =>
  [least, most].filter((f) => f !== undefined);

/** What a label can't say of a film: a figure a thousand times off, more solids than all of it, or more dry than its wet coats leave. */
export function filmFault({ figures }: Pick<ProductLine, 'figures'>): { figure: string; message: string } | null {
  const { solidsPercent, dryUm, wetUm, coats } = figures;
  for (const figure of ['wetUm', 'dryUm'] as const)
    for (const um of stated(figures[figure])) {
      const read = filmPlausible(um, figure);
      if (!read.ok || um === 0)
        return { figure, message: read.ok ? 'a film of nothing is none. Read the label again.' : read.problem.message };
    }
  if (stated(solidsPercent).some((percent) => percent > 0 && percent <= 1))
    return {
      figure: 'solidsPercent',
      message: 'solids of 1 % or less: a share was typed for a percentage. Type 55 for 0.55.',
    };
  if (Math.max(solidsPercent?.least ?? 0, solidsPercent?.most ?? 0) > 100)
    return { figure: 'solidsPercent', message: 'solids over 100 % can’t be. Read the label again.' };
  const solids = (solidsPercent?.most ?? solidsPercent?.least ?? 100) / 100;
  const most = wetUm?.most === undefined ? null : wetUm.most * (coats?.most ?? coats?.least ?? 1) * solids;
  if (dryUm?.least !== undefined && most !== null && coats !== undefined && dryUm.least > most + 1)
    return {
      figure: 'dryUm',
      message: 'its dry film is larger than its wet coats can leave. Check films, coats and solids on the label.',
    };
  return null;
}
