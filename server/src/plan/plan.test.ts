import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { CrewPlan, NO_PLAN_SET, WeekAnswer } from '@careful-seam/contract/api/plan';
import { SyncAnswer } from '@careful-seam/contract/api/sync';
import { addDaysTo, dayAt } from '@careful-seam/core/plan/workCalendar';
import { sampleBook } from '@careful-seam/core/tests/sampleBook';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import ical from 'ical.js';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { created, PEOPLE, push, type TestServer, testServer, testTablet } from '../tests/testServer';

let server: TestServer;
const nowMs = Date.now();
/** ISO day so many days from now. */
const inDays = (days: number) => addDaysTo(dayAt('UTC', nowMs), days);
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

type Agent = Awaited<ReturnType<TestServer['as']>>;
const BOOK = sampleBook();

/** A shower with a drawing and rules, of a crew, at a job. */
async function shower(agent: Agent, name: string, job: string, change: Partial<typeof created> = {}) {
  const tablet = testTablet('ines', v4());
  const path = `/api/showers/${tablet.showerId}/entries`;
  await agent
    .post(path)
    .send(
      push([
        tablet.seal('shower-created', { ...created, ...change, name, job }),
        tablet.seal('geometry-set', { version: 1, geometry: sampleShower() }),
        tablet.seal('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' }),
      ]),
    )
    .expect(200);
  return { id: tablet.showerId };
}
const weekFor = async (agent: Agent) => WeekAnswer.parse((await agent.get('/api/plan/week').expect(200)).body);

describe('the week of the firm', () => {
  it('shows each open shower with what is ahead, suggests who looks, and gives looks at once, all or none', async () => {
    const [ines, maren] = [await server.as('ines'), await server.as('maren')];
    const a = await shower(ines, 'A', 'House one');
    const b = await shower(ines, 'B', 'House two');
    const week = await weekFor(maren);
    expect(week.days).toHaveLength(5);
    const mine = week.showers.filter((s) => [a.id, b.id].includes(s.shower));
    expect(mine).toHaveLength(2);
    for (const s of mine) {
      expect(s.steps.some((step) => step.kind === 'work')).toBe(true);
      expect(s.readyMs).toBeGreaterThan(nowMs);
    }
    expect(week.suggested.map((s) => s.shower)).toEqual(expect.arrayContaining([a.id, b.id]));
    // One of them wrong: none is set.
    const looks = week.suggested.map(({ shower: id, inspectorId, visitOn }) => ({ shower: id, inspectorId, visitOn }));
    const wrong = [...looks, { shower: v4(), inspectorId: looks[0]!.inspectorId, visitOn: null }];
    await maren.post('/api/plan/looks').send({ looks: wrong }).expect(404);
    expect((await weekFor(maren)).showers.every((s) => s.inspectorId === null)).toBe(true);
    await maren.post('/api/plan/looks').send({ looks }).expect(200);
    const then = await weekFor(maren);
    expect(then.suggested).toEqual([]);
    expect(then.showers.find((s) => s.shower === a.id)?.inspectorId).not.toBeNull();
    await maren
      .post('/api/plan/looks')
      .send({ looks: [{ shower: a.id, inspectorId: PEOPLE.pavel.id, visitOn: null }] })
      .expect(422);
  });

  it('names a promised day that is squeezed, and goods that are waited for', async () => {
    const [ines, maren] = [await server.as('ines'), await server.as('maren')];
    const { id } = await shower(ines, 'Squeezed', 'House one');
    await maren
      .put(`/api/plan/showers/${id}`)
      .send({ ...NO_PLAN_SET, promisedOn: inDays(1), goods: [{ stage: 'boards', what: 'tile', dueOn: inDays(9) }] })
      .expect(200);
    const found = (await weekFor(maren)).showers.find((s) => s.shower === id)!;
    expect(found.squeeze).toMatchObject({ promisedOn: inDays(1) });
    expect(found.squeeze!.needs).toBeGreaterThan(found.squeeze!.left);
    expect(found.goods).toEqual([{ what: 'tile', dueOn: inDays(9) }]);
    await maren
      .put(`/api/plan/showers/${id}`)
      .send({ ...NO_PLAN_SET, promisedOn: 'soon' })
      .expect(422);
  });

  it('goes round the days that somebody is away, and those of the firm', async () => {
    const [ines, maren] = [await server.as('ines'), await server.as('maren')];
    const { id } = await shower(ines, 'Away', 'House three');
    for (const who of [PEOPLE.ines.id, PEOPLE.tomas.id])
      await maren
        .put(`/api/plan/people/${who}`)
        .send({ days: [inDays(0), inDays(1), inDays(2)] })
        .expect(200);
    const days = (await weekFor(maren)).suggested.filter((s) => s.shower === id).map((s) => s.visitOn);
    for (const day of days) expect([inDays(0), inDays(1), inDays(2)]).not.toContain(day);
    // One's own days off are one's own; somebody else's are a manager's.
    await ines.put(`/api/plan/people/${PEOPLE.ines.id}`).send({ days: [] }).expect(200);
    await ines.put(`/api/plan/people/${PEOPLE.tomas.id}`).send({ days: [] }).expect(403);
    await maren.put(`/api/plan/people/${PEOPLE.tomas.id}`).send({ days: [] }).expect(200);
  });
});

