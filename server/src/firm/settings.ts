import { FIRST_SETTINGS, FirmSettings } from '@careful-seam/contract/api/firm';
import type { DataSource, EntityManager } from 'typeorm';
import { FirmSettingEntity } from '../store/entities/firm';

/** The one row. */
const ONLY = 1;

/** The firm's settings; the first ones until somebody sets others. */
export async function readSettings(store: DataSource | EntityManager): Promise<FirmSettings> {
  const row = await store.getRepository(FirmSettingEntity).findOneBy({ id: ONLY });
  return FirmSettings.parse({ ...FIRST_SETTINGS, ...((row?.data ?? {}) as object) });
}

/** Writes what the firm is and how it works. */
export async function writeSettings(store: DataSource | EntityManager, settings: FirmSettings): Promise<void> {
  await store.getRepository(FirmSettingEntity).upsert({ id: ONLY, data: settings }, ['id']);
}
