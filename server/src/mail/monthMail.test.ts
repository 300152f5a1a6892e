import { MonthReport } from '@careful-seam/contract/api/crews';
import { FIRST_SETTINGS } from '@careful-seam/contract/api/firm';
import { sampleBook } from '@careful-seam/core/tests/sampleBook';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import ExcelJS from 'exceljs';
import { v4 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { monthReport } from '../crews/monthReport';
import { followLedgers } from '../facts/projector';
import { writeSettings } from '../firm/settings';
import { created, push, type TestServer, testServer, testTablet } from '../tests/testServer';
import { mailMonth } from './monthMail';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const BOOK = sampleBook();
const FIRST = (zoneHour: number) => new Date(Date.UTC(2027, 0, 1, zoneHour));
const mails = () => server.store.query('SELECT recipient, subject, words, about FROM mail ORDER BY made_at');

describe('a month report', () => {
  it('says that there is too little to tell in a firm that has built nothing, and is mailed to nobody', async () => {
    const report = await monthReport(server.store, '2026-12', 'en', new Date());
    expect(report.sections.map((s) => s.says[0])).toEqual([
      '0 defects are open: 0 stop, 0 to fix, 0 notes.',
      'Too little to tell: nothing was looked at here.',
      'Too little to tell: 0 defects in 0 ft of seam.',
      'Nothing went wrong here.',
      'No defect is known yet.',
      'Nothing was held yet.',
      'Nothing was written in this month.',
    ]);
    await server.store.query(`UPDATE firm_user SET email = 'maren@firm.test', language = 'es' WHERE sign_in = 'maren'`);
    expect(await mailMonth(server.store, 'https://seam.test', FIRST(12))).toBe(0);
  });
  it('goes to each manager once, on the first by the clock of the firm, in the manager’s language', async () => {
    const maren = await server.as('maren');
    const tablet = testTablet('maren', v4());
    await maren
      .post(`/api/showers/${tablet.showerId}/entries`)
      .send(
        push([
          tablet.seal('shower-created', created),
          tablet.seal('geometry-set', { version: 1, geometry: sampleShower({}) }),
          tablet.seal('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' }),
          tablet.seal('defect-found', {
            stage: 'membrane',
            place: { element: 'floor' },
            kind: 'wrinkle',
            severity: 'stop',
            words: '=1+1',
            photos: [],
          }),
        ]),
      )
      .expect(200);
    // Not before everything is counted.
    expect(await mailMonth(server.store, 'https://seam.test', FIRST(12))).toBe(0);
    while ((await followLedgers(server.store, Date.now() + 20_000)) > 0);
    await writeSettings(server.store, { ...FIRST_SETTINGS, timeZone: 'America/Chicago' });
    // Midnight in London is still the last of December in Chicago.
    expect(await mailMonth(server.store, 'https://seam.test', FIRST(0))).toBe(0);
    expect(await mailMonth(server.store, 'https://seam.test', FIRST(12))).toBe(1);
    expect(await mailMonth(server.store, 'https://seam.test', FIRST(13))).toBe(0);
    const [mail, ...others] = await mails();
    expect(others).toEqual([]);
    expect(mail).toMatchObject({ recipient: 'maren@firm.test', subject: 'Cómo fue el mes: diciembre de 2026' });
    expect(mail.words).toContain('1 defectos abiertos: 1 detienen');
    expect(mail.words).toContain('https://seam.test/across/report?month=2026-12');
  });
  it('is a page, a PDF and a workbook with the same figures; nobody but a manager has it', async () => {
    const maren = await server.as('maren');
    const month = new Date().toISOString().slice(0, 7);
    const page = MonthReport.parse((await maren.get(`/api/across/report?month=${month}`).expect(200)).body);
    const pdf = await maren.get(`/api/across/report.pdf?month=${month}`).responseType('blob').expect(200);
    expect(pdf.body.subarray(0, 5).toString()).toBe('%PDF-');
    const xlsx = await maren.get(`/api/across/report.xlsx?month=${month}&lang=es`).responseType('blob').expect(200);
    const book = new ExcelJS.Workbook();
    await book.xlsx.load(xlsx.body);
    expect(book.worksheets).toHaveLength(page.sections.length);
    const kinds = book.worksheets[3]!;
    const cells: unknown[] = [];
    kinds.eachRow((row) => cells.push(...(row.values as unknown[])));
    expect(cells).toContain('Arruga o boca de pez');
    expect(cells).toContain(1);
    const before = MonthReport.parse((await maren.get('/api/across/report').expect(200)).body);
    expect(before.month < month).toBe(true);
    await maren.get('/api/across/report?month=2026-13').expect(422);
    const ines = await server.as('ines');
    for (const path of ['report', 'report.pdf', 'report.xlsx']) await ines.get(`/api/across/${path}`).expect(403);
  });
  it('of defects tells text that looks like a formula as text', async () => {
    const maren = await server.as('maren');
    const csv = (await maren.get('/api/defects.csv').expect(200)).text;
    expect(csv).toContain("'=1+1");
    const xlsx = await maren.get('/api/defects.xlsx').responseType('blob').expect(200);
    const book = new ExcelJS.Workbook();
    await book.xlsx.load(xlsx.body);
    const last = book.worksheets[0]!.getRow(2).values as unknown[];
    expect(last.at(-1)).toBe('=1+1');
  });
});