describe('what a crew is told', () => {
  it('is of its own showers alone: when somebody comes, and that a later readiness moves it', async () => {
    const [ines, maren, pavel] = [await server.as('ines'), await server.as('maren'), await server.as('pavel')];
    const own = await shower(ines, 'Own', 'House four', { crewId: 'heron' });
    const other = await shower(ines, 'Other', 'House four', { crewId: 'otter' });
    await maren
      .post('/api/plan/looks')
      .send({ looks: [own, other].map(({ id }) => ({ shower: id, inspectorId: PEOPLE.ines.id, visitOn: null })) })
      .expect(200);
    const lines = async () => CrewPlan.parse((await pavel.get('/api/plan/crew').expect(200)).body).lines;
    expect((await lines()).map((l) => l.shower)).not.toContain(other.id);
    const stage = (await lines()).find((l) => l.shower === own.id)!.stage;
    const crew = testTablet('pavel', own.id, '9');
    const readyAt = new Date(nowMs + 6 * 3_600_000).toISOString();
    await pavel
      .post(`/api/showers/${own.id}/entries`)
      .send(push([crew.seal('look-requested', { stage, readyAt })]))
      .expect(200);
    const told = (await lines()).find((l) => l.shower === own.id)!;
    expect(told.inspector).toBe('Ines');
    expect(told.comesMs).toBeGreaterThanOrEqual(Date.parse(readyAt));
  });
});

describe('the calendar that others subscribe to', () => {
  /** What an independent reader finds. */
  const readIt = (text: string) => {
    const calendar = new ical.Component(ical.parse(text));
    return calendar.getAllSubcomponents('vevent').map((e) => ({
      uid: e.getFirstPropertyValue('uid') as string,
      status: e.getFirstPropertyValue('status') as string,
      sequence: Number(e.getFirstPropertyValue('sequence')),
      startMs: (e.getFirstPropertyValue('dtstart') as ical.Time).toJSDate().getTime(),
      title: e.getFirstPropertyValue('summary') as string,
    }));
  };

  it('keeps the id of a visit, counts it up when it moves, cancels what is not to be any more, and ends with its link', async () => {
    const [ines, maren, stranger] = [await server.as('ines'), await server.as('maren'), await server.as('tomas')];
    const { id } = await shower(ines, 'Fed', 'House five');
    const made = await maren
      .post('/api/links')
      .send({ kind: 'calendar', of: { what: 'job', job: 'House five' }, days: 30 })
      .expect(200);
    const path = made.body.path as string;
    const feed = async () => readIt((await stranger.get(path).buffer(true).expect(200)).text);
    const [first] = await feed();
    expect(first).toMatchObject({ status: 'CONFIRMED', sequence: 0 });
    expect(await feed()).toEqual([first]);
    // Work waits for goods: the look moves with it.
    const stage = first!.uid.split('-').at(-3)!;
    await maren
      .put(`/api/plan/showers/${id}`)
      .send({ ...NO_PLAN_SET, goods: [{ stage, what: 'studs', dueOn: inDays(9) }] })
      .expect(200);
    const [moved] = await feed();
    expect(moved).toMatchObject({ uid: first!.uid, sequence: 1 });
    expect(moved!.startMs).toBeGreaterThan(first!.startMs);
    // Put to another job: what was told is cancelled here.
    await server.store.query(`UPDATE shower SET job = 'House six' WHERE id = $1`, [id]);
    expect(await feed()).toMatchObject([{ uid: first!.uid, status: 'CANCELLED', sequence: 2 }]);
    await maren.delete(`/api/links/${made.body.id}`).expect(200);
    await stranger.get(path).expect(410);
    await stranger.get('/api/calendar/guessed').expect(410);
  });
});

