import {
  CompareAnswer,
  HoldsAnswer,
  LookAnswer,
  MonthsAnswer,
  SlippedAnswer,
  WrongAnswer,
} from '@careful-seam/contract/api/crews';
import { DefectChoices, DefectList } from '@careful-seam/contract/api/defects';
import { SyncAnswer } from '@careful-seam/contract/api/sync';
import { FACTS_VERSION } from '@careful-seam/core/crews/facts';
import { countBehind } from '@careful-seam/server/facts/behind';
import { followLedgers } from '@careful-seam/server/facts/projector';
import { ROUTES } from '@careful-seam/server/http/routes';
import { loadRuleBooks } from '@careful-seam/server/showers/ruleBooks';
import { showerRows } from '@careful-seam/server/showers/showerRows';
import { UserEntity } from '@careful-seam/server/store/entities/people';
import { EntryEntity } from '@careful-seam/server/store/entities/showers';
import { type TestServer, testServer } from '@careful-seam/server/tests/testServer';
import { verifyShower } from '@careful-seam/server/verify/verifyShower';
import ExcelJS from 'exceljs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PEOPLE as DEMO_PEOPLE } from '../firm';
import { TRAINING_MARK } from '../years/loadYears';
import { UNLUCKY_CREW, WORSE_CREW, YEARS_CREWS, yearsCalendar } from '../years/truths';
import { loadDemoFirm } from './loadDemoFirm';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
  const users = await server.store.getRepository(UserEntity).find();
  await server.store.getRepository(UserEntity).clear();
  await loadDemoFirm({ store: server.store, picturePlace: server.picturePlace, now: () => new Date(), years: true });
  await server.store.getRepository(UserEntity).delete(DEMO_PEOPLE.map((p) => p.id));
  await server.store.getRepository(UserEntity).insert(users);
}, 120_000);
afterAll(() => server.close());

