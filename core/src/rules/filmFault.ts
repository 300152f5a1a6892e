import type { ProductLine } from './productLine';

/** What a label can't say of a film: more solids than all of it, or more dry than its wet coats leave. */
export function filmFault({ figures }: Pick<ProductLine, 'figures'>): { figure: string; message: string } | null {
  const { solidsPercent, dryUm, wetUm, coats } = figures;
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
