import type { LookAnswer, LookPlan } from '@careful-seam/contract/api/crews';
import { COUNTED_GROUPS, type ElementGroup } from '@careful-seam/core/crews/elementGroup';
import { whereToLook } from '@careful-seam/core/crews/whereToLook';
import type { DataSource } from 'typeorm';
import { v4 } from 'uuid';
import { countBehind } from '../facts/behind';
import type { Names } from './names';

/** mm in a foot. */
const FOOT_MM = 304.8;
/** What comes is taken to be what the last quarter of a year was, days [common practice, no source]. */
const QUARTER_DAYS = 91;
/** What one reading speaks for, mm. */
const SPEAKS_FOR_MM = 300;

/** The plan in force; null before one was accepted. */
export async function readLookPlan(store: DataSource): Promise<LookPlan | null> {
  const [row] = await store.query(
    'SELECT accepted_by AS by, accepted_at AS at, cells FROM look_plan ORDER BY accepted_at DESC LIMIT 1',
  );
  return row ? { acceptedBy: row.by, acceptedAt: row.at.toISOString(), cells: row.cells } : null;
}

/** Keeps a plan; the one before stays as history. No cells: the plan is ended. */
export async function keepLookPlan(
  store: DataSource,
  cells: LookPlan['cells'],
  by: string,
  now: Date,
): Promise<LookPlan> {
  await store.query('INSERT INTO look_plan (id, accepted_by, accepted_at, cells) VALUES ($1, $2, $3, $4::jsonb)', [
    v4(),
    by,
    now,
    JSON.stringify(cells),
  ]);
  return { acceptedBy: by, acceptedAt: now.toISOString(), cells };
}

/** Where should I look harder? Readings go where the next one finds the most, and nobody's work is left out. */
export async function lookHarder(store: DataSource, readings: number, names: Names, now: Date): Promise<LookAnswer> {
  const rows: { crew: string; group: ElementGroup; count: number; mm: number; coming: number }[] = await store.query(
    `WITH d AS (SELECT crew, element_group, count(*)::int AS n FROM defect_fact WHERE made_by = 'crew' GROUP BY 1, 2),
    e AS (SELECT crew, element_group, sum(mm)::float8 AS mm, coalesce(sum(mm) FILTER (WHERE day > $1::date - ${QUARTER_DAYS}), 0)::float8 AS coming
      FROM inspected_fact WHERE element_group <> ALL($2::text[]) AND crew <> '' GROUP BY 1, 2)
    SELECT e.crew, e.element_group AS "group", coalesce(d.n, 0)::int AS count, e.mm, e.coming
    FROM e LEFT JOIN d USING (crew, element_group) WHERE e.mm > 0 AND e.coming > 0 ORDER BY 1, 2`,
    [now, [...COUNTED_GROUPS]],
  );
  const plan = await readLookPlan(store);
  const behind = await countBehind(store);
  const least = rows.length;
  if (least === 0) return { cells: [], riskLeft: null, least, plan, behind };
  const found = whereToLook({
    cells: rows.map((r) => ({
      crew: r.crew,
      kind: r.group,
      count: r.count,
      exposure: r.mm / FOOT_MM / 100,
      lengthMm: r.coming,
    })),
    readings: Math.max(readings, least),
    speaksForMm: SPEAKS_FOR_MM,
  });
  if (!found.ok) return { cells: [], riskLeft: null, least, plan, behind };
  return {
    cells: found.value.cells
      .map((c, i) => ({
        crew: c.crew,
        name: names.crew(c.crew),
        group: rows[i]!.group,
        rate: c.rate,
        share: c.share,
        readings: c.readings,
        feet: rows[i]!.coming / FOOT_MM,
        measured: 1 - Math.exp((-c.readings * SPEAKS_FOR_MM) / rows[i]!.coming),
      }))
      .sort((a, b) => b.measured - a.measured),
    riskLeft: found.value.riskLeft,
    least,
    plan,
    behind,
  };
}
