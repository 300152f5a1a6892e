import { floodCalendar } from '@careful-seam/contract/files/floodCalendar';
import { ImportAnswer, ShowersFile } from '@careful-seam/contract/files/showersFile';
import { floodVisits } from '@careful-seam/contract/flood/floodVisits';
import { ShowerRecord } from '@careful-seam/contract/record/record';
import { makeWords } from '@careful-seam/contract/texts/words';
import { ROLES } from '@careful-seam/core/entries/roles';
import { floodCheckOf } from '@careful-seam/core/rules/ruleBook';
import { readingsCsv } from '../files/readingsCsv';
import { readShowersFile, writeShowersFile } from '../files/showersFile';
import { Refusal } from '../people/refusal';
import { printMap } from '../record/printMap';
import { printMarks } from '../record/printMarks';
import { type LoadedShower, loadShower, visibleShower } from '../showers/loadShower';
import { ShowerEntity } from '../store/entities';
import { printRecord, signedRecord } from './recordFiles';
import { type Call, param, type Route, read, uuidParam } from './route';

async function loaded({ req, person, services }: Call): Promise<LoadedShower> {
  return loadShower(services.store, await visibleShower(services.store, person, uuidParam(req)), services.now());
}

/** Says in the audit which shower it was about. */
async function named(call: Call): Promise<LoadedShower> {
  const shower = await loaded(call);
  call.res.locals.about = `${shower.row.name}, ${shower.row.job}`;
  return shower;
}

async function recordJson(call: Call): Promise<unknown> {
  const shower = await named(call);
  call.res.attachment(`record-${shower.row.id}.json`);
  return signedRecord(shower, call.services);
}

async function mapPdf(call: Call): Promise<unknown> {
  const shower = await named(call);
  const sheet = await printMap(shower, call.services.now());
  if (!sheet) throw new Refusal('not-found', 'geometry', 'This shower has no dimensions yet, so that there is no map.');
  call.res.attachment(`map-${shower.row.id}.pdf`).type('application/pdf').send(sheet);
  return undefined;
}

async function marksPdf(call: Call): Promise<unknown> {
  const shower = await named(call);
  const sheet = await printMarks(shower, call.services.now(), call.req.query.unit === 'mm' ? 'mm' : 'in');
  if (!sheet)
    throw new Refusal('not-found', 'geometry', 'This shower has no dimensions yet, so that there is nothing to mark.');
  call.res.attachment(`marks-${shower.row.id}.pdf`).type('application/pdf').send(sheet);
  return undefined;
}

async function csv(call: Call): Promise<unknown> {
  const { row, state } = await loaded(call);
  call.res.attachment(`readings-${row.id}.csv`).type('text/csv').send(readingsCsv(state));
  return undefined;
}

async function calendar(call: Call): Promise<unknown> {
  const { row, state } = await loaded(call);
  const check = state.rules && floodCheckOf(state.rules.method)?.check;
  if (!state.flood?.running || !check)
    throw new Refusal('not-found', 'flood', 'No water stands in this shower now, so that there is nothing to read.');
  const visits = floodVisits(makeWords('en').t, row, state.flood, check.readWithinHours);
  call.res
    .attachment(`flood-${row.id}.ics`)
    .type('text/calendar')
    .send(floodCalendar(visits, call.services.now().getTime()));
  return undefined;
}

async function showerFile(call: Call): Promise<unknown> {
  const { req, res, person, services } = call;
  const row = await visibleShower(services.store, person, uuidParam(req));
  res.attachment(`shower-${row.id}.json`);
  return writeShowersFile(services.store, services.photoFolder, [row], null, services.now());
}

async function jobFile({ req, res, services }: Call): Promise<unknown> {
  const job = param(req, 'job');
  const rows = await services.store.getRepository(ShowerEntity).find({ where: { job }, order: { name: 'ASC' } });
  if (rows.length === 0) throw new Refusal('not-found', 'job', 'There is no job of this name.');
  res.attachment(`job-${job.replaceAll(/[^\w-]+/g, '-')}.json`);
  return writeShowersFile(services.store, services.photoFolder, rows, job, services.now());
}

async function takeIn({ req, person, services }: Call): Promise<unknown> {
  const file = read(ShowersFile, req.body);
  return readShowersFile(services.store, file, { person, folder: services.photoFolder, now: services.now() });
}

const shower = { method: 'get' as const, roles: ROLES, limit: 'usual' as const };
const MANAGING = ['manager'] as const;

/** Everything that leaves as a file, and the one that comes in. */
export const FILE_ROUTES: readonly Route[] = [
  {
    ...shower,
    path: '/api/showers/:id/record.json',
    summary: 'The record of a shower as data',
    gives: ShowerRecord,
    did: 'record-read',
    answer: recordJson,
  },
  {
    ...shower,
    path: '/api/showers/:id/record.pdf',
    summary: 'The record of a shower, printed',
    gives: 'application/pdf',
    did: 'record-read',
    answer: async (call) => printRecord(call, await named(call)),
  },
  {
    ...shower,
    path: '/api/showers/:id/map.pdf',
    summary: 'The unfolded map of a shower, printed alone',
    gives: 'application/pdf',
    did: 'record-read',
    answer: mapPdf,
  },
  {
    ...shower,
    path: '/api/showers/:id/marks.pdf',
    summary: 'Marks for a sloped bed on each wall, to be printed',
    gives: 'application/pdf',
    answer: marksPdf,
  },
  {
    ...shower,
    path: '/api/showers/:id/readings.csv',
    summary: 'All readings of a shower',
    gives: 'text/csv',
    answer: csv,
  },
  {
    ...shower,
    path: '/api/showers/:id/flood.ics',
    summary: 'When the running flood must be visited',
    gives: 'text/calendar',
    answer: calendar,
  },
  {
    ...shower,
    roles: MANAGING,
    path: '/api/showers/:id/shower.json',
    summary: 'A shower with all its entries and pictures',
    gives: ShowersFile,
    did: 'file-out',
    answer: showerFile,
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
