import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestServer, testServer } from '../tests/testServer';
import { runSum } from './runSum';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

/** A plan read so often that its readings would fill any memory: every bound of its schema is kept. */
const endless = {
  method: 'logger',
  plannedHours: 1000,
  resolutionMm: 0.1,
  everyMinutes: 0.0001,
  panResolutionMm: 0.1,
  climate: null,
  smallestLeakMmPerDay: 1,
};

describe('a sum', () => {
  it('is worked out in a process of its own, and gives what the registry gives', async () => {
    expect(await runSum('length-parse', { text: '2 1/4' })).toEqual({
      ok: true,
      value: expect.objectContaining({ mm: 57.15 }),
    });
    expect(await runSum('lap-leg', { bandWidthMm: -1, lossMm: 0, offCentreMm: 0 })).toMatchObject({
      ok: false,
      problem: { field: 'bandWidthMm' },
    });
  });
  it('that takes too long or too much is stopped with a sentence; the server answers meanwhile, and the next sum is sound', async () => {
    const heavy = runSum('flood-plan', endless, 1500).catch((error: unknown) => error);
    const ines = await server.as('ines');
    await ines.get('/api/session').expect(200);
    expect(await heavy).toMatchObject({ code: 'sum-too-heavy', field: 'input' });
    expect(await runSum('length-parse', { text: '1' })).toMatchObject({ ok: true });
  });
  it('that fills its memory within a moment takes nothing with it, however often', async () => {
    const many = await Promise.all(
      Array.from({ length: 3 }, () =>
        runSum('flood-plan', endless, 2000).catch((error: { code?: string }) => error.code),
      ),
    );
    expect(many).toEqual(Array(3).fill('sum-too-heavy'));
    expect(await runSum('length-parse', { text: '1' })).toMatchObject({ ok: true });
  }, 90_000);
  it('one request of a hundred bytes stops nobody', async () => {
    const ines = await server.as('ines');
    const { status, body } = await ines.post('/api/calc/flood-plan').send(endless);
    expect([status, body.error.code]).toEqual([422, 'sum-too-heavy']);
    await ines.get('/ready').expect(200);
  });
  it('is for who inspects and who manages, not for a crew or its link', async () => {
    for (const who of ['ines', 'maren'] as const)
      await (await server.as(who)).post('/api/calc/length-parse').send({ text: '1' }).expect(200);
    const { body, status } = await (await server.as('pavel')).post('/api/calc/length-parse').send({ text: '1' });
    expect([status, body.error.code]).toEqual([403, 'role-may-not']);
  });
});
