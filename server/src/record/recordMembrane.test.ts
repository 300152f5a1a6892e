import { ShowerRecord } from '@careful-seam/contract/record/record';
import { defaultRuleBook } from '@careful-seam/core/rules/defaultRuleBook';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { RuleBookEntity } from '../store/entities/firm';
import { created, push, type TestServer, testServer, testTablet } from '../tests/testServer';

let server: TestServer;
const showerId = v4();
const laid = new Date(Date.now() - 30 * 3_600_000);
const at = (hours: number) => new Date(laid.getTime() + hours * 3_600_000).toISOString();

beforeAll(async () => {
  server = await testServer();
  const book = defaultRuleBook();
  await server.store.getRepository(RuleBookEntity).insert({ id: book.id, version: book.version, data: book as object });
  const ines = await server.as('ines');
  const tablet = testTablet('ines', showerId);
  const whole = { element: 'shower' };
  const film = {
    stage: 'membrane',
    check: 'film',
    place: whole,
    atMm: 0,
    valueMm: 1,
    typed: '1',
    instrument: 'bucket',
  };
  const coat = (coat: number, hours: number) => ({
    of: 'coat' as const,
    zones: ['walls' as const, 'floor' as const],
    coat,
    volumeL: 8,
    waterL: 0,
    doneAt: at(hours),
  });
  const minutes = Array.from({ length: 25 }, (_, k) => k * 60);
  const texts = [
    tablet.seal('shower-created', created),
    tablet.seal('geometry-set', { version: 1, geometry: sampleShower({}) }),
    tablet.seal('rules-pinned', {
      ruleBook: book.id,
      version: book.version,
      method: 'liquid',
      beginsAt: 'membrane',
    }),
    tablet.seal('reading', { ...film, film: coat(1, 0) }),
    tablet.seal('reading', { ...film, film: coat(2, 5) }),
    tablet.seal('look', { stage: 'drain-tie-in', checks: ['collar-bedded'], places: [whole], answer: 'ok' }),
    tablet.seal('redo', { stage: 'drain-tie-in', places: [whole], reason: 'collar set' }),
    tablet.seal('climate-reading', {
      airC: 9,
      relativeHumidity: 0.8,
      readAt: at(24),
      series: {
        startAt: at(0),
        minutes,
        airC: minutes.map(() => 9),
        relativeHumidity: minutes.map(() => 0.8),
        file: 'night.csv',
      },
    }),
    tablet.seal('look', {
      stage: 'membrane',
      checks: ['materials-used'],
      places: [whole],
      answer: 'defect',
      reason: 'far less',
      used: { fabric: 3000 },
    }),
  ];
  const answer = await ines.post(`/api/showers/${showerId}/entries`).send(push(texts)).expect(200);
  expect(answer.body.refused).toBeNull();
});
afterAll(() => server.close());

describe('a record of a coated shower', () => {
  it('holds its films by zone, its waits in the air there was, and what was used', async () => {
    const ines = await server.as('ines');
    const { body } = await ines.get(`/api/showers/${showerId}/record.json`).expect(200);
    const record = ShowerRecord.parse(body);
    expect(record.films.map((f) => [f.zone, f.coats])).toEqual([
      ['floor', 2],
      ['walls', 2],
    ]);
    expect(record.films[0]).toMatchObject({ verdict: 'fail', dryLeastUm: null });
    expect(record.air).toMatchObject({ readings: 25, coldestC: 9, warmestC: 9, from: at(0), to: at(24) });
    const cure = record.cures.find((c) => c.check === 'membrane-cure')!;
    expect(cure).toMatchObject({ cures: 'drying', decides: 'damp', airRead: true, labelHours: 12 });
    expect(Date.parse(cure.readyAt!)).toBeGreaterThan(Date.parse(cure.laidAt) + 24 * 3_600_000);
    expect(record.materials).toEqual([
      { item: 'Fabric at changes of plane', unit: 'mm', net: expect.any(Number), used: 3000 },
    ]);
  });
  it('of rules that the server does not know is still printed', async () => {
    const ines = await server.as('ines');
    const other = v4();
    const own = testTablet('ines', other);
    const texts = [
      own.seal('shower-created', created),
      own.seal('geometry-set', { version: 1, geometry: sampleShower({}) }),
      own.seal('rules-pinned', { ruleBook: 'gone', version: 1, method: 'liquid' }),
      own.seal('look', { stage: 'base', checks: ['bedding'], places: [{ element: 'floor' }], answer: 'defect' }),
    ];
    await ines.post(`/api/showers/${other}/entries`).send(push(texts)).expect(200);
    await ines.get(`/api/showers/${other}/record.pdf`).expect(200);
  });
  it('prints them', async () => {
    const ines = await server.as('ines');
    const pdf = await ines.get(`/api/showers/${showerId}/record.pdf`).expect(200);
    expect((pdf.body as Buffer).subarray(0, 4).toString()).toBe('%PDF');
  });
  it('refuses a film of a zone that there is none of, and air that no site has', async () => {
    const ines = await server.as('ines');
    const tablet = testTablet('ines', v4());
    const bad = tablet.seal('climate-reading', { airC: 92, relativeHumidity: 0.5 } as never);
    const answer = await ines
      .post(`/api/showers/${v4()}/entries`)
      .send(push([bad]))
      .expect(200);
    expect(answer.body.refused).toMatchObject({ field: expect.stringContaining('airC') });
  });
});
