import type { Mark, MonthsAnswer, MonthsAsk } from '@careful-seam/contract/api/crews';
import { overdispersionFromSums } from '@careful-seam/core/crews/funnel';
import { beforeAfter } from '@careful-seam/core/crews/twoRates';
import { uChart } from '@careful-seam/core/crews/uChart';
import type { DataSource } from 'typeorm';
import type { z } from 'zod';
import { countBehind } from '../facts/behind';
import { SURE, sumsByCrew } from './compareCrews';
import { exposureOf, numberedOn, questionWhere } from './filters';

/** What is asked. */
type Ask = z.infer<typeof MonthsAsk>;
/** So many in so much. */
interface Counted {
  count: number;
  exposure: number;
}

/** Conditions of a question, of one kind and one crew where that is asked. */
function narrowed(ask: Ask) {
  const { defects, inspected } = questionWhere(ask);
  const values = [...defects.values, ...inspected.values];
  const extra = (column: string, value: string) => (value === '' ? '' : ` AND f.${column} = $${values.push(value)}`);
  const crew = extra('crew', ask.crew);
  return {
    values,
    defects: `${defects.sql}${crew}${extra('kind', ask.kind)}`,
    inspected: `${numberedOn(inspected, defects.values.length)}${crew}`,
  };
}

/** What was found and what was looked at, by a column of time. */
async function over(store: DataSource, ask: Ask, found: string, looked: string): Promise<(Counted & { at: string })[]> {
  const { values, defects, inspected } = narrowed(ask);
  return store.query(
    `WITH d AS (SELECT ${found} AS at, count(*)::int AS n FROM defect_fact f WHERE ${defects} GROUP BY 1),
    e AS (SELECT ${looked} AS at, (${exposureOf(ask.group).sql})::float8 AS x FROM inspected_fact f WHERE ${inspected} GROUP BY 1)
    SELECT at, coalesce(n, 0)::int AS count, coalesce(x, 0)::float8 AS exposure FROM d FULL JOIN e USING (at) ORDER BY at`,
    values,
  );
}

/** All months from the first to the last, also those in which nobody worked. */
function monthsBetween(first: string, last: string): string[] {
  const months: string[] = [];
  for (let [year, month] = first.split('-').map(Number) as [number, number]; ; month += 1) {
    if (month > 12) [year, month] = [year + 1, 1];
    const name = `${year}-${String(month).padStart(2, '0')}`;
    if (name > last) return months;
    months.push(name);
  }
}

/** What the firm has marked, oldest first. */
export async function readMarks(store: DataSource): Promise<Mark[]> {
  return store.query(`SELECT id, to_char(day, 'YYYY-MM-DD') AS day, words FROM firm_mark ORDER BY day, id`);
}

/** The rates before and after a mark, compared. */
async function changeAt(
  store: DataSource,
  ask: Ask,
  mark: Mark,
  overdispersion: number,
): Promise<MonthsAnswer['change']> {
  const day = `'${mark.day}'`;
  const rows = await over(store, ask, `(f.found_on >= ${day})::text`, `(f.day >= ${day})::text`);
  const at = (side: string): Counted => {
    const found = rows.find((r) => r.at === side);
    return { count: found?.count ?? 0, exposure: found?.exposure ?? 0 };
  };
  const [before, after] = [at('false'), at('true')];
  if (before.exposure === 0 || after.exposure === 0) return null;
  const found = beforeAfter({ before, after, confidence: SURE, overdispersion });
  if (!found.ok) return null;
  const { ratio, low, high, warning } = found.value;
  return { mark: mark.id, before, after, ratio, low, high, warning };
}

/** Does it get better? Month by month against the own level, with the firm's marks, and before against after one of them. */
export async function byMonth(store: DataSource, ask: Ask): Promise<MonthsAnswer> {
  const { unit } = exposureOf(ask.group);
  const rows = await over(store, ask, `to_char(f.found_on, 'YYYY-MM')`, `to_char(f.day, 'YYYY-MM')`);
  const known = new Map(rows.map((r) => [r.at, r]));
  // Defects of months in which nothing was looked at have nothing to be counted against.
  const months = rows.length === 0 ? [] : monthsBetween(rows[0]!.at, rows.at(-1)!.at);
  const counted = months.map((month) => {
    const { count = 0, exposure = 0 } = known.get(month) ?? {};
    return { month, count: exposure > 0 ? count : 0, exposure };
  });
  const overdispersion = overdispersionFromSums(await sumsByCrew(store, ask));
  const chart = counted.length > 0 ? uChart({ months: counted, overdispersion }) : null;
  const nothing = { rate: null, low: null, high: null, signal: null };
  const marks = await readMarks(store);
  const mark = marks.find((m) => m.id === ask.mark);
  return {
    unit,
    centre: chart?.ok ? chart.value.centre : null,
    overdispersion,
    months: counted.map((m, i) => ({ ...m, ...(chart?.ok ? chart.value.points[i]! : nothing) })),
    marks,
    change: mark ? await changeAt(store, ask, mark, overdispersion) : null,
    behind: await countBehind(store),
  };
}
