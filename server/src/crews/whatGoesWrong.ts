import type { WrongAnswer, WrongAsk } from '@careful-seam/contract/api/crews';
import { afterTilePrice } from '@careful-seam/contract/api/firm';
import { clopperPearson } from '@careful-seam/core/crews/rateInterval';
import type { Words } from '@careful-seam/words/texts/language';
import type { DataSource } from 'typeorm';
import type { z } from 'zod';
import { countBehind } from '../facts/behind';
import { readSettings } from '../firm/settings';
import { SURE } from './compareCrews';
import { questionWhere } from './filters';
import type { Names } from './names';

/** Columns that defects are summed by; nobody said counts as not known. */
const BY = {
  kind: `CASE WHEN f.kind = '' THEN 'check:' || f.check_id ELSE f.kind END`,
  cause: `CASE WHEN f.cause = '' THEN 'unknown' ELSE f.cause END`,
  group: 'f.element_group',
  stage: 'f.stage_made',
} as const;

/** What defects of one name come to. */
interface Sum {
  id: string;
  count: number;
  /** Of these, those of which somebody told hours. */
  told: number;
  hours: number;
  materials: number;
}

/** What goes wrong, how often, and what it costs to put right. Money is the firm's own: null where it has set none. */
export async function whatGoesWrong(
  store: DataSource,
  ask: z.infer<typeof WrongAsk>,
  names: Names,
  t: Words,
): Promise<WrongAnswer> {
  const { defects } = questionWhere(ask);
  const values = [...defects.values];
  const crew = ask.crew === '' ? '' : `AND f.crew = $${values.push(ask.crew)}`;
  // By the stage that each was made at too: what is found after tile is priced by it.
  const made: (Sum & { stage: string })[] = await store.query(
    `SELECT ${BY[ask.by]} AS id, f.stage_made AS stage, count(*)::int AS count, count(f.hours)::int AS told,
      coalesce(sum(f.hours), 0)::float8 AS hours, coalesce(sum(f.materials), 0)::float8 AS materials
    FROM known_defect f WHERE ${defects.sql} ${crew} GROUP BY 1, 2`,
    values,
  );
  const settings = await readSettings(store);
  const { hourRate, afterTileCost, currency } = settings;
  const rows = new Map<string, Sum & { afterTile: number | null }>();
  for (const { id, stage, count, told, hours, materials } of made) {
    const known = rows.get(id) ?? { id, count: 0, told: 0, hours: 0, materials: 0, afterTile: 0 };
    const price = afterTilePrice(settings, stage);
    rows.set(id, {
      id,
      count: known.count + count,
      told: known.told + told,
      hours: known.hours + hours,
      materials: known.materials + materials,
      afterTile: price === null || known.afterTile === null ? null : known.afterTile + price * count,
    });
  }
  const lines = [...rows.values()].sort((a, b) => b.count - a.count || (a.id < b.id ? -1 : 1));
  const total = lines.reduce((n, r) => n + r.count, 0);
  const nameOf = (id: string): string => {
    if (ask.by === 'kind') return id.startsWith('check:') ? names.kind('', id.slice('check:'.length)) : names.kind(id);
    if (ask.by === 'cause') return names.cause(id);
    return ask.by === 'stage' ? names.stage(id) : t(`elementGroup.${id}`);
  };
  return {
    lines: lines.map(({ id, count, hours, materials, afterTile }) => ({
      id,
      name: nameOf(id),
      count,
      hours,
      materials,
      cost: hourRate === null ? null : hours * hourRate + materials,
      afterTile,
      share: count / total,
      ...clopperPearson(count, total, SURE),
    })),
    total,
    costTold: lines.reduce((n, r) => n + r.told, 0),
    currency,
    hourRate,
    afterTileCost,
    behind: await countBehind(store),
  };
}
