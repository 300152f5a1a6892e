import { FIRST_SETTINGS } from '@careful-seam/contract/api/firm';
import { sha256Hex } from '@careful-seam/core/log/chain';
import { sampleBook } from '@careful-seam/core/tests/sampleBook';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { ShowersFile } from '@careful-seam/files/showersFile';
import { Validator } from '@seriousme/openapi-schema-validator';
import ical from 'ical.js';
import sharp from 'sharp';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { created, push, type TestServer, testServer, testTablet } from '../tests/testServer';
import { verifyLedger } from '../verify/verifyLedger';

let server: TestServer;
let other: TestServer;
const showerId = v4();
const startedAt = new Date(Date.now() - 25 * 3_600_000).toISOString();

beforeAll(async () => {
  server = await testServer();
  other = await testServer();
  const ines = await server.as('ines');
  const tablet = testTablet('ines', showerId);
  const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#888' } })
    .jpeg()
    .toBuffer();
  const hash = sha256Hex(picture);
  await ines.put(`/api/photos/${hash}`).set('content-type', 'image/jpeg').send(picture).expect(200);
  const series = { startAt: startedAt, minutes: [0, 60, 120], levelMm: [76.2, 76.1, 76], file: '=cmd.csv' };
  const texts = [
    tablet.seal('shower-created', { ...created, name: '=HYPERLINK("x")', job: 'Job one' }),
    tablet.seal('geometry-set', { version: 1, geometry: sampleShower({}) }),
    tablet.seal('rules-pinned', {
      ruleBook: 'firm-rule-book',
      version: sampleBook().version,
      method: 'bonded-sheet',
    }),
    tablet.seal('photo', { photo: { hash, widthPx: 40, heightPx: 30, marks: [] } }),
    tablet.seal('reading', {
      stage: 'base',
      check: 'base-fall',
      place: { element: 'floor' },
      atMm: 0,
      valueMm: 15,
      typed: '15 mm',
      instrument: 'level',
    }),
    tablet.seal('flood-started', { waterLineMm: 76.2, plannedHours: 24, method: 'logger', startedAt }),
    tablet.seal('flood-reading', { levelMm: 76, instrument: 'logger', of: 'water', resolutionMm: 0.1, series }),
  ];
  const answer = await ines.post(`/api/showers/${showerId}/entries`).send(push(texts)).expect(200);
  expect(answer.body.refused).toBeNull();
});
afterAll(async () => {
  await server.close();
  await other.close();
});

