import { FACTS_VERSION } from '@careful-seam/core/crews/facts';
import type { Body, EntryKind } from '@careful-seam/core/log/bodies';
import { modelOf } from '@careful-seam/core/proof/fold/rememberedDrawings';
import { sampleBook } from '@careful-seam/core/tests/sampleBook';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import fc from 'fast-check';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { appendEntries } from '../ledger/appendEntries';
import { created, PEOPLE, push, type TestServer, testServer, testTablet } from '../tests/testServer';
import { countBehind } from './behind';
import { COUNTED_TABLES } from './factRows';
import { dayIn, followLedgers, followToTheEnd, forgetFacts } from './projector';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

/** Histories that are followed and then counted anew; `npm run calibrate` asks for 500. */
const HISTORIES = Number(process.env.FACT_HISTORIES ?? 25);

const BOOK = sampleBook();
const model = modelOf(sampleShower({}));
if (!model.ok) throw new Error('the sample shower can be built');
const { seams } = model.value;

/** What somebody does to a shower, with what chance chose. */
const Action = fc.record({
  what: fc.constantFrom(
    'look',
    'look',
    'reading',
    'defect',
    'answer',
    'close',
    'redo',
    'withdraw',
    'edit',
    'work',
    'wait',
  ),
  seam: fc.nat(seams.length - 1),
  from: fc.nat(900),
  long: fc.integer({ min: 10, max: 900 }),
  which: fc.nat(),
  bad: fc.boolean(),
});
type Action = typeof Action extends fc.Arbitrary<infer T> ? T : never;

/** Sealed entries of a history, in the order in which they were written. */
function historyOf(showerId: string, actions: readonly Action[]): string[] {
  const tablet = testTablet('maren', showerId);
  const texts: string[] = [];
  const ids: { id: string; kind: EntryKind }[] = [];
  const write = <K extends EntryKind>(kind: K, body: Body<K>): void => {
    const id = v4();
    texts.push(tablet.seal(kind, body, { id }));
    ids.push({ id, kind });
  };
  const some = (kinds: readonly EntryKind[], which: number) => {
    const list = ids.filter((x) => kinds.includes(x.kind));
    return list.length === 0 ? null : list[which % list.length]!.id;
  };
  write('shower-created', { ...created, timeZone: 'America/Chicago' });
  write('geometry-set', { version: 1, geometry: sampleShower({}) });
  write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' });
  let version = 1;
  for (const a of actions) {
    const seam = seams[a.seam]!;
    const fromMm = Math.min(a.from, seam.lengthMm - 5);
    const place = { element: seam.id, fromMm, toMm: Math.min(seam.lengthMm, fromMm + a.long) };
    const defect = some(['defect-found', 'reading', 'look'], a.which);
    const why = { family: a.bad ? 'workmanship' : 'unknown', confidence: 'suspected' as const };
    if (a.what === 'look')
      write('look', { stage: 'membrane', checks: ['lap-flat'], places: [place], answer: a.bad ? 'defect' : 'ok' });
    if (a.what === 'reading')
      write('reading', {
        stage: 'membrane',
        check: 'lap',
        place: { element: seam.id, side: seam.faces[0]! },
        atMm: fromMm,
        valueMm: a.bad ? 30 : 60,
        typed: '1',
        instrument: 'tape',
      });
    if (a.what === 'defect')
      write('defect-found', {
        stage: 'membrane',
        place,
        kind: a.bad ? 'wrinkle' : 'short-lap',
        severity: a.bad ? 'fix' : 'note',
        words: '',
        photos: [],
        ...(a.bad ? { cause: why, madeBy: { of: 'trade' as const, trade: 'plumber' } } : {}),
      });
    if (a.what === 'answer' && defect) write('defect-answered', { defect, words: 'done', photos: [], cause: why });
    if (a.what === 'close' && defect)
      write('defect-closed', {
        defect,
        cause: why,
        escape: { family: 'unknown' },
        cost: { hours: a.long / 100, materials: a.from },
      });
    if (a.what === 'redo') write('redo', { stage: 'membrane', places: [place], reason: 'again' });
    if (a.what === 'work')
      write('work-done', { stage: 'membrane', crewId: a.bad ? 'heron' : 'otter', who: 'They', day: '2026-05-01' });
    const target = some(['look', 'reading', 'defect-found', 'redo', 'work-done'], a.which);
    if (a.what === 'withdraw' && target) write('correction', { target, action: 'withdraw' });
    if (a.what === 'edit') {
      version += 1;
      write('geometry-set', { version, geometry: sampleShower(a.bad ? { widthMm: 1500 + a.long } : {}) });
    }
  }
  return texts;
}

