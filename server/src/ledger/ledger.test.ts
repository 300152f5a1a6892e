import type { Person } from '@careful-seam/contract/api/messages';
import type { Entry } from '@careful-seam/core/log/entry';
import { ledgerSuite } from '@careful-seam/core/tests/ledgerSuite';
import { SHOWER } from '@careful-seam/core/tests/sampleTablet';
import { afterAll, beforeAll } from 'vitest';
import { EntryEntity } from '../store/entities/showers';
import { type TestServer, testServer } from '../tests/testServer';
import { appendEntries } from './appendEntries';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const person: Person = { id: 'person-inspector', name: 'Ada Test', role: 'inspector', crewId: null };

ledgerSuite('in PostgreSQL', async () => {
  await server.store.query('TRUNCATE entry, shower');
  return {
    append: (texts) => appendEntries(server.store, SHOWER, texts, { person, now: new Date(), skewMs: 0 }),
    after: async (seq) => {
      const rows = await server.store.getRepository(EntryEntity).find({ order: { ledgerSeq: 'ASC' } });
      return rows
        .filter((r) => r.ledgerSeq > seq)
        .map((r) => ({ ...r, id: (JSON.parse(r.text) as Entry).id, receivedAt: r.receivedAt.toISOString() }));
    },
  };
});
