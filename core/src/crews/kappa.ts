import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { countOf } from './exposure';

/** How often one inspector gave the answer of the row where the other gave that of the column. */
export const KappaInput = z.object({ table: z.array(z.array(countOf).min(2).max(20)).min(2).max(20) });

/** Of a two-sided interval of 95 %. */
const Z = normalQuantile(0.975, 0, 1);

/**
 * How far two inspectors agree beyond chance (Cohen, 1960): 1 for always, 0 for as often as two who do not look. With the interval by
 * the variance of Fleiss, Cohen and Everitt (1969), cut to -1 to 1. Null where both gave one answer alone: there was nothing to differ in.
 * Refused where the table is not square, or empty.
 */
export function kappa({ table }: z.infer<typeof KappaInput>): Outcome<{
  kappa: number | null;
  low: number | null;
  high: number | null;
}> {
  const size = table.length;
  const crooked = table.findIndex((row) => row.length !== size);
  if (crooked >= 0) return refuse('table-not-square', `table.${crooked}`, { rows: size });
  const n = table.flat().reduce((sum, c) => sum + c, 0);
  if (n === 0) return refuse('table-empty', 'table');
  const p = table.map((row) => row.map((c) => c / n));
  const rows = p.map((row) => row.reduce((sum, x) => sum + x, 0));
  const columns = rows.map((_, j) => p.reduce((sum, row) => sum + row[j]!, 0));
  const agreed = p.reduce((sum, row, i) => sum + row[i]!, 0);
  const chance = rows.reduce((sum, x, i) => sum + x * columns[i]!, 0);
  if (1 - chance < 1e-12) return done({ kappa: null, low: null, high: null });
  const found = (agreed - chance) / (1 - chance);
  const differ = 1 - found;
  let sum = 0;
  for (let i = 0; i < size; i += 1)
    for (let j = 0; j < size; j += 1)
      sum +=
        i === j
          ? p[i]![i]! * (1 - (rows[i]! + columns[i]!) * differ) ** 2
          : differ ** 2 * p[i]![j]! * (columns[i]! + rows[j]!) ** 2;
  const variance = Math.max(0, sum - (found - chance * differ) ** 2) / (n * (1 - chance) ** 2);
  const width = Z * Math.sqrt(variance);
  return done({ kappa: found, low: Math.max(-1, found - width), high: Math.min(1, found + width) });
}
