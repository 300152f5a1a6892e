import type { QuestionAsk, SlippedAnswer } from '@careful-seam/contract/api/crews';
import { escapeMatrix } from '@careful-seam/core/crews/escapeMatrix';
import { clopperPearson, rateInterval } from '@careful-seam/core/crews/rateInterval';
import { kindOfFailure } from '@careful-seam/core/rules/tools';
import type { DataSource } from 'typeorm';
import { countBehind } from '../facts/behind';
import { SURE } from './compareCrews';
import { numberedOn, questionWhere } from './filters';
import type { Names } from './names';

/** mm in a foot. */
const FOOT_MM = 304.8;
/** In what the most that a silent check can have missed is told. */
const HUNDRED = 100;

/** How many of each kind were made at one stage and found at another. */
interface Crossing {
  kind: string;
  made: string;
  found: string;
  count: number;
}

async function crossings(store: DataSource, ask: QuestionAsk): Promise<Crossing[]> {
  const { defects } = questionWhere(ask);
  return store.query(
    `SELECT f.kind, f.stage_made AS made, f.stage_found AS found, count(*)::int AS count FROM known_defect f
    WHERE ${defects.sql} GROUP BY 1, 2, 3`,
    defects.values,
  );
}

/** Checks of a stage that look for a kind of defect. */
const checksFor = (names: Names, stage: string, kind: string) =>
  (names.stages.find((s) => s.key === stage)?.checks ?? [])
    .filter((c) => kindOfFailure(c) === kind)
    .map((c) => ({ id: c.id, label: c.label }));

/** Checks that looked and never found, with the most that this leaves possible. */
async function silentChecks(store: DataSource, ask: QuestionAsk, names: Names): Promise<SlippedAnswer['silent']> {
  const { defects, inspected } = questionWhere({ ...ask, method: '' });
  const rows: { stage: string; check: string; feet: number; points: number }[] = await store.query(
    `WITH hits AS (SELECT f.check_id, f.kind, f.stage_found FROM defect_fact f WHERE ${defects.sql} GROUP BY 1, 2, 3)
    SELECT f.stage, f.check_id AS check, (sum(f.mm) / ${FOOT_MM})::float8 AS feet, sum(f.points)::int AS points
    FROM pass_fact f WHERE ${numberedOn(inspected, defects.values.length)}
      AND NOT EXISTS (SELECT 1 FROM hits h WHERE h.check_id = f.check_id AND h.stage_found = f.stage)
    GROUP BY 1, 2`,
    [...defects.values, ...inspected.values],
  );
  const hits: { kind: string; stage: string }[] = await store.query(
    `SELECT DISTINCT f.kind, f.stage_found AS stage FROM defect_fact f WHERE ${defects.sql}`,
    defects.values,
  );
  return rows
    .flatMap(({ stage, check, feet, points }) => {
      const spec = names.stages.find((s) => s.key === stage)?.checks.find((c) => c.id === check);
      if (!spec) return [];
      // Somebody saw by themselves what this check looks for: it did find.
      const kind = kindOfFailure(spec);
      if (kind !== null && hits.some((h) => h.kind === kind && h.stage === stage)) return [];
      const exposure = feet > 0 ? feet / HUNDRED : points / HUNDRED;
      const most = exposure > 0 ? rateInterval({ count: 0, exposure, confidence: SURE }) : null;
      return most?.ok ? [{ stage, check, label: spec.label, feet, points, atMost: most.value.high }] : [];
    })
    .sort((a, b) => a.atMost - b.atMost);
}

/** Kinds that were found although no check of the rule book looks for them. */
function uncoveredKinds(names: Names, crossed: readonly Crossing[]): SlippedAnswer['uncovered'] {
  const covered = new Set(names.stages.flatMap((s) => s.checks.map(kindOfFailure)));
  const byKind = new Map<string, { count: number; stage: string }>();
  for (const { kind, made, count } of crossed) {
    if (kind === '' || covered.has(kind)) continue;
    const known = byKind.get(kind);
    byKind.set(kind, { count: (known?.count ?? 0) + count, stage: known?.stage ?? made });
  }
  return [...byKind]
    .map(([kind, { count, stage }]) => ({ kind, name: names.kind(kind), count, stage }))
    .sort((a, b) => b.count - a.count);
}

/** Where did it slip through? Stage made against stage found, and what the rule book asks and does not ask. */
export async function slippedThrough(store: DataSource, ask: QuestionAsk, names: Names): Promise<SlippedAnswer> {
  const orders = new Map(names.stages.map((s, i) => [s.key, i]));
  const all = await crossings(store, ask);
  // Nothing is made after it was found: what says so was typed wrongly, and counts as caught.
  const crossed = all
    .filter((c) => orders.has(c.found))
    .map((c) => ((orders.get(c.made) ?? Infinity) <= orders.get(c.found)! ? c : { ...c, made: c.found }));
  const used = names.stages.filter((s) => crossed.some((c) => c.made === s.key || c.found === s.key));
  const matrix = used.length > 0 ? escapeMatrix({ stages: used.map((s) => s.key), defects: crossed }) : null;
  const late = crossed.filter((c) => c.made !== c.found);
  const [count, total] = [late, crossed].map((list) => list.reduce((n, c) => n + c.count, 0)) as [number, number];
  const slipped = new Map<string, { kind: string; made: string; count: number }>();
  for (const c of late) {
    const key = `${c.kind}\n${c.made}`;
    slipped.set(key, { kind: c.kind, made: c.made, count: (slipped.get(key)?.count ?? 0) + c.count });
  }
  return {
    stages: used.map((s) => ({ id: s.key, label: s.label })),
    rows: matrix?.ok ? matrix.value.rows : [],
    total,
    escaped: total === 0 ? null : { count, share: count / total, ...clopperPearson(count, total, SURE) },
    slipped: [...slipped.values()]
      .sort((a, b) => b.count - a.count)
      .map((s) => ({ ...s, name: names.kind(s.kind), checks: checksFor(names, s.made, s.kind) })),
    silent: await silentChecks(store, ask, names),
    uncovered: uncoveredKinds(names, crossed),
    method: ask.method || (names.book.methods[0]?.key ?? ''),
    behind: await countBehind(store),
  };
}
