import { SyncAnswer } from '@careful-seam/contract/api/sync';
import { sampleBook } from '@careful-seam/core/tests/sampleBook';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { created, push, type TestServer, testServer, testTablet } from '../tests/testServer';
import { followToTheEnd } from './projector';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const BOOK = sampleBook();
type Agent = Awaited<ReturnType<TestServer['as']>>;
/** What a tablet that begins is told of leaks. */
const leaksFor = async (agent: Agent) => {
  await followToTheEnd(server.store, () => undefined);
  const told = SyncAnswer.parse((await agent.post('/api/sync').send({ since: null, firm: null }).expect(200)).body);
  return told.firm!.leaks;
};

describe('what a call found', () => {
  it('is counted in the firm’s table once it ended, by its kind or as unknown, and goes when the end is taken back', async () => {
    const ines = await server.as('ines');
    expect((await leaksFor(ines)).finds).toEqual({});
    const tablet = testTablet('ines', v4());
    const [one, two, end] = [v4(), v4(), v4()];
    const call = { words: 'A stain in the hall', symptoms: [] };
    const path = `/api/showers/${tablet.showerId}/entries`;
    const send = (texts: string[]) => ines.post(path).send(push(texts)).expect(200);
    await send([
      tablet.seal('shower-created', created),
      tablet.seal('geometry-set', { version: 1, geometry: sampleShower() }),
      tablet.seal('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' }),
      tablet.seal('call-opened', call, { id: one }),
      tablet.seal('call-opened', call, { id: two }),
      tablet.seal('call-closed', { call: one, found: { element: 'drain:d', kind: 'drain' } }, { id: end }),
      tablet.seal('call-closed', { call: two, found: null }),
    ]);
    expect((await leaksFor(ines)).finds).toEqual({ drain: 1, unknown: 1 });
    await send([tablet.seal('correction', { target: end, action: 'withdraw' })]);
    expect((await leaksFor(ines)).finds).toEqual({ unknown: 1 });
  });

  it('begins with figures that a manager alone sets; impossible ones are refused by their field', async () => {
    const [ines, maren] = [await server.as('ines'), await server.as('maren')];
    await ines.put('/api/leaks/rates').send({ drain: 9 }).expect(403);
    await maren.put('/api/leaks/rates').send({ drain: 9 }).expect(200);
    expect((await leaksFor(ines)).own).toEqual({ drain: 9 });
    for (const wrong of [{ drain: 0 }, { drain: -1 }, { drain: 'many' }, { roof: 2 }])
      expect((await maren.put('/api/leaks/rates').send(wrong)).body.error.code).toBe('input-invalid');
    expect((await leaksFor(ines)).own).toEqual({ drain: 9 });
    await maren.put('/api/leaks/rates').send({}).expect(200);
    expect((await leaksFor(ines)).own).toEqual({});
  });

  it('works with probabilities that a manager alone sets, beside the figures; impossible and unknown ones are refused', async () => {
    const [ines, maren] = [await server.as('ines'), await server.as('maren')];
    await maren.put('/api/leaks/rates').send({ drain: 9 }).expect(200);
    await ines.put('/api/leaks/odds').send({ standing: 0.7 }).expect(403);
    await maren.put('/api/leaks/odds').send({ standing: 0.7, 'when door at-once': 0.5 }).expect(200);
    expect(await leaksFor(ines)).toMatchObject({
      own: { drain: 9 },
      odds: { standing: 0.7, 'when door at-once': 0.5 },
    });
    for (const wrong of [{ standing: 0 }, { standing: 1 }, { standing: 70 }, { 'when roof always': 0.2 }])
      expect((await maren.put('/api/leaks/odds').send(wrong)).body.error.code).toBe('input-invalid');
    await maren.put('/api/leaks/odds').send({}).expect(200);
    await maren.put('/api/leaks/rates').send({}).expect(200);
    expect(await leaksFor(ines)).toMatchObject({ own: {}, odds: {} });
  });
});
