import { v4 } from 'uuid';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { created, push, type TestServer, testServer, testTablet } from '../tests/testServer';
import { verifyLedger } from '../verify/verifyLedger';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

async function shower(count: number) {
  const ines = await server.as('ines');
  const tablet = testTablet('ines', v4());
  const path = `/api/showers/${tablet.showerId}/entries`;
  const write = (words: string) =>
    ines
      .post(path)
      .send(push([tablet.seal('note', { words })]))
      .expect(200);
  await ines
    .post(path)
    .send(push([tablet.seal('shower-created', created)]))
    .expect(200);
  for (let k = 1; k < count; k += 1) await write(String(k));
  return { ines, path, write };
}

it('every unique key of an entry carries its shower, so that the table can be parted by it', async () => {
  const keys: { name: string; columns: string[] }[] = await server.store.query(
    `SELECT c.relname AS name, array_agg(a.attname::text) AS columns FROM pg_index i
    JOIN pg_class c ON c.oid = i.indexrelid JOIN pg_attribute a ON a.attrelid = i.indrelid AND a.attnum = ANY(i.indkey)
    WHERE i.indrelid = 'entry'::regclass AND i.indisunique GROUP BY c.relname ORDER BY 1`,
  );
  expect(keys.map((k) => k.name)).toEqual(['entry_device_place', 'entry_ledger_place', 'entry_pk']);
  for (const { columns } of keys) expect(columns).toContain('shower_id');
});

it('in eight parts it holds the same rows under the same keys, and everything goes on', async () => {
  const showers = await Promise.all(Array.from({ length: 6 }, () => shower(4)));
  const before = await verifyLedger(server.store, server.picturePlace);
  await server.store.query(`
    BEGIN;
    ALTER TABLE entry RENAME TO entry_whole;
    CREATE TABLE entry (LIKE entry_whole INCLUDING DEFAULTS INCLUDING GENERATED) PARTITION BY HASH (shower_id);
    DO $$ BEGIN FOR k IN 0..7 LOOP
      EXECUTE format('CREATE TABLE entry_%s PARTITION OF entry FOR VALUES WITH (MODULUS 8, REMAINDER %s)', k, k); END LOOP; END $$;
    INSERT INTO entry SELECT * FROM entry_whole;
    DROP TABLE entry_whole;
    ALTER TABLE entry ADD CONSTRAINT entry_pk PRIMARY KEY (shower_id, id),
      ADD CONSTRAINT entry_ledger_place UNIQUE (shower_id, ledger_seq), ADD CONSTRAINT entry_device_place UNIQUE (shower_id, device_id, device_seq);
    CREATE INDEX entry_by_ledger_hash ON entry (ledger_hash);
    CREATE TRIGGER entries_stand BEFORE UPDATE OR DELETE ON entry FOR EACH ROW EXECUTE FUNCTION entries_stand();
    COMMIT`);
  const parts: { n: number }[] = await server.store.query(`SELECT count(DISTINCT tableoid)::int AS n FROM entry`);
  expect(parts[0]!.n).toBeGreaterThan(1);
  expect(await verifyLedger(server.store, server.picturePlace)).toEqual(before);
  for (const { ines, path, write } of showers) {
    await write('after the table was parted');
    expect((await ines.get(path).expect(200)).body.entries).toHaveLength(5);
  }
  await expect(server.store.query('DELETE FROM entry')).rejects.toThrow('append-only');
  expect((await verifyLedger(server.store, server.picturePlace)).findings).toEqual([]);
});
