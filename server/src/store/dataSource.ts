import { DataSource } from 'typeorm';
import { ENTITIES } from './entities';
import { MIGRATIONS } from './migrations';

/** A pool on the given PostgreSQL (15 or newer), not yet connected. Fewer migrations make the tables of an earlier version. */
export function makeDataSource(url: string, poolSize = 10, migrations = MIGRATIONS): DataSource {
  return new DataSource({
    type: 'postgres',
    url,
    entities: ENTITIES,
    migrations,
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