describe('files out', () => {
  it('the map alone on one sheet laid across; none before there are dimensions', async () => {
    const ines = await server.as('ines');
    const sheet = await ines.get(`/api/showers/${showerId}/map.pdf`).expect(200).expect('content-type', /pdf/);
    const text = Buffer.from(sheet.body).toString('latin1');
    expect(text.startsWith('%PDF')).toBe(true);
    expect(text.match(/\/Type \/Page\b/g)).toHaveLength(1);
    expect(text).toContain('/MediaBox [0 0 792 612]');
    // On the firm's own paper, once it has one.
    const maren = await server.as('maren');
    await maren
      .put('/api/firm/settings')
      .send({ ...FIRST_SETTINGS, paper: 'a4' })
      .expect(200);
    const a4 = await ines.get(`/api/showers/${showerId}/map.pdf`).expect(200);
    expect(Buffer.from(a4.body).toString('latin1')).toContain('/MediaBox [0 0 841.89 595.28]');
    const bare = v4();
    await ines
      .post(`/api/showers/${bare}/entries`)
      .send(push([testTablet('ines', bare).seal('shower-created', created)]));
    const none = await ines.get(`/api/showers/${bare}/map.pdf`).expect(404);
    expect(none.body.error.message).toContain('no dimensions yet');
  });
  it('readings as CSV: every level of the logger, and nothing that a spreadsheet would run', async () => {
    const ines = await server.as('ines');
    const { text, headers } = await ines.get(`/api/showers/${showerId}/readings.csv`).expect(200);
    expect(headers['content-type']).toContain('text/csv');
    const lines = text.trim().split('\n');
    expect(lines).toHaveLength(1 + 1 + 3);
    expect(lines[1]).toContain('Drop under a 24 in level towards the drain');
    for (const line of lines.slice(1)) expect(line.replaceAll('"', '')).toMatch(/^'=HYPERLINK/);
    expect(lines[2]).toContain("'=cmd.csv");
  });

  it('a calendar with the times at which the running flood must be read', async () => {
    const ines = await server.as('ines');
    const { text } = await ines.get(`/api/showers/${showerId}/flood.ics`).expect(200);
    const events = new ical.Component(ical.parse(text)).getAllSubcomponents('vevent').map((e) => new ical.Event(e));
    const planned = Math.floor((Date.parse(startedAt) + 24 * 3_600_000) / 60_000) * 60_000;
    expect(events.map((e) => e.startDate.toJSDate().getTime())).toContain(planned);
    const pavel = await server.as('lucia');
    await pavel.get(`/api/showers/${showerId}/flood.ics`).expect(403);
  });

  it('the description of the API is valid OpenAPI 3.1 and names every route', async () => {
    const ines = await server.as('ines');
    const { body } = await ines.get('/api/openapi.json').expect(200);
    const checked = await new Validator().validate(structuredClone(body));
    expect(checked.errors ?? []).toEqual([]);
    expect(checked.valid).toBe(true);
    expect(Object.keys(body.paths)).toContain('/api/showers/{id}/entries');
    const takes = body.paths['/api/session'].post.requestBody.content['application/json'].schema;
    expect(takes.required).toEqual(['signIn', 'password']);
    const operations = Object.values(body.paths).flatMap((path) => Object.values(path as object)) as {
      operationId: string;
    }[];
    expect(new Set(operations.map((o) => o.operationId)).size).toBe(operations.length);
    expect(body.components.schemas.Refusal).toBeDefined();
    const search = body.paths['/api/showers/search'].get.parameters as { name: string; in: string }[];
    expect(search.map(({ name, in: where }) => `${where} ${name}`)).toEqual(['query q']);
  });
});

describe('showers as a file', () => {
  const fetchFile = async (path: string): Promise<ShowersFile> => {
    const maren = await server.as('maren');
    return ShowersFile.parse((await maren.get(path).expect(200)).body);
  };

  it('go out and come in with ids, chains and pictures; twice changes nothing; every hash still fits', async () => {
    const file = await fetchFile('/api/jobs/Job%20one/showers.json');
    expect(file.pictures).toHaveLength(1);
    const maren = await other.as('maren');
    const first = await maren.post('/api/showers/import').send(file).expect(200);
    expect(first.body).toMatchObject({ showers: [{ id: showerId, added: 7, known: 0 }], pictures: 1 });
    const second = await maren.post('/api/showers/import').send(file).expect(200);
    expect(second.body).toMatchObject({ showers: [{ added: 0, known: 7 }], pictures: 0 });
    const again = (await maren.get(`/api/showers/${showerId}/shower.json`).expect(200)).body as ShowersFile;
    expect(again.showers[0]!.entries).toEqual(file.showers[0]!.entries);
    expect((await verifyLedger(other.store, other.picturePlace)).findings).toEqual([]);
  });

  it('are refused whole when one entry was changed, or an id is taken by another entry', async () => {
    const file = await fetchFile(`/api/showers/${showerId}/shower.json`);
    const third = await testServer();
    try {
      const maren = await third.as('maren');
      const changed = structuredClone(file);
      changed.showers[0]!.entries[4]!.text = changed.showers[0]!.entries[4]!.text.replace('15 mm', '16 mm');
      const refused = await maren.post('/api/showers/import').send(changed).expect(422);
      expect(refused.body.error.field).toBe('showers.0.entries.4');
      expect((await maren.get('/api/showers')).body.showers).toEqual([]);
      await maren.post('/api/showers/import').send(file).expect(200);
      const forged = structuredClone(file);
      const text = forged.showers[0]!.entries[6]!.text.replace('"levelMm":76,', '"levelMm":75,');
      forged.showers[0]!.entries[6] = { text, hash: sha256Hex(text) };
      const taken = await maren.post('/api/showers/import').send(forged).expect(409);
      expect(taken.body.error.code).toBe('file-id-taken');
      const ines = await third.as('ines');
      await ines.post('/api/showers/import').send(file).expect(403);
    } finally {
      await third.close();
    }
  });
});
