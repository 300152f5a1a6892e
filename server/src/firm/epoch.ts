import type { DataSource } from 'typeorm';
import { v4 } from 'uuid';
import { EpochEntity } from '../store/entities';

/** Opens a new epoch. Tablets that see it ask which of their acknowledged entries the server lacks, and send them again. */
export async function openEpoch(store: DataSource, why: string, now: Date): Promise<string> {
  const id = v4();
  await store.getRepository(EpochEntity).insert({ id, openedAt: now, why });
  return id;
}

/** The epoch in force; the first one is opened when there is none yet. */
export async function currentEpoch(store: DataSource, now: Date): Promise<string> {
  const [row] = await store.getRepository(EpochEntity).find({ order: { openedAt: 'DESC' }, take: 1 });
  return row?.id ?? openEpoch(store, 'first start', now);
}
