import { execFileSync } from 'node:child_process';
import { canonicalText } from '@careful-seam/core/log/chain';
import { sampleBook } from '@careful-seam/core/tests/sampleBook';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { releaseBody } from '@careful-seam/core/tests/sampleTablet';
import { ShowersFile } from '@careful-seam/files/showersFile';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newestBook } from '../rules/publishBook';
import { RuleBookEntity } from '../store/entities/firm';
import { ShowerEntity } from '../store/entities/showers';
import { created, lose, push, type TestServer, testServer, testTablet } from '../tests/testServer';

let [ours, theirs]: TestServer[] = [];
const tablet = testTablet('ines', v4());
const path = `/api/showers/${tablet.showerId}`;
beforeAll(async () => {
  [ours, theirs] = [await testServer(), await testServer()];
  const { id, version } = sampleBook();
  const texts = [
    tablet.seal('shower-created', created),
    tablet.seal('geometry-set', { version: 1, geometry: sampleShower() }),
    tablet.seal('rules-pinned', { ruleBook: id, version, method: 'bonded-sheet' }),
    tablet.seal('stage-released', releaseBody('base')),
  ];
  const ines = await ours!.as('ines');
  await ines.post(`${path}/entries`).send(push(texts)).expect(200);
});
afterAll(async () => {
  await ours!.close();
  await theirs!.close();
});

const exported = async (server: TestServer): Promise<ShowersFile> => {
  const maren = await server.as('maren');
  return ShowersFile.parse((await maren.get(`${path}/shower.json`).expect(200)).body);
};
const record = async (server: TestServer) =>
  (await (await server.as('maren')).get(`${path}/record.json`).expect(200)).body;

describe('a shower from another firm', () => {
  it('comes in beside a book of the same number: the own one stays the newest, the shower keeps the book it was judged by', async () => {
    // The other firm has a book of its own under the same id and version.
    const books = theirs!.store.getRepository(RuleBookEntity);
    const own = structuredClone(sampleBook());
    own.title = 'Their own book';
    own.methods[0]!.label = 'Their own method';
    await books.update({ id: own.id, version: own.version }, { data: own as object });
    const file = await exported(ours!);
    const maren = await theirs!.as('maren');
    const { body } = await maren.post('/api/showers/import').send(file).expect(200);
    expect(body).toMatchObject({ proved: false, ruleBooks: 1 });
    expect((await newestBook(theirs!.store)).title).toBe('Their own book');
    const row = await theirs!.store.getRepository(ShowerEntity).findOneByOrFail({ id: tablet.showerId });
    expect(row.bookOrigin).not.toBe('');
    const asked = await maren.get(`/api/rule-books/${own.id}/${own.version}?origin=${row.bookOrigin}`).expect(200);
    expect(canonicalText(asked.body.book)).toBe(canonicalText(sampleBook()));
    const again = await maren.post('/api/showers/import').send(file).expect(200);
    expect(again.body).toMatchObject({ ruleBooks: 0, showers: [{ added: 0 }] });
    expect((await exported(theirs!)).ruleBooks[0]!.title).toBe(sampleBook().title);
  });

  it('has its releases and signatures marked as imported, in the ledger, in the record and for the tablets', async () => {
    const { stages } = await record(theirs!);
    expect(stages.find((s: { key: string }) => s.key === 'base')).toMatchObject({ imported: true });
    expect((await record(ours!)).stages.find((s: { key: string }) => s.key === 'base')).toMatchObject({
      imported: false,
    });
    const printed = async (server: TestServer) => {
      const pdf = await (await server.as('maren')).get(`${path}/record.pdf`).buffer(true).expect(200);
      return execFileSync('pdftotext', ['-layout', '-', '-'], { input: pdf.body }).toString();
    };
    expect(await printed(theirs!)).toContain('imported, not proved');
    expect(await printed(ours!)).not.toContain('imported, not proved');
    const ines = await theirs!.as('ines');
    const pulled = (await ines.get(`${path}/entries?after=0`).expect(200)).body.entries as { imported: boolean }[];
    expect(pulled.map((e) => e.imported)).toEqual([true, true, true, true]);
  });
});

describe("the firm's own file", () => {
  it('is known by its signature: taken in again after a loss it stands as proved; a changed one does not', async () => {
    const file = await exported(ours!);
    const maren = await ours!.as('maren');
    const wipe = async () => {
      await lose(ours!.store, 'shower_id = $1', [tablet.showerId]);
      await ours!.store.query('DELETE FROM shower WHERE id = $1', [tablet.showerId]);
    };
    await wipe();
    expect((await maren.post('/api/showers/import').send(file).expect(200)).body.proved).toBe(true);
    expect((await record(ours!)).stages[0].imported).toBe(false);
    await wipe();
    const { firmSignature, ...rest } = file;
    const renamed = { ...rest, job: 'Another job', firmSignature };
    expect((await maren.post('/api/showers/import').send(renamed).expect(200)).body.proved).toBe(false);
    expect((await record(ours!)).stages[0].imported).toBe(true);
  });
});
