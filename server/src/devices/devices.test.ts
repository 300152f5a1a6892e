import { DeviceList, DeviceReadings } from '@careful-seam/contract/api/devices';
import { leakHeight } from '@careful-seam/core/water/leakHeight';
import { levelPack, levelReadings } from '@careful-seam/instruments/levelDevice';
import supertest from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestServer, testServer } from '../tests/testServer';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

/** An instrument with a code of its own, as the office makes one. */
async function instrument(label: string) {
  const maren = await server.as('maren');
  const made = await maren.post('/api/links').send({ kind: 'device', label, days: 365 }).expect(200);
  const { path } = made.body;
  const send = (text: string) =>
    supertest(server.app).post(path).set('x-careful-seam', '1').set('content-type', 'application/json').send(text);
  return { maren, id: made.body.id as string, send };
}
const HOURS = 40;
const rows = levelReadings({
  ...{ seed: 11, hours: HOURS, everyMinutes: 10, startMm: 76.2, holeMm: 31, leaks: 0.35 },
  ...{ evaporationMmPerHour: 0.09, scatterMm: 0.1, resolutionMm: 0.1 },
});
const startMs = Date.now() - HOURS * 3_600_000;

describe('an instrument that sends by itself', () => {
  it('is stored while no browser is open; what comes twice, late or out of order is stored once and read in its order', async () => {
    const { id, send, maren } = await instrument('Logger one');
    const packs = Array.from({ length: Math.ceil(rows.length / 30) }, (_, k) => rows.slice(k * 30, k * 30 + 30));
    const shuffled = [...packs].reverse();
    let stored = 0;
    for (const pack of [...shuffled, ...packs.slice(0, 3)])
      stored += (await send(levelPack(pack, startMs)).expect(200)).body.stored;
    expect(stored).toBe(rows.length * 3);
    const told = DeviceReadings.parse((await maren.get(`/api/devices/${id}/readings?of=level`).expect(200)).body);
    expect(told.readings).toHaveLength(rows.length);
    expect(told.readings.map((r) => r.atMs)).toEqual([...told.readings.map((r) => r.atMs)].sort((a, b) => a - b));
    // From where a tablet asked last, nothing twice.
    const from = told.readings[100]!.atMs;
    const rest = DeviceReadings.parse((await maren.get(`/api/devices/${id}/readings?of=level&after=${from}`)).body);
    expect(rest.readings).toEqual(told.readings.slice(101));
    // The height of the hole comes out of what was stored.
    const height = leakHeight({
      readings: told.readings.map((r) => ({ atHours: (r.atMs - startMs) / 3_600_000, levelMm: r.value })),
      resolutionMm: 0.1,
      evaporationMmPerHour: 0.09,
    });
    expect(height.ok && Math.abs(height.value.heightMm - 31)).toBeLessThan(2);
    const { devices } = DeviceList.parse((await maren.get('/api/devices').expect(200)).body);
    expect(devices.find((d) => d.id === id)).toMatchObject({
      label: 'Logger one',
      quantities: ['battery', 'level', 'pan'],
    });
  });

  it('ends with its code at once; a guessed code, a crew and nobody get nothing', async () => {
    const { id, send, maren } = await instrument('Logger two');
    await send(levelPack(rows.slice(0, 3), startMs)).expect(200);
    await supertest(server.app)
      .post('/api/device/guessed/readings')
      .set('x-careful-seam', '1')
      .send([])
      .expect((res) => expect(res.body.error?.code ?? 'none').not.toBe('unforeseen'));
    await maren.delete(`/api/links/${id}`).expect(200);
    const refused = await send(levelPack(rows.slice(3, 6), startMs));
    expect(refused.body.error.code).toBe('link-ended');
    const crew = await server.as('pavel');
    await crew.get('/api/devices').expect(403);
    await crew.get(`/api/devices/${id}/readings?of=level`).expect(403);
    await supertest(server.app).get('/api/devices').expect(401);
    // What it had sent stays, for whoever inspects.
    const told = DeviceReadings.parse((await maren.get(`/api/devices/${id}/readings?of=level`).expect(200)).body);
    expect(told.readings).toHaveLength(3);
  });

  it('what is no pack, too long or says nothing known is told, and nothing of it is stored', async () => {
    const { id, send, maren } = await instrument('Logger three');
    expect((await send('{"no":"pack"}')).status).toBe(422);
    expect((await send('[{"n":"level","u":"m","v":"high"}]')).status).toBe(422);
    const long = JSON.stringify(Array.from({ length: 5001 }, (_, k) => ({ n: 'level', u: 'm', t: -k, v: 0.1 })));
    expect((await send(long)).body.error.code).toBe('too-large');
    expect((await send('[{"n":"loudness","u":"dBW","v":3}]').expect(200)).body).toEqual({
      ...{ stored: 0, known: 0, left: 1, shiftedMs: 0 },
    });
    const told = DeviceReadings.parse((await maren.get(`/api/devices/${id}/readings?of=level`)).body);
    expect(told.readings).toEqual([]);
    expect((await maren.get(`/api/devices/${id}/readings?of=colour`)).status).toBe(422);
  });
});
