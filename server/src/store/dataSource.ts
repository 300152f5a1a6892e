import { DataSource } from 'typeorm';
import { ENTITIES } from './entities';
import { MIGRATIONS } from './migrations';

/** A pool on the given PostgreSQL (15 or newer), not yet connected. */
export function makeDataSource(url: string, poolSize = 10): DataSource {
  return new DataSource({
    type: 'postgres',
    url,
    entities: ENTITIES,
    migrations: MIGRATIONS,
    migrationsTransactionMode: 'all',
    synchronize: false,
    poolSize,
    uuidExtension: 'pgcrypto',
    installExtensions: false,
  });
}

export async function openStore(url: string, poolSize?: number): Promise<DataSource> {
  const source = await makeDataSource(url, poolSize).initialize();
  await source.runMigrations();
  return source;
}
