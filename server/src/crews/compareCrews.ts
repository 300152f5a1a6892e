import type { CompareAnswer, CrewLine, QuestionAsk } from '@careful-seam/contract/api/crews';
import type { Person } from '@careful-seam/contract/api/messages';
import { funnel, overdispersionFromSums, type ScatterSums } from '@careful-seam/core/crews/funnel';
import { rateInterval } from '@careful-seam/core/crews/rateInterval';
import { twoRates } from '@careful-seam/core/crews/twoRates';
import type { DataSource } from 'typeorm';
import { countBehind } from '../facts/behind';
import { ownCrewOnly } from './defectList';
import { exposureOf, numberedOn, questionWhere } from './filters';
import type { Names } from './names';

/** How sure all intervals are. */
export const SURE = 0.95;

/** What one crew made, shower by shower summed. */
export type CrewSums = ScatterSums & { crew: string };

/** What each crew made of what a question asks for, and how it scatters between its showers. */
export async function sumsByCrew(store: DataSource, ask: QuestionAsk): Promise<CrewSums[]> {
  const { defects, inspected } = questionWhere(ask);
  const { sql } = exposureOf(ask.group);
  return store.query(
    `WITH d AS (
      SELECT f.crew, f.shower_id, count(*)::float8 AS n FROM defect_fact f WHERE f.made_by = 'crew' AND ${defects.sql} GROUP BY 1, 2),
    e AS (
      SELECT f.crew, f.shower_id, (${sql})::float8 AS x FROM inspected_fact f
      WHERE ${numberedOn(inspected, defects.values.length)} GROUP BY 1, 2),
    b AS (
      SELECT crew, coalesce(n, 0) AS n, coalesce(x, 0) AS x FROM d FULL JOIN e USING (crew, shower_id))
    SELECT crew, sum(n)::int AS count, sum(x)::float8 AS exposure, (count(*) FILTER (WHERE x > 0))::int AS showers,
      coalesce(sum(n * n / x) FILTER (WHERE x > 0), 0)::float8 AS squares
    FROM b WHERE crew <> '' GROUP BY crew ORDER BY crew`,
    [...defects.values, ...inspected.values],
  );
}

/** All of some sums together. */
export const allTogether = (sums: readonly CrewSums[]): { count: number; exposure: number } => ({
  count: sums.reduce((n, s) => n + s.count, 0),
  exposure: sums.reduce((x, s) => x + s.exposure, 0),
});

/** A crew's rate as so many times that of all others, with its interval. */
function ratioOf(own: CrewSums, sums: readonly CrewSums[], overdispersion: number): CrewLine['ratio'] {
  const rest = allTogether(sums.filter((s) => s.crew !== own.crew));
  if (rest.exposure === 0 || own.exposure === 0) return null;
  const { count, exposure } = own;
  const found = twoRates({ a: { count, exposure }, b: rest, confidence: SURE, overdispersion });
  return found.ok ? { ratio: found.value.ratio, low: found.value.low, high: found.value.high } : null;
}

/** Is a crew really different? A crew lead is shown the own crew against the firm, and no other. */
export async function compareCrews(
  store: DataSource,
  person: Person,
  ask: QuestionAsk,
  names: Names,
): Promise<CompareAnswer> {
  const sums = await sumsByCrew(store, ask);
  const overdispersion = overdispersionFromSums(sums);
  const { unit } = exposureOf(ask.group);
  const behind = await countBehind(store);
  // What nothing was looked at for has no rate: its defects are listed and not compared.
  const groups = sums.map((s) => ({ name: s.crew, count: s.exposure > 0 ? s.count : 0, exposure: s.exposure }));
  const found = groups.length > 0 ? funnel({ groups, overdispersion }) : null;
  const all = allTogether(sums.filter((s) => s.exposure > 0));
  const level = all.exposure > 0 ? rateInterval({ ...all, confidence: SURE }) : null;
  const own = ownCrewOnly(person);
  const crews = found?.ok
    ? found.value.groups.map(({ name, p: _p, ...g }, i) => ({
        ...g,
        crew: name,
        name: names.crew(name),
        count: sums[i]!.count,
        exposure: sums[i]!.exposure,
        showers: sums[i]!.showers,
        ratio: g.discovery ? ratioOf(sums[i]!, sums, overdispersion) : null,
      }))
    : [];
  return {
    unit,
    firm: level?.ok ? { ...level.value, ...all } : null,
    overdispersion,
    crews: own === null ? crews : crews.filter((c) => c.crew === own),
    compared: crews.length,
    behind,
  };
}
