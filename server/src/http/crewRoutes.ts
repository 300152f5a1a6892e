import {
  CompareAnswer,
  HoldsAnswer,
  HoldsAsk,
  LookAnswer,
  LookAsk,
  LookPlan,
  Mark,
  MonthReport,
  MonthsAnswer,
  MonthsAsk,
  NewMark,
  QuestionAsk,
  ReportAsk,
  SlippedAnswer,
  WrongAnswer,
  WrongAsk,
} from '@careful-seam/contract/api/crews';
import { DefectChoices, DefectList, DefectsAsk } from '@careful-seam/contract/api/defects';
import { ROLES } from '@careful-seam/core/log/roles';
import type { Words } from '@careful-seam/words/texts/language';
import { v4 } from 'uuid';
import { z } from 'zod';
import { byMonth } from '../crews/byMonth';
import { compareCrews } from '../crews/compareCrews';
import { defectsCsv, defectsXlsx } from '../crews/defectFiles';
import { defectChoices, defectLines, FILE_AT_MOST, listDefects } from '../crews/defectList';
import { howLong } from '../crews/howLong';
import { keepLookPlan, lookHarder } from '../crews/lookHarder';
import { monthBefore, monthReport } from '../crews/monthReport';
import { type Names, namesIn } from '../crews/names';
import { reportPdf, reportXlsx } from '../crews/reportFiles';
import { slippedThrough } from '../crews/slippedThrough';
import { whatGoesWrong } from '../crews/whatGoesWrong';
import { readSettings } from '../firm/settings';
import { Refusal } from '../refusals/refusal';
import { SPOKEN } from './asks';
import { FileOut } from './fileOut';
import { type Call, isUuid, languageOf, param, type Route, read, readQuery, type Services, wordsFor } from './route';

/** For everybody who is signed in: a crew lead is answered of the own crew alone. */
const EVERY = { roles: ROLES, limit: 'usual' as const, method: 'get' as const };
/** For managers alone. */
const MANAGING = { roles: ['manager'] as const, limit: 'usual' as const };

/** What is asked of a list or a report, with the language that it is answered in. */
const Spoken = {
  choices: z.object(SPOKEN),
  defects: DefectsAsk.extend(SPOKEN),
  report: ReportAsk.extend(SPOKEN),
};

/** Names in the language of who asks. */
const namesFor = ({ req, services }: Call) => namesIn(services.store, languageOf(req));

/** What a question across crews is answered from. */
interface Asked<Ask> {
  store: Services['store'];
  person: Call['person'];
  ask: Ask;
  names: Names;
  t: Words;
  now: Date;
}

/** The route of a question across crews: what is read of its address is what the API says that it asks. */
function question<S extends z.ZodObject>(
  path: string,
  summary: string,
  schema: S,
  gives: z.ZodType,
  answer: (asked: Asked<z.infer<S>>) => Promise<unknown>,
): Route {
  const asks = schema.extend(SPOKEN);
  return {
    ...MANAGING,
    method: 'get',
    path,
    summary,
    asks,
    gives,
    answer: async (call) =>
      answer({
        store: call.services.store,
        person: call.person,
        ask: readQuery(asks, call.req.query) as z.infer<S>,
        names: await namesFor(call),
        t: wordsFor(call.req),
        now: call.services.now(),
      }),
  };
}

/** A page of defects. */
async function defects(call: Call): Promise<unknown> {
  const ask = readQuery(Spoken.defects, call.req.query);
  return listDefects(call.services.store, call.person, ask, await namesFor(call));
}

/** What is shown, as a file: all of it, not one page. */
const defectsFile =
  (ending: 'csv' | 'xlsx') =>
  async (call: Call): Promise<FileOut> => {
    const { req, person, services } = call;
    const ask = readQuery(Spoken.defects, req.query);
    const lines = await defectLines(services.store, person, { ...ask, skip: 0 }, await namesFor(call), FILE_AT_MOST);
    const t = wordsFor(req);
    const name = `defects-${services.now().toISOString().slice(0, 10)}.${ending}`;
    return new FileOut(name, ending === 'csv' ? defectsCsv(t, lines) : await defectsXlsx(t, lines));
  };

/** The month that is asked for; the last whole one where none is. */
async function monthAsked({ req, services }: Call): Promise<string> {
  const { month } = readQuery(Spoken.report, req.query);
  return month || monthBefore(services.now(), (await readSettings(services.store)).timeZone);
}

/** How the month was. */
const report = async (call: Call) =>
  monthReport(call.services.store, await monthAsked(call), languageOf(call.req), call.services.now());

/** The same as a file. */
const reportFile =
  (ending: 'pdf' | 'xlsx') =>
  async (call: Call): Promise<FileOut> => {
    const made = await report(call);
    const firm = await readSettings(call.services.store);
    const bytes = ending === 'pdf' ? await reportPdf(made, firm, call.services.now()) : await reportXlsx(made);
    return new FileOut(`month-${made.month}.${ending}`, bytes);
  };