const TABLES = ['defect_fact', 'inspected_fact', 'pass_fact', 'minutes_fact'];
/** All that is counted, whatever the order of the rows. */
async function counted(): Promise<Record<string, string[]>> {
  const out: Record<string, string[]> = {};
  for (const table of TABLES) {
    const rows: { row: string }[] = await server.store.query(`SELECT to_jsonb(t)::text AS row FROM ${table} t`);
    out[table] = rows.map((r) => r.row).sort();
  }
  const queue: { row: string }[] = await server.store.query('SELECT to_jsonb(t)::text AS row FROM shower_queue t');
  return { ...out, queue: queue.map((r) => r.row).sort() };
}

const append = async (showerId: string, texts: readonly string[]) => {
  const answer = await appendEntries(server.store, showerId, texts, {
    person: PEOPLE.maren,
    now: new Date(),
    skewMs: 0,
  });
  if (answer.refused) throw new Error(`${answer.refused.field}: ${answer.refused.code}`);
};
const follow = async () => {
  while ((await followLedgers(server.store, Date.now() + 20_000)) > 0);
};

describe('what is counted across showers', () => {
  it('is the same counted anew as followed, after any history', async () => {
    const histories = fc.sample(fc.array(Action, { minLength: 1, maxLength: 30 }), HISTORIES);
    for (const actions of histories) {
      const showerId = v4();
      const texts = historyOf(showerId, actions);
      const cuts = [texts.length >> 1, texts.length - 1, texts.length];
      let at = 0;
      for (const cut of cuts) {
        await append(showerId, texts.slice(at, cut));
        at = cut;
        await follow();
      }
    }
    const followed = await counted();
    expect(await countBehind(server.store)).toBe(0);
    expect(followed.defect_fact!.length).toBeGreaterThan(HISTORIES);
    expect(followed.inspected_fact!.length).toBeGreaterThan(HISTORIES / 2);
    const shown: number[] = [];
    await forgetFacts(server.store);
    expect(await followToTheEnd(server.store, (done) => shown.push(done))).toBeGreaterThanOrEqual(HISTORIES);
    expect(shown.length).toBeGreaterThan(0);
    expect(await counted()).toEqual(followed);
  }, 600_000);

  it('is soon what was told: an answer of the crew, a closing, a correction', async () => {
    const maren = await server.as('maren');
    const tablet = testTablet('maren', v4());
    const path = `/api/showers/${tablet.showerId}/entries`;
    const id = v4();
    const send = (...texts: string[]) => maren.post(path).send(push(texts)).expect(200);
    await send(
      tablet.seal('shower-created', created),
      tablet.seal('geometry-set', { version: 1, geometry: sampleShower({}) }),
      tablet.seal('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' }),
      tablet.seal(
        'defect-found',
        {
          stage: 'membrane',
          place: { element: seams[0]!.id },
          kind: 'wrinkle',
          severity: 'fix',
          words: 'x',
          photos: [],
        },
        { id },
      ),
    );
    await follow();
    const fact = async () => (await server.store.query('SELECT * FROM defect_fact WHERE id = $1', [id]))[0];
    expect(await fact()).toMatchObject({
      kind: 'wrinkle',
      step: 'found',
      crew: 'heron',
      cause: '',
      method: 'bonded-sheet',
    });
    await send(
      tablet.seal('defect-closed', {
        defect: id,
        cause: { family: 'tool', confidence: 'shown-by-test' },
        escape: { family: 'not-done' },
        cost: { hours: 2, materials: 30 },
      }),
    );
    await follow();
    expect(await fact()).toMatchObject({ step: 'closed', cause: 'tool', escape: 'not-done', hours: 2, materials: 30 });
    await send(tablet.seal('correction', { target: id, action: 'withdraw' }));
    await follow();
    expect(await fact()).toBeUndefined();
  });

  it('is shared by two servers: each shower is counted once, by one of them', async () => {
    await server.store.query('TRUNCATE projection, projection_place');
    const [{ n }] = await server.store.query('SELECT count(*)::int AS n FROM shower_head WHERE head_seq > 0');
    const before = await counted();
    await server.store.query(`TRUNCATE ${COUNTED_TABLES.join(', ')}`);
    const until = Date.now() + 60_000;
    const [a, b] = await Promise.all([followLedgers(server.store, until), followLedgers(server.store, until)]);
    expect(a + b).toBe(n);
    expect(await counted()).toEqual(before);
    await follow();
    expect(await countBehind(server.store)).toBe(0);
  });

  it('of a later version is counted beside, answers when all is counted, and no earlier program puts its own back', async () => {
    await follow();
    const before = await counted();
    const [later, rows] = [
      FACTS_VERSION + 1,
      'SELECT version, count(*)::int AS n FROM defect_counted GROUP BY 1 ORDER BY 1',
    ];
    // What a later version would say otherwise: here by hand, of those that it has counted.
    const differs = () => server.store.query(`UPDATE defect_counted SET words = 'later' WHERE version = $1`, [later]);
    expect(await followLedgers(server.store, Date.now(), later)).toBe(25);
    await differs();
    expect(await server.store.query(rows)).toHaveLength(2);
    expect(await counted()).toEqual(before);
    // The earlier program goes on counting what it answers from.
    const tablet = testTablet('maren', v4());
    await append(tablet.showerId, historyOf(tablet.showerId, []));
    expect(await followLedgers(server.store, Date.now() + 20_000)).toBe(1);
    while ((await followLedgers(server.store, Date.now() + 20_000, later)) > 0);
    await differs();
    expect(await server.store.query(rows)).toEqual([{ version: later, n: before.defect_fact!.length }]);
    const words: { words: string }[] = await server.store.query('SELECT DISTINCT words FROM defect_fact');
    expect(words).toEqual([{ words: 'later' }]);
    const places = await server.store.query('SELECT DISTINCT version FROM projection');
    expect(places).toEqual([{ version: later }]);
    expect(await followLedgers(server.store, Date.now() + 20_000)).toBe(0);
    expect(await server.store.query(rows)).toHaveLength(1);
    // Back to this program's own, as the tests that follow need it.
    await server.store.query('UPDATE facts_in_force SET version = $1', [FACTS_VERSION]);
    await forgetFacts(server.store);
    await follow();
    expect((await counted()).defect_fact).toEqual(before.defect_fact);
  });

  it('writes nothing while nothing moves', async () => {
    // Beside the transactions of other tests what moved is looked at again, until they end.
    const MOVED = 'SELECT EXISTS (SELECT 1 FROM shower_head h, projection_place p WHERE h.moved >= p.place) AS moved';
    do await follow();
    while ((await server.store.query(MOVED))[0].moved);
    const place = async () => (await server.store.query('SELECT xmin::text AS x, place FROM projection_place'))[0];
    const before = await place();
    for (let k = 0; k < 3; k += 1) await follow();
    expect(await place()).toEqual(before);
  });

  it('has the day of the site, also where the clocks change and where offsets are odd', () => {
    const ms = (iso: string) => Date.parse(iso);
    expect(dayIn('America/Chicago')(ms('2026-03-01T05:59:59Z'))).toBe('2026-02-28');
    expect(dayIn('America/Chicago')(ms('2026-03-01T06:00:00Z'))).toBe('2026-03-01');
    expect(dayIn('America/Chicago')(ms('2026-03-31T04:59:59Z'))).toBe('2026-03-30');
    expect(dayIn('Asia/Kathmandu')(ms('2026-01-31T18:15:00Z'))).toBe('2026-02-01');
    expect(dayIn('Asia/Kathmandu')(ms('2026-01-31T18:14:59Z'))).toBe('2026-01-31');
  });
});
