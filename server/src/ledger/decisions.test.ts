import { sampleBook } from '@careful-seam/core/tests/sampleBook';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { BOTH_ANSWERS, releaseBody } from '@careful-seam/core/tests/sampleTablet';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { MailEntity } from '../store/entities/mail';
import { UserEntity } from '../store/entities/people';
import { EntryEntity } from '../store/entities/showers';
import { created, lose, PEOPLE, push, type TestServer, testServer, testTablet, type Who } from '../tests/testServer';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

/** A shower drawn and pinned, with a way to write into it as somebody and to hear what the server says. */
async function shower() {
  const book = sampleBook();
  const tablet = testTablet('ines', v4());
  const path = `/api/showers/${tablet.showerId}/entries`;
  const ines = await server.as('ines');
  const texts = [
    tablet.seal('shower-created', created),
    tablet.seal('geometry-set', { version: 1, geometry: sampleShower() }),
    tablet.seal('rules-pinned', { ruleBook: book.id, version: book.version, method: 'bonded-sheet' }),
  ];
  await ines.post(path).send(push(texts)).expect(200);
  const say = async (who: Who, write: (t: ReturnType<typeof testTablet>) => string, more: object = {}) => {
    const agent = await server.as(who);
    const answer = await agent.post(path).send({ ...push([write(testTablet(who, tablet.showerId))]), ...more });
    return answer.body.refused ?? answer.body.error ?? null;
  };
  return { tablet, path, say, book };
}
const defect = {
  stage: 'boards',
  place: { element: 'wall:back' },
  kind: 'gap',
  severity: 'stop' as const,
  words: '',
  photos: [],
};

describe("a manager's decisions are refused from an inspector, and taken from a manager", () => {
  it('upholding a contested release', async () => {
    const { say } = await shower();
    const uphold = (who: Who) => say(who, (t) => t.seal('stage-released', releaseBody('base', 'so be it')));
    expect(await uphold('ines')).toMatchObject({ code: 'manager-upholds', field: 'body' });
    expect(await uphold('maren')).toBeNull();
    expect(await say('ines', (t) => t.seal('stage-released', releaseBody('base')))).toBeNull();
  });

  it('closing a stop defect unseen, and making it milder', async () => {
    const { say } = await shower();
    const id = v4();
    expect(await say('ines', (t) => t.seal('defect-found', defect, { id }))).toBeNull();
    const close = (who: Who) => say(who, (t) => t.seal('defect-closed', { defect: id, ...BOTH_ANSWERS }));
    const milder = (who: Who) => say(who, (t) => t.seal('defect-found', { ...defect, severity: 'note', about: id }));
    expect(await close('ines')).toMatchObject({ code: 'defect-stops-work' });
    expect(await milder('ines')).toMatchObject({ code: 'manager-makes-milder' });
    const look = { stage: 'boards', checks: ['board-kind'], places: [{ element: 'wall:back' }], answer: 'ok' as const };
    expect(await say('ines', (t) => t.seal('look', look))).toBeNull();
    expect(await close('ines')).toBeNull();
    expect(await milder('maren')).toBeNull();
  });

  it('pinning a later first stage over what was seen', async () => {
    const { say, book } = await shower();
    const look = { stage: 'base', checks: ['bedding'], places: [{ element: 'floor' }], answer: 'ok' as const };
    await say('ines', (t) => t.seal('look', look));
    const pin = (who: Who) =>
      say(who, (t) =>
        t.seal('rules-pinned', {
          ruleBook: book.id,
          version: book.version,
          method: 'bonded-sheet',
          beginsAt: 'membrane',
        }),
      );
    expect(await pin('ines')).toMatchObject({ code: 'manager-pins', message: expect.stringContaining('manager') });
    expect(await pin('maren')).toBeNull();
  });

  it('a role that the session does not have is refused, a lesser one is taken', async () => {
    const { tablet, say } = await shower();
    const as = (who: Who, role: 'manager' | 'inspector') =>
      say(who, () => {
        const text = testTablet(who, tablet.showerId).seal('note', { words: 'x' });
        return text.replace(`"role":"${PEOPLE[who].role}"`, `"role":"${role}"`);
      });
    expect(await as('ines', 'manager')).toMatchObject({
      code: 'role-changed',
      field: 'author.role',
      message: 'This entry was written as manager, and you are inspector now. Write it again.',
    });
    expect(await as('maren', 'inspector')).toBeNull();
  });
});

describe('a clock that runs ahead', () => {
  it('by more than ten minutes is refused with how much, and changes nothing', async () => {
    const { tablet, path } = await shower();
    const ines = await server.as('ines');
    const ahead = (minutes: number) => {
      const text = testTablet('ines', tablet.showerId).seal('note', { words: 'x' });
      const entry = JSON.parse(text) as { orderAt: string; observedAt: string };
      const ms = Date.now() + minutes * 60_000;
      return text
        .replace(entry.orderAt, `${String(ms).padStart(15, '0')}-000000`)
        .replace(entry.observedAt, new Date(ms).toISOString());
    };
    const before = await server.store.getRepository(EntryEntity).countBy({ showerId: tablet.showerId });
    const { body } = await ines.post(path).send(push([ahead(90)]));
    expect(body.refused).toMatchObject({
      code: 'clock-ahead',
      field: 'orderAt',
      values: { minutes: 90 },
      message: expect.stringContaining('90 minutes'),
    });
    expect(await server.store.getRepository(EntryEntity).countBy({ showerId: tablet.showerId })).toBe(before);
    expect((await ines.post(path).send(push([ahead(5)]))).body.refused).toBeNull();
  });
});

describe('mail for an assignment', () => {
  it('goes once: not again with a push repeated, nor after a restore', async () => {
    await server.store.getRepository(UserEntity).update({ id: PEOPLE.pavel.id }, { email: 'pavel@example.org' });
    const { tablet, path } = await shower();
    const ines = await server.as('ines');
    const [found, given] = [v4(), v4()];
    const inesTablet = testTablet('ines', tablet.showerId);
    const texts = [
      inesTablet.seal('defect-found', defect, { id: found }),
      inesTablet.seal('defect-assigned', { defect: found, crewId: 'heron' }, { id: given }),
    ];
    const mails = () => server.store.getRepository(MailEntity).count();
    const before = await mails();
    await ines.post(path).send(push(texts)).expect(200);
    await ines.post(path).send(push(texts)).expect(200);
    expect((await mails()) - before).toBe(1);
    // A restored server knows neither the entry nor the mail; the tablet says that both had been there.
    await lose(server.store, 'id = ANY($1)', [[found, given]]);
    await server.store.query(
      'UPDATE shower_head SET head_seq = 3, head_hash = (SELECT ledger_hash FROM entry WHERE shower_id = $1 AND ledger_seq = 3) WHERE shower_id = $1',
      [tablet.showerId],
    );
    await server.store.query('DELETE FROM mail');
    await ines
      .post(path)
      .send({ ...push(texts), again: [found, given] })
      .expect(200);
    expect(await mails()).toBe(0);
  });
});