/** Marks a day on which the firm changed something. */
async function addMark({ req, res, services }: Call): Promise<unknown> {
  const mark = read(NewMark, req.body);
  const id = v4();
  await services.store.query('INSERT INTO firm_mark (id, day, words) VALUES ($1, $2, $3)', [id, mark.day, mark.words]);
  res.locals.about = `${mark.day}: ${mark.words}`;
  return { id, ...mark };
}

/** Takes a mark out again. */
async function removeMark({ req, res, services }: Call): Promise<unknown> {
  const id = param(req, 'mark');
  const [rows] = isUuid(id)
    ? await services.store.query('DELETE FROM firm_mark WHERE id = $1 RETURNING words', [id])
    : [[]];
  if (rows.length === 0) throw new Refusal('no-such-mark', 'mark');
  res.locals.about = rows[0].words;
  return {};
}

/** Accepts a plan of where to look harder; an empty one ends the one in force. */
async function acceptPlan({ req, res, person, services }: Call): Promise<unknown> {
  const { cells } = read(LookPlan.pick({ cells: true }), req.body);
  res.locals.about = `${cells.length} kinds of seam`;
  return keepLookPlan(services.store, cells, person.name, services.now());
}

/** What is asked across crews. */
export const CREW_ROUTES: readonly Route[] = [
  {
    ...EVERY,
    path: '/api/defects',
    summary: 'A page of the defects of the firm, by any filter',
    asks: Spoken.defects,
    gives: DefectList,
    answer: defects,
  },
  {
    ...EVERY,
    path: '/api/defect-choices',
    summary: 'What defects can be filtered by: only what there is',
    asks: Spoken.choices,
    gives: DefectChoices,
    answer: async (call) => defectChoices(call.services.store, call.person, await namesFor(call)),
  },
  {
    ...EVERY,
    path: '/api/defects.csv',
    summary: 'The defects that a filter lets through, as CSV',
    asks: Spoken.defects,
    gives: 'text/csv',
    did: 'file-out',
    answer: defectsFile('csv'),
  },
  {
    ...EVERY,
    path: '/api/defects.xlsx',
    summary: 'The defects that a filter lets through, as a workbook',
    asks: Spoken.defects,
    gives: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    did: 'file-out',
    answer: defectsFile('xlsx'),
  },
  {
    ...question(
      '/api/across/compare',
      'Is a crew really different? A crew lead is shown the own crew and the level of the firm',
      QuestionAsk,
      CompareAnswer,
      ({ store, person, ask, names }) => compareCrews(store, person, ask, names),
    ),
    roles: ['manager', 'crew-lead'],
  },
  question(
    '/api/across/wrong',
    'What goes wrong, and what does it cost?',
    WrongAsk,
    WrongAnswer,
    ({ store, ask, names, t }) => whatGoesWrong(store, ask, names, t),
  ),
  question('/api/across/slipped', 'Where did it slip through?', QuestionAsk, SlippedAnswer, ({ store, ask, names }) =>
    slippedThrough(store, ask, names),
  ),
  question(
    '/api/across/months',
    'Does it get better? By month, before and after a mark',
    MonthsAsk,
    MonthsAnswer,
    ({ store, ask }) => byMonth(store, ask),
  ),
  question('/api/across/holds', 'How long does a hold stand?', HoldsAsk, HoldsAnswer, ({ store, ask, names, t, now }) =>
    howLong(store, ask, names, t, now),
  ),
  question('/api/across/look', 'Where should I look harder?', LookAsk, LookAnswer, ({ store, ask, names, now }) =>
    lookHarder(store, ask.readings, names, now),
  ),
  {
    ...MANAGING,
    method: 'put',
    path: '/api/across/look',
    summary: 'Accepts a plan of where to look harder',
    body: 'json',
    takes: LookPlan.pick({ cells: true }),
    gives: LookPlan,
    did: 'look-plan-accepted',
    answer: acceptPlan,
  },
  {
    ...MANAGING,
    method: 'get',
    path: '/api/across/report',
    summary: 'How was the month? The last whole one where none is named',
    asks: Spoken.report,
    gives: MonthReport,
    answer: report,
  },
  {
    ...MANAGING,
    method: 'get',
    path: '/api/across/report.pdf',
    summary: 'The month report, printed',
    asks: Spoken.report,
    gives: 'application/pdf',
    did: 'file-out',
    answer: reportFile('pdf'),
  },
  {
    ...MANAGING,
    method: 'get',
    path: '/api/across/report.xlsx',
    summary: 'The month report as a workbook',
    asks: Spoken.report,
    gives: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    did: 'file-out',
    answer: reportFile('xlsx'),
  },
  {
    ...MANAGING,
    method: 'post',
    path: '/api/marks',
    summary: 'Marks a day on which the firm changed something',
    body: 'json',
    takes: NewMark,
    gives: Mark,
    did: 'mark-made',
    answer: addMark,
  },
  {
    ...MANAGING,
    method: 'delete',
    path: '/api/marks/:mark',
    summary: 'Takes a mark out again',
    gives: z.object({}),
    did: 'mark-removed',
    answer: removeMark,
  },
];