describe('news', () => {
  let http: Server;
  let at: string;
  beforeAll(async () => {
    http = createServer(server.app);
    await new Promise<void>((done) => http.listen(0, '127.0.0.1', done));
    at = `http://127.0.0.1:${(http.address() as AddressInfo).port}`;
  });
  afterAll(() => {
    http.closeAllConnections();
    return new Promise((done) => http.close(done));
  });

  /** Listens as a browser does; gives what it hears from now on. */
  async function listen(cookie: string) {
    const ending = new AbortController();
    const answer = await fetch(`${at}/api/news`, {
      headers: { cookie, accept: 'text/event-stream' },
      signal: ending.signal,
    });
    const heard: string[] = [];
    void (async () => {
      for await (const part of answer.body!) heard.push(Buffer.from(part).toString());
    })().catch(() => undefined);
    return { status: answer.status, heard, end: () => ending.abort() };
  }
  const until = async (isSo: () => boolean) => {
    for (let tries = 0; tries < 100 && !isSo(); tries += 1) await new Promise((r) => setTimeout(r, 50));
    return isSo();
  };

  it('are told to whoever is signed in as soon as something is written, and silence costs nothing', async () => {
    const ines = await server.as('ines');
    const { headers } = await ines.post('/api/session').send({ signIn: 'ines', password: 'correct horse' }).expect(200);
    const cookie = String(headers['set-cookie']).split(';')[0]!;
    const one = await listen(cookie);
    const two = await listen(cookie);
    expect(await until(() => one.heard.length > 0 && two.heard.length > 0)).toBe(true);
    await new Promise((r) => setTimeout(r, 300));
    const news = (l: typeof one) => l.heard.join('').split('event: news').length - 1;
    const before = news(one);
    await shower(ines, 'News', 'House seven');
    expect(await until(() => news(one) > before && news(two) > 0)).toBe(true);
    one.end();
    two.end();
    expect((await listen('careful_seam=none')).status).toBe(401);
  });
});

describe('the plan on a tablet', () => {
  it('comes with the words of the firm, and anew when somebody changed it', async () => {
    const [ines, maren] = [await server.as('ines'), await server.as('maren')];
    const ask = async (firm: string | null) =>
      SyncAnswer.parse((await ines.post('/api/sync').send({ since: null, firm }).expect(200)).body);
    const first = await ask(null);
    expect((await ask(first.mark)).firm).toBeNull();
    await maren
      .put(`/api/plan/jobs/${encodeURIComponent('House one')}`)
      .send({ place: { latitude: 40, longitude: -88 }, minutes: {} })
      .expect(200);
    const then = await ask(first.mark);
    expect(then.firm?.plan.jobs['House one']?.place).toEqual({ latitude: 40, longitude: -88 });
    await maren.put('/api/plan/jobs/Nowhere').send({ place: null, minutes: {} }).expect(404);
    const settings = then.firm!.plan.settings;
    await maren
      .put('/api/plan/settings')
      .send({ ...settings, toHour: settings.fromHour })
      .expect(422);
  });
});
