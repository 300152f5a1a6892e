import type { DataSource } from 'typeorm';
import { v4 } from 'uuid';
import { EpochEntity } from '../store/entities/firm';

/** Opens a new epoch. Tablets that see it ask which of their acknowledged entries the server lacks, and send them again. */
export async function openEpoch(store: DataSource, why: string, now: Date): Promise<string> {
  const id = v4();
  // After every other one, also when a clock once stood ahead: the newest epoch is the one in force.
  await store.query(
    `INSERT INTO server_epoch (id, opened_at, why) SELECT $1, greatest($2::timestamptz, max(opened_at) + interval '1 ms'), $3 FROM server_epoch`,
    [id, now, why],
  );
  return id;
}

/** The epoch in force; the first one is opened when there is none yet. */
export async function currentEpoch(store: DataSource, now: Date): Promise<string> {
  const [row] = await store.getRepository(EpochEntity).find({ order: { openedAt: 'DESC' }, take: 1 });
  return row?.id ?? openEpoch(store, 'first start', now);
}
