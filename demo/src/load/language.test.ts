import { execFileSync } from 'node:child_process';
import { readSettings, writeSettings } from '@careful-seam/server/firm/settings';
import { makeLink } from '@careful-seam/server/people/links';
import { MailEntity } from '@careful-seam/server/store/entities/mail';
import { UserEntity } from '@careful-seam/server/store/entities/people';
import { ShowerEntity } from '@careful-seam/server/store/entities/showers';
import { type TestServer, testServer } from '@careful-seam/server/tests/testServer';
import { ERRORS, sentenceOf } from '@careful-seam/words/errors/errors';
import { englishIn, englishPhrases } from '@careful-seam/words/tests/englishWords';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PEOPLE as DEMO_PEOPLE } from '../firm';
import { loadDemoFirm } from './loadDemoFirm';

let server: TestServer;
let showers: { id: string; name: string }[];
const PHRASES = englishPhrases();
beforeAll(async () => {
  server = await testServer();
  const users = await server.store.getRepository(UserEntity).find();
  await server.store.getRepository(UserEntity).clear();
  await loadDemoFirm({ ...server, now: () => new Date() });
  await server.store.getRepository(UserEntity).delete(DEMO_PEOPLE.map((p) => p.id));
  await server.store.getRepository(UserEntity).insert(users);
  showers = await server.store.getRepository(ShowerEntity).find({ order: { name: 'ASC' } });
});
afterAll(() => server.close());

/** A paper of a shower as text. */
async function paper(id: string, path: string): Promise<string> {
  const ines = await server.as('ines');
  const { status, body, text } = await ines.get(`/api/showers/${id}/${path}`).buffer(true);
  if (status === 404) return '';
  return Buffer.isBuffer(body)
    ? execFileSync('pdftotext', ['-layout', '-', '-'], { input: body }).toString()
    : text.replaceAll('\r\n ', '');
}

/** What people typed, and what no language changes. */
const own = (text: string) => text.replaceAll(/"[^"]*"/g, '""');

describe('in Spanish', () => {
  it.each(['record.pdf', 'map.pdf', 'marks.pdf', 'readings.csv', 'flood.ics'])(
    'no English phrase stands in %s of any shower of the demo',
    async (what) => {
      const found = new Map<string, string>();
      let read = 0;
      // Each stage and each method is among every third of them; water stands in a few.
      const some = what === 'flood.ics' ? showers : showers.filter((_, i) => i % 3 === 0);
      for (const { id, name } of some) {
        const text = await paper(id, `${what}?lang=es`);
        read += text.length;
        for (const phrase of englishIn(own(text), PHRASES)) found.set(phrase, name);
      }
      expect(read).toBeGreaterThan(200);
      expect([...found]).toEqual([]);
    },
    120_000,
  );
  it('the same papers in English do hold them: the test can fail', async () => {
    const text = await paper(showers[0]!.id, 'record.pdf?lang=en');
    expect(englishIn(text, PHRASES).length).toBeGreaterThan(20);
  });
  it('mail is written in the language of who reads it, else in the firm’s', async () => {
    const { store } = server;
    const settings = await readSettings(store);
    const person = (await store.getRepository(UserEntity).find())[0]!;
    await store.getRepository(UserEntity).update({ id: person.id }, { email: 'a@example.org' });
    let made = 1;
    const subject = async () => {
      await makeLink(
        store,
        { kind: 'password', userId: person.id },
        { by: person.id, now: new Date(Date.now() + made++), origin: 'http://x' },
      );
      const [mail] = await store.getRepository(MailEntity).find({ order: { madeAt: 'DESC' }, take: 1 });
      return mail!.subject;
    };
    expect(await subject()).toContain('Set your password');
    await writeSettings(store, { ...settings, language: 'es' });
    expect(await subject()).toContain('contraseña');
    await writeSettings(store, settings);
    const ines = await server.as('ines');
    await ines.put('/api/session/language').send({ language: 'es' }).expect(200);
    const { body } = await ines.get('/api/session').expect(200);
    expect(await store.getRepository(UserEntity).findOneBy({ id: body.person.id })).toMatchObject({ language: 'es' });
    await store.getRepository(UserEntity).update({ id: person.id }, { language: 'es' });
    expect(await subject()).toContain('contraseña');
  });
  it('refusals are told in the language asked for, by address or by the browser', async () => {
    const ines = await server.as('ines');
    const path = `/api/showers/${v4()}/record.pdf`;
    const said = async (ask: string, header = 'en') =>
      (await ines.get(`${path}${ask}`).set('accept-language', header)).body.error;
    expect(await said('')).toMatchObject({ code: 'no-such-shower', message: 'There is no such shower.' });
    expect((await said('', 'es-MX,es;q=0.9')).message).toBe('No hay tal ducha.');
    expect((await said('?lang=es')).message).toBe('No hay tal ducha.');
    expect((await said('?lang=en', 'es')).message).toBe('There is no such shower.');
    expect((await said('', 'fr')).message).toBe('There is no such shower.');
  });
  it('no code has an English sentence', () => {
    const values = new Proxy({}, { get: () => '1' });
    const english = Object.keys(ERRORS).filter(
      (code) => englishIn(sentenceOf({ code, values }, 'es'), PHRASES).length > 0,
    );
    expect(english).toEqual([]);
  });
});
