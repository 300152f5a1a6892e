import {
  NewOldTable,
  OldTableAsk,
  OldTableRead,
  OldTables,
  OldTableTaken,
} from '@careful-seam/contract/api/oldDefects';
import { z } from 'zod';
import { namesIn } from '../crews/names';
import { lookAtOldTable, oldTables, removeOldTable, takeOldTable } from '../crews/oldDefects';
import { Refusal } from '../refusals/refusal';
import { SPOKEN } from './asks';
import { type Call, isUuid, languageOf, param, type Route, read, wordsFor } from './route';

/** For managers alone. */
const MANAGING = { roles: ['manager'] as const, limit: 'usual' as const };

/** How a table would be taken. */
async function lookAt({ req, services }: Call): Promise<unknown> {
  const ask = read(OldTableAsk, req.body);
  const names = await namesIn(services.store, languageOf(req));
  return lookAtOldTable(services.store, ask, names, wordsFor(req), services.now());
}

/** Takes a table in. */
async function take({ req, res, person, services }: Call): Promise<unknown> {
  const ask = read(NewOldTable, req.body);
  const taken = await takeOldTable(services.store, ask, person.name, services.now());
  res.locals.about = `${ask.name}: ${taken.taken}`;
  return taken;
}

/** Takes a table out again. */
async function remove({ req, res, services }: Call): Promise<unknown> {
  const id = param(req, 'id');
  if (!isUuid(id)) throw new Refusal('no-such-table', 'id');
  res.locals.about = await removeOldTable(services.store, id);
  return {};
}

/** Defects that were written down before this program. */
export const OLD_DEFECT_ROUTES: readonly Route[] = [
  {
    ...MANAGING,
    method: 'get',
    path: '/api/old-defects',
    summary: 'Tables of old defects that were taken in',
    gives: OldTables,
    answer: async ({ services }) => ({ tables: await oldTables(services.store) }),
  },
  {
    ...MANAGING,
    method: 'post',
    path: '/api/old-defects/look',
    summary:
      'How a table of old defects would be taken in: columns, days, cells that can’t be read, words without a name, doubles',
    body: 'json',
    asks: z.object(SPOKEN),
    takes: OldTableAsk,
    gives: OldTableRead,
    answer: lookAt,
  },
  {
    ...MANAGING,
    method: 'post',
    path: '/api/old-defects',
    summary: 'Takes a table of old defects in, all of it or nothing',
    body: 'json',
    takes: NewOldTable,
    gives: OldTableTaken,
    did: 'old-defects-taken',
    answer: take,
  },
  {
    ...MANAGING,
    method: 'delete',
    path: '/api/old-defects/:id',
    summary: 'Takes a table of old defects out again',
    gives: z.object({}),
    did: 'old-defects-removed',
    answer: remove,
  },
];
