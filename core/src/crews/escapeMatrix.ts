import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { countOf } from './exposure';

/** Stages from the lowest up, and how many defects were made at one and found at another. */
export const EscapeMatrixInput = z.object({
  stages: z.array(z.string().min(1).max(60)).min(1).max(100),
  defects: z.array(z.object({ made: z.string().max(60), found: z.string().max(60), count: countOf })).max(10_000),
});

/** Where what was made at one stage was found. */
export interface EscapeRow {
  /** The stage at which it was made. */
  made: string;
  /** How many were found at each stage, in the order of the stages. */
  found: number[];
  /** All that were made there. */
  total: number;
  /** Found at the stage itself. */
  caught: number;
  /** Of all, found later, 0 to 1; null where none was made. */
  escaped: number | null;
  /** How many stages later they were found on average; null where none was made. */
  stagesLate: number | null;
}

/**
 * Stage made against stage found: what slips past the checks of its own stage, and how far it gets. Refused where a stage is not among
 * the stages, or where something was found before it was made.
 */
export function escapeMatrix({ stages, defects }: z.infer<typeof EscapeMatrixInput>): Outcome<{
  rows: EscapeRow[];
  total: number;
  escaped: number | null;
}> {
  const at = new Map(stages.map((s, i) => [s, i]));
  const found = stages.map(() => stages.map(() => 0));
  for (const [i, d] of defects.entries()) {
    const [made, seen] = [at.get(d.made), at.get(d.found)];
    if (made === undefined) return refuse('stage-not-listed', `defects.${i}.made`, { stage: d.made });
    if (seen === undefined) return refuse('stage-not-listed', `defects.${i}.found`, { stage: d.found });
    if (seen < made) return refuse('found-before-made', `defects.${i}.found`, { made: d.made, found: d.found });
    found[made]![seen]! += d.count;
  }
  const rows = stages.map((made, i): EscapeRow => {
    const row = found[i]!;
    const total = row.reduce((sum, n) => sum + n, 0);
    const late = row.reduce((sum, n, k) => sum + n * (k - i), 0);
    return {
      made,
      found: row,
      total,
      caught: row[i]!,
      escaped: total === 0 ? null : (total - row[i]!) / total,
      stagesLate: total === 0 ? null : late / total,
    };
  });
  const total = rows.reduce((sum, r) => sum + r.total, 0);
  const caught = rows.reduce((sum, r) => sum + r.caught, 0);
  return done({ rows, total, escaped: total === 0 ? null : (total - caught) / total });
}
