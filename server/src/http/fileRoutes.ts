import { ShowerRecord } from '@careful-seam/contract/record/record';
import { ROLES } from '@careful-seam/core/log/roles';
import { ImportAnswer, ShowersFile } from '@careful-seam/files/showersFile';
import { readShowersFile } from '../files/showersFile';
import type { Paper } from '../papers/makePaper';
import { visibleShower } from '../showers/loadShower';
import { PaperAsk } from './asks';
import type { FileOut } from './fileOut';
import { paperOut, unitAsked } from './paperOut';
import { type Call, languageOf, param, type Route, read, uuidParam } from './route';

/** Papers of a shower, by what their address ends with; the name of the file begins with the word before the dot. */
type ShowerPaper =
  | 'record.json'
  | 'record.pdf'
  | 'map.pdf'
  | 'marks.pdf'
  | 'readings.csv'
  | 'flood.ics'
  | 'shower.json';

/** Gives one paper of a shower that this person may see, and says in the audit which shower it was about. */
const paperOf =
  (what: ShowerPaper) =>
  async (call: Call): Promise<FileOut> => {
    const { req, res, person, services } = call;
    const row = await visibleShower(services.store, person, uuidParam(req));
    res.locals.about = `${row.name}, ${row.job}`;
    const [word, ending] = what.split('.');
    return paperOut(
      call,
      { what, shower: row.id, unit: unitAsked(req), language: languageOf(req) } as Paper,
      `${word}-${row.id}.${ending}`,
    );
  };

/** All showers of a job as a file. */
async function jobFile(call: Call): Promise<FileOut> {
  const job = param(call.req, 'job');
  return paperOut(call, { what: 'job.json', job }, `job-${job.replaceAll(/[^\w-]+/g, '-')}.json`);
}

/** Takes a file of showers in. */
async function takeIn({ req, person, services }: Call): Promise<unknown> {
  const file = read(ShowersFile, req.body);
  return readShowersFile(services.store, file, { person, folder: services.picturePlace, now: services.now() });
}

/** What the papers of a shower share. */
const shower = { method: 'get' as const, roles: ROLES, limit: 'usual' as const };
/** For managers alone. */
const MANAGING = ['manager'] as const;

/** Everything that leaves as a file, and the one that comes in. */
export const FILE_ROUTES: readonly Route[] = [
  {
    ...shower,
    path: '/api/showers/:id/record.json',
    summary: 'The record of a shower as data',
    gives: ShowerRecord,
    did: 'record-read',
    answer: paperOf('record.json'),
  },
  {
    ...shower,
    path: '/api/showers/:id/record.pdf',
    summary: 'The record of a shower, printed',
    asks: PaperAsk,
    gives: 'application/pdf',
    did: 'record-read',
    answer: paperOf('record.pdf'),
  },
  {
    ...shower,
    path: '/api/showers/:id/map.pdf',
    summary: 'The unfolded map of a shower, printed alone',
    asks: PaperAsk,
    gives: 'application/pdf',
    did: 'record-read',
    answer: paperOf('map.pdf'),
  },
  {
    ...shower,
    path: '/api/showers/:id/marks.pdf',
    summary: 'Marks for a sloped bed on each wall, to be printed',
    asks: PaperAsk,
    gives: 'application/pdf',
    answer: paperOf('marks.pdf'),
  },
  {
    ...shower,
    path: '/api/showers/:id/readings.csv',
    summary: 'All readings of a shower',
    asks: PaperAsk,
    gives: 'text/csv',
    answer: paperOf('readings.csv'),
  },
  {
    ...shower,
    path: '/api/showers/:id/flood.ics',
    summary: 'When the running flood must be visited',
    asks: PaperAsk,
    gives: 'text/calendar',
    answer: paperOf('flood.ics'),
  },
  {
    ...shower,
    roles: MANAGING,
    path: '/api/showers/:id/shower.json',
    summary: 'A shower with all its entries and pictures',
    gives: ShowersFile,
    did: 'file-out',
    answer: paperOf('shower.json'),
  },
  {
    ...shower,
    roles: MANAGING,
    path: '/api/jobs/:job/showers.json',
    summary: 'All showers of a job with their entries and pictures',
    gives: ShowersFile,
    did: 'file-out',
    answer: jobFile,
  },
  {
    method: 'post',
    roles: MANAGING,
    limit: 'usual',
    path: '/api/showers/import',
    summary: 'Takes a file of showers in',
    body: 'file',
    takes: ShowersFile,
    gives: ImportAnswer,
    did: 'file-in',
    answer: takeIn,
  },
];
