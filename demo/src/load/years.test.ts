import { SyncAnswer } from '@careful-seam/contract/api/sync';
import { FACTS_VERSION } from '@careful-seam/core/crews/facts';
import { countBehind } from '@careful-seam/server/facts/behind';
import { followLedgers } from '@careful-seam/server/facts/projector';
import { loadRuleBooks } from '@careful-seam/server/showers/ruleBooks';
import { showerRows } from '@careful-seam/server/showers/showerRows';
import { UserEntity } from '@careful-seam/server/store/entities/people';
import { EntryEntity } from '@careful-seam/server/store/entities/showers';
import { type TestServer, testServer } from '@careful-seam/server/tests/testServer';
import { verifyShower } from '@careful-seam/server/verify/verifyShower';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PEOPLE as DEMO_PEOPLE } from '../firm';
import { YEARS_CREWS, yearsCalendar } from '../years/truths';
import { loadDemoFirm } from './loadDemoFirm';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
  const users = await server.store.getRepository(UserEntity).find();
  await server.store.getRepository(UserEntity).clear();
  await loadDemoFirm({ store: server.store, picturePlace: server.picturePlace, now: () => new Date(), years: true });
  await server.store.getRepository(UserEntity).delete(DEMO_PEOPLE.map((p) => p.id));
  await server.store.getRepository(UserEntity).insert(users);
}, 120_000);
afterAll(() => server.close());

describe('two years of an invented firm', () => {
  it('are as many showers as are stated, each with a sound ledger that ends in its signature', async () => {
    const rows = await showerRows(server.store, `WHERE s.job LIKE 'Row %' ORDER BY s.id`);
    expect(rows).toHaveLength(YEARS_CREWS.reduce((n, c) => n + c.showers, 0));
    const find = (await loadRuleBooks(server.store))('');
    for (const row of rows.filter((_, k) => k % 45 === 0)) {
      const entries = await server.store
        .getRepository(EntryEntity)
        .find({ where: { showerId: row.id }, order: { ledgerSeq: 'ASC' } });
      expect(entries.length).toBeGreaterThan(20);
      expect(verifyShower(row, entries, find)).toEqual([]);
    }
  });
  it('lie within two years, and reach no tablet that does not ask for them', async () => {
    const { fromMs, toMs } = yearsCalendar(Date.now());
    const [{ first, last }] = await server.store.query(
      `SELECT min(e.received_at) AS first, max(e.received_at) AS last FROM entry e JOIN shower s ON s.id = e.shower_id WHERE s.job LIKE 'Row %'`,
    );
    expect(first.getTime()).toBeGreaterThanOrEqual(fromMs);
    expect(last.getTime()).toBeLessThan(toMs + 86_400_000 * 5);
    const ines = await server.as('ines');
    const answer = SyncAnswer.parse((await ines.post('/api/sync').send({ since: null, firm: null }).expect(200)).body);
    expect(answer.showers.length).toBeGreaterThan(5);
    expect(answer.showers.length).toBeLessThan(60);
  });
  it('are counted by a server that has just begun', async () => {
    while ((await followLedgers(server.store, Date.now() + 60_000)) > 0);
    expect(await countBehind(server.store)).toBe(0);
    const [{ n }] = await server.store.query('SELECT count(*)::int AS n FROM projection WHERE version = $1', [
      FACTS_VERSION,
    ]);
    expect(n).toBeGreaterThan(450);
    const [{ defects, crews }] = await server.store.query(
      'SELECT count(*)::int AS defects, count(DISTINCT crew)::int AS crews FROM defect_fact',
    );
    expect(defects).toBeGreaterThan(1000);
    expect(crews).toBe(YEARS_CREWS.length);
  }, 120_000);
});
