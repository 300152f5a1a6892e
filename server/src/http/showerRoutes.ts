import { FirmAnswer } from '@careful-seam/contract/api/firm';
import { ShowerList, ShowerRow } from '@careful-seam/contract/api/messages';
import { FoundShowers } from '@careful-seam/contract/api/office';
import { ROLES } from '@careful-seam/core/log/roles';
import { FOUND_AT_MOST, findShowers, listShowers } from '../jobs/jobs';
import { visibleShower } from '../showers/loadShower';
import { showerAnswer } from '../showers/showerRows';
import { firmAnswer } from '../sync/whatMoved';
import { SearchAsk, ShowersAsk } from './asks';
import { type Call, type Route, readQuery, uuidParam } from './route';

/** For everybody who is signed in. */
const EVERY = ROLES;

/** A page of them, and where the next one begins. */
async function pageOfShowers({ req, person, services }: Call): Promise<unknown> {
  const { job, from } = readQuery(ShowersAsk, req.query);
  const { rows, next } = await listShowers(services.store, person, { job: job || null, from: from || null });
  return { showers: rows.map(showerAnswer), next };
}

/** One. */
async function oneShower({ req, person, services }: Call): Promise<unknown> {
  return showerAnswer(await visibleShower(services.store, person, uuidParam(req)));
}

/** By a name. */
async function searchShowers({ req, person, services }: Call): Promise<unknown> {
  const rows = await findShowers(services.store, person, readQuery(SearchAsk, req.query).q);
  return { showers: rows.slice(0, FOUND_AT_MOST).map(showerAnswer), more: rows.length > FOUND_AT_MOST };
}

/** What these routes share. */
const usual = { roles: EVERY, limit: 'usual' as const };

/** Showers as they are listed, found and named; the firm that they are of. */
export const SHOWER_ROUTES: readonly Route[] = [
  {
    ...usual,
    method: 'get',
    path: '/api/firm',
    summary: 'The firm: its settings and crews, and the epoch of this server',
    gives: FirmAnswer,
    answer: ({ services }) => firmAnswer(services.store, services.now()),
  },
  {
    ...usual,
    method: 'get',
    path: '/api/showers',
    summary: 'A page of showers, newest change first',
    asks: ShowersAsk,
    gives: ShowerList,
    answer: pageOfShowers,
  },
  {
    ...usual,
    method: 'get',
    path: '/api/showers/search',
    summary: 'Showers whose name or job has words that begin like those typed',
    asks: SearchAsk,
    gives: FoundShowers,
    answer: searchShowers,
  },
  {
    ...usual,
    method: 'get',
    path: '/api/showers/:id',
    summary: 'One shower: its row',
    gives: ShowerRow,
    answer: oneShower,
  },
];
