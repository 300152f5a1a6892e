import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { created, push, type TestServer, testServer, testTablet } from '../tests/testServer';
import { ROUTES } from './routes';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

/** Every address that gives a file and is written down, of one shower and of one link to it. */
async function fileAddresses(): Promise<string[]> {
  const tablet = testTablet('ines', v4());
  await (await server.as('ines'))
    .post(`/api/showers/${tablet.showerId}/entries`)
    .send(
      push([
        tablet.seal('shower-created', { ...created, name: 'Read', job: 'Jetty' }),
        tablet.seal('geometry-set', { version: 1, geometry: sampleShower() }),
        tablet.seal('rules-pinned', { ruleBook: 'firm-rule-book', version: 3, method: 'bonded-sheet' }),
      ]),
    )
    .expect(200);
  const wanted = { kind: 'record', showerId: tablet.showerId, label: 'Owner', days: 7, email: null };
  const { body } = await (await server.as('maren')).post('/api/links').send(wanted).expect(200);
  const parts = { id: tablet.showerId, job: 'Jetty', code: String(body.path).split('/').at(-1)! };
  return ROUTES.filter((route) => route.method === 'get' && route.did).map(({ path }) =>
    path.replace(/:(id|job|code)/g, (_, name: keyof typeof parts) => parts[name]),
  );
}

describe('a file that leaves', () => {
  it('is written down before its first byte, and stays here when it can not be', async () => {
    const manager = await server.as('maren');
    const paths = await fileAddresses();
    expect(paths.length).toBeGreaterThan(10);
    await server.store.query(`
      CREATE FUNCTION no_audit() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION 'the audit takes nothing'; END $$;
      CREATE TRIGGER no_audit BEFORE INSERT ON audit FOR EACH ROW EXECUTE FUNCTION no_audit();`);
    const answers = async () => {
      const found: [string, number][] = [];
      for (const path of paths) found.push([path, (await manager.get(path)).status]);
      return found;
    };
    expect(await answers()).toEqual(paths.map((path) => [path, 500]));
    await server.store.query('DROP TRIGGER no_audit ON audit');
    expect(await answers()).toEqual(paths.map((path) => [path, 200]));
    const [{ lines }] = await server.store.query(
      "SELECT count(*)::int AS lines FROM audit WHERE did IN ('record-read', 'record-read-by-link', 'file-out', 'backup-made')",
    );
    expect(lines).toBe(paths.length);
  });
});