describe('two years of an invented firm', () => {
  it('are as many showers as are stated, each with a sound ledger that ends in its signature', async () => {
    const rows = await showerRows(server.store, `WHERE s.job LIKE 'Row %' ORDER BY s.id`);
    expect(rows).toHaveLength(YEARS_CREWS.reduce((n, c) => n + c.showers, 0));
    const find = (await loadRuleBooks(server.store))('');
    for (const row of rows.filter((_, k) => k % 45 === 0)) {
      const entries = await server.store
        .getRepository(EntryEntity)
        .find({ where: { showerId: row.id }, order: { ledgerSeq: 'ASC' } });
      expect(entries.length).toBeGreaterThan(20);
      expect(verifyShower(row, entries, find)).toEqual([]);
    }
  });
  it('lie within two years, and reach no tablet that does not ask for them', async () => {
    const { fromMs, toMs } = yearsCalendar(Date.now());
    const [{ first, last }] = await server.store.query(
      `SELECT min(e.received_at) AS first, max(e.received_at) AS last FROM entry e JOIN shower s ON s.id = e.shower_id WHERE s.job LIKE 'Row %'`,
    );
    expect(first.getTime()).toBeGreaterThanOrEqual(fromMs);
    expect(last.getTime()).toBeLessThan(toMs + 86_400_000 * 5);
    const ines = await server.as('ines');
    const answer = SyncAnswer.parse((await ines.post('/api/sync').send({ since: null, firm: null }).expect(200)).body);
    expect(answer.showers.length).toBeGreaterThan(5);
    expect(answer.showers.length).toBeLessThan(60);
  });
  it('are counted by a server that has just begun', async () => {
    while ((await followLedgers(server.store, Date.now() + 60_000)) > 0);
    expect(await countBehind(server.store)).toBe(0);
    const [{ n }] = await server.store.query('SELECT count(*)::int AS n FROM projection WHERE version = $1', [
      FACTS_VERSION,
    ]);
    expect(n).toBeGreaterThan(450);
    const [{ defects, crews }] = await server.store.query(
      'SELECT count(*)::int AS defects, count(DISTINCT crew)::int AS crews FROM defect_fact',
    );
    expect(defects).toBeGreaterThan(1000);
    expect(crews).toBe(YEARS_CREWS.length);
  }, 120_000);

  describe('asked across crews', () => {
    const ask = async <T>(
      schema: { parse: (x: unknown) => T },
      path: string,
      who: 'maren' | 'pavel' = 'maren',
    ): Promise<T> => schema.parse((await (await server.as(who)).get(path).expect(200)).body);

    it('name the crew that is worse, at niches alone, by how much; the one with little work lies within', async () => {
      const niches = await ask(CompareAnswer, '/api/across/compare?group=niche');
      const named = niches.crews.filter((c) => c.discovery);
      expect(named.map((c) => c.crew)).toEqual([WORSE_CREW]);
      expect(named[0]!.side).toBe('above');
      expect(named[0]!.ratio!.low).toBeGreaterThan(1.5);
      expect(named[0]!.ratio!.low).toBeLessThan(3);
      expect(named[0]!.ratio!.high).toBeGreaterThan(2);
      for (const group of ['floor', 'corner', 'drain', 'curb'])
        expect(
          (await ask(CompareAnswer, `/api/across/compare?group=${group}`)).crews.filter((c) => c.discovery),
        ).toEqual([]);
      const all = await ask(CompareAnswer, '/api/across/compare');
      const unlucky = all.crews.find((c) => c.crew === UNLUCKY_CREW)!;
      expect(unlucky).toMatchObject({ outside: false, discovery: false });
      expect(unlucky.rate!).toBeGreaterThan(all.firm!.rate * 1.3);
      expect(unlucky.shrunk).toBeLessThan(unlucky.rate!);
      expect(all.overdispersion).toBeGreaterThan(1.3);
      expect(all.compared).toBe(YEARS_CREWS.length);
    });
    it('mark the month of the wrong mortar, and no other by itself', async () => {
      const { mortarMonth } = yearsCalendar(Date.now());
      const { months } = await ask(MonthsAnswer, '/api/across/months');
      expect(months.filter((m) => m.signal === 'beyond').map((m) => m.month)).toEqual([mortarMonth]);
      const causes = await ask(
        WrongAnswer,
        `/api/across/wrong?by=cause&from=${mortarMonth}-01&to=${mortarMonth}-31`.replace(/-31$/, '-28'),
      );
      expect(causes.lines[0]!.id).toBe('material');
    });
    it('show that the training worked at corners: the interval leaves one out, and regression to the mean is said', async () => {
      const { change } = await ask(MonthsAnswer, `/api/across/months?group=corner&mark=${TRAINING_MARK}`);
      expect(change!.ratio!).toBeLessThan(0.8);
      expect(change!.high!).toBeLessThan(1);
      expect(change!.warning).toBe('regression-to-the-mean');
      const floor = await ask(MonthsAnswer, `/api/across/months?group=floor&mark=${TRAINING_MARK}`);
      expect(floor.change!.high!).toBeGreaterThan(1);
    });
    it('say what slipped through, how long holds stand, and where to look harder', async () => {
      const slipped = await ask(SlippedAnswer, '/api/across/slipped');
      expect(slipped.escaped!.share).toBeGreaterThan(0.01);
      expect(slipped.slipped.map((s) => s.kind)).toContain('weeps-blocked');
      expect(slipped.rows.reduce((n, r) => n + r.total, 0)).toBe(slipped.total);
      const holds = await ask(HoldsAnswer, '/api/across/holds');
      const [stop, fix] = ['stop', 'fix'].map((id) => holds.lines.find((l) => l.id === id)!);
      expect(stop!.medianDays!).toBeLessThan(fix!.medianDays!);
      expect(holds.all!.open).toBeGreaterThan(5);
      const look = await ask(LookAnswer, '/api/across/look?readings=600');
      expect(look.cells[0]).toMatchObject({ crew: WORSE_CREW, group: 'niche' });
      expect(look.cells.every((c) => c.readings >= 1)).toBe(true);
      expect(look.riskLeft!).toBeGreaterThan(0);
      expect(look.riskLeft!).toBeLessThan(1);
    });
    it('price what is found after tile by the stage that made it', async () => {
      const maren = await server.as('maren');
      const wrong = () => ask(WrongAnswer, '/api/across/wrong?by=stage');
      const before = await wrong();
      const curb = before.lines.find((l) => l.id === 'curb')!;
      expect(curb.afterTile).toBe(curb.count * before.afterTileCost!);
      const settings = (await maren.get('/api/firm').expect(200)).body.settings;
      const put = (afterTileByStage: object) => maren.put('/api/firm/settings').send({ ...settings, afterTileByStage });
      await put({ curb: 100 }).expect(200);
      const priced = (await wrong()).lines;
      expect(priced.find((l) => l.id === 'curb')!.afterTile).toBe(curb.count * 100);
      expect(priced.find((l) => l.id === 'membrane')!.afterTile).toBe(
        before.lines.find((l) => l.id === 'membrane')!.afterTile,
      );
      await put({ curb: -1 }).expect(422);
      await put({}).expect(200);
    });
    it('list every defect with its filters; pages and sums agree', async () => {
      const all = await ask(DefectList, '/api/defects');
      expect(all.lines).toHaveLength(100);
      const kestrel = await ask(DefectList, `/api/defects?crew=${WORSE_CREW}&group=niche&order=found&down=no`);
      const compared = (await ask(CompareAnswer, '/api/across/compare?group=niche')).crews.find(
        (c) => c.crew === WORSE_CREW,
      )!;
      expect(kestrel.total).toBe(compared.count);
      const moments = kestrel.lines.map((l) => l.foundAt);
      expect([...moments].sort()).toEqual(moments);
      const [open, closed] = await Promise.all(
        ['open', 'closed'].map((state) => ask(DefectList, `/api/defects?state=${state}`)),
      );
      expect(open!.total + closed!.total).toBe(all.total);
      expect((await ask(DefectList, '/api/defects?q=no%20such%20words')).total).toBe(0);
      expect((await ask(DefectList, '/api/defects?q=%25')).total).toBe(0);
      const second = await ask(DefectList, '/api/defects?skip=100');
      expect(second.lines.some((l) => all.lines.some((a) => a.id === l.id))).toBe(false);
    });
    it('tell a crew lead of the own crew and the firm’s level alone', async () => {
      await server.store.query(`UPDATE firm_user SET crew_id = 'crew-heron' WHERE sign_in = 'pavel'`);
      const own = await ask(CompareAnswer, '/api/across/compare?group=niche', 'pavel');
      expect(own.crews.map((c) => c.crew)).toEqual(['crew-heron']);
      expect(own.firm!.count).toBeGreaterThan(own.crews[0]!.count);
      const list = await ask(DefectList, `/api/defects?crew=${WORSE_CREW}`, 'pavel');
      expect(list.total).toBe(0);
      const mine = await ask(DefectList, '/api/defects', 'pavel');
      expect(mine.total).toBeGreaterThan(10);
      expect(new Set(mine.lines.map((l) => l.crew))).toEqual(new Set(['Crew Heron']));
      expect(mine.lines.every((l) => l.inspector === null)).toBe(true);
      const choices = await ask(DefectChoices, '/api/defect-choices', 'pavel');
      expect(choices.crews.map((c) => c.id)).toEqual(['crew-heron']);
      expect(choices.inspectors).toEqual([]);
      const pavel = await server.as('pavel');
      for (const path of ['wrong', 'slipped', 'months', 'holds', 'look'])
        await pavel.get(`/api/across/${path}`).expect(403);
    });
    it('tell a crew lead nothing of another crew on any route', async () => {
      const [theirs] = await server.store.query(
        `SELECT s.id, s.name, s.job FROM shower s JOIN defect_fact f ON f.shower_id = s.id WHERE s.crew_id = $1 LIMIT 1`,
        [WORSE_CREW],
      );
      const pavel = await server.as('pavel');
      let walked = 0;
      for (const route of ROUTES.filter(
        (r) => r.method === 'get' && r.roles !== 'anyone' && r.roles.includes('crew-lead'),
      )) {
        const path = route.path.replace(':id', theirs.id).replace(':job', encodeURIComponent(theirs.job));
        if (path.includes(':')) continue;
        const { status, text = '' } = await pavel.get(
          `${path}?q=${encodeURIComponent(theirs.name)}&crew=${WORSE_CREW}`,
        );
        walked += 1;
        if (status >= 400) continue;
        // What the crews are called is told to everybody: whom a defect is given to. Nothing of what they did is.
        const said = route.path === '/api/firm' ? text.replace(/"crews":\[[^\]]*\]/, '') : text;
        expect({
          path,
          said: [theirs.id, WORSE_CREW, 'Crew Kestrel', theirs.name].filter((x) => said.includes(x)),
        }).toEqual({
          path,
          said: [],
        });
      }
      expect(walked).toBeGreaterThan(12);
    });
    it('reach the tablets as a plan once a manager accepted it, and are ended', async () => {
      const maren = await server.as('maren');
      const cells = [{ crew: WORSE_CREW, group: 'niche', times: 3 }];
      await maren.put('/api/across/look').send({ cells }).expect(200);
      const ines = await server.as('ines');
      const first = SyncAnswer.parse((await ines.post('/api/sync').send({ since: null, firm: null }).expect(200)).body);
      expect(first.firm?.lookPlan).toEqual(cells);
      await ines.put('/api/across/look').send({ cells: [] }).expect(403);
      await maren
        .put('/api/across/look')
        .send({ cells: [{ ...cells[0], times: 100 }] })
        .expect(422);
      await maren.put('/api/across/look').send({ cells: [] }).expect(200);
      const next = SyncAnswer.parse(
        (await ines.post('/api/sync').send({ since: null, firm: first.mark }).expect(200)).body,
      );
      expect(next.firm?.lookPlan).toEqual([]);
    });
    it('leave as a file that an independent reader opens, with the same figures', async () => {
      const maren = await server.as('maren');
      const answer = await maren.get(`/api/defects.xlsx?crew=${WORSE_CREW}`).responseType('blob').expect(200);
      const book = new ExcelJS.Workbook();
      await book.xlsx.load(answer.body);
      const sheet = book.worksheets[0]!;
      const list = await ask(DefectList, `/api/defects?crew=${WORSE_CREW}`);
      expect(sheet.rowCount).toBe(list.total + 1);
      const heads = (sheet.getRow(1).values as string[]).slice(1);
      const hours = heads.indexOf('Hours') + 1;
      const inSheet = sheet.getColumn(hours).values.filter((v): v is number => typeof v === 'number');
      const [{ sum }] = await server.store.query('SELECT sum(hours)::float8 AS sum FROM defect_fact WHERE crew = $1', [
        WORSE_CREW,
      ]);
      expect(inSheet.reduce((a, b) => a + b, 0)).toBeCloseTo(sum, 6);
      const csv = (await maren.get(`/api/defects.csv?crew=${WORSE_CREW}&lang=es`).expect(200)).text;
      expect(csv.trim().split('\n')).toHaveLength(list.total + 1);
      expect(csv).toContain('Hallado en');
    });
  });
});
