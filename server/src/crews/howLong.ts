import type { HoldsAnswer, HoldsAsk } from '@careful-seam/contract/api/crews';
import { timeToFix } from '@careful-seam/core/crews/timeToFix';
import type { Words } from '@careful-seam/words/texts/language';
import type { DataSource } from 'typeorm';
import type { z } from 'zod';
import { countBehind } from '../facts/behind';
import { questionWhere } from './filters';
import type { Names } from './names';

/** So many holds that stood so long, or stand so long already. */
interface Spell {
  id: string;
  days: number;
  closed: boolean;
  count: number;
}

/** Steps that are told of a curve. */
const STEPS_AT_MOST = 120;

/** How long holds of one kind stood. */
function lineOf(id: string, name: string, spells: readonly Spell[]): HoldsAnswer['lines'][number] | null {
  const found = spells.length > 0 ? timeToFix({ spells: [...spells] }) : null;
  if (!found?.ok) return null;
  const { medianDays, steps } = found.value;
  const every = Math.ceil(steps.length / STEPS_AT_MOST);
  return {
    id,
    name,
    count: spells.reduce((n, s) => n + s.count, 0),
    open: spells.filter((s) => !s.closed).reduce((n, s) => n + s.count, 0),
    medianDays,
    // The middle lies where the band of the curve crosses one half.
    lowDays: steps.find((s) => s.low <= 0.5)?.days ?? null,
    highDays: steps.find((s) => s.high <= 0.5)?.days ?? null,
    steps: steps.filter((_, i) => i % every === 0 || i === steps.length - 1),
  };
}

/** How long does a hold stand? By crew that puts it right, or by severity; those that still stand count for as long as they have. */
export async function howLong(
  store: DataSource,
  ask: z.infer<typeof HoldsAsk>,
  names: Names,
  t: Words,
  now: Date,
): Promise<HoldsAnswer> {
  const { defects } = questionWhere(ask);
  const by = ask.by === 'crew' ? `coalesce(f.fixer, '')` : 'f.severity';
  // In tenths of a day: fine enough for a curve, and few enough lines for a hundred thousand holds.
  const spells: Spell[] = await store.query(
    `SELECT ${by} AS id, f.closed_at IS NOT NULL AS closed,
      (ceil(greatest(0, extract(epoch FROM coalesce(f.closed_at, $${defects.values.length + 1}::timestamptz) - f.found_at)) / 8640) / 10)::float8 AS days,
      count(*)::int AS count
    FROM known_defect f
    WHERE f.severity <> 'note' AND NOT (f.step = 'closed' AND f.closed_at IS NULL) AND ${defects.sql} GROUP BY 1, 2, 3`,
    [...defects.values, now],
  );
  const ids = [...new Set(spells.map((s) => s.id))].filter((id) => id !== '');
  const nameOf = (id: string): string => (ask.by === 'crew' ? names.crew(id) : t(`severity.${id}`));
  return {
    all: lineOf('', '', spells),
    lines: ids
      .flatMap(
        (id) =>
          lineOf(
            id,
            nameOf(id),
            spells.filter((s) => s.id === id),
          ) ?? [],
      )
      .sort((a, b) => (b.medianDays ?? Infinity) - (a.medianDays ?? Infinity)),
    behind: await countBehind(store),
  };
}
