import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { QueueAnswer } from '@careful-seam/contract/api/queue';
import { BatchAsk, type BatchLine, SyncAnswer, SyncAsk } from '@careful-seam/contract/api/sync';
import { ROLES } from '@careful-seam/core/log/roles';
import { followLedgers } from '../facts/projector';
import { readQueue } from '../facts/queue';
import { entryBatch } from '../sync/entryBatch';
import { whatMoved } from '../sync/whatMoved';
import { QueueAsk } from './asks';
import { type Call, type Route, read, readQuery } from './route';

async function* asText(lines: AsyncGenerator<BatchLine>): AsyncGenerator<string> {
  for await (const line of lines) yield `${JSON.stringify(line)}\n`;
}

/** What a tablet lacks of many showers, line by line. */
async function batch({ req, res, person, services }: Call): Promise<undefined> {
  const { want } = read(BatchAsk, req.body);
  res.set('Cache-Control', 'no-store').type('application/x-ndjson');
  await pipeline(Readable.from(asText(entryBatch(services.store, person, want))), res).catch((error: unknown) => {
    // A tablet that went into the cellar asks again for what it did not get.
    if (!res.closed && !res.destroyed) throw error;
  });
  return undefined;
}

/** Time that a question for the queue spends on bringing it up to date first, ms. */
const QUEUE_MS = 1000;

/** A tablet's round: what moved since its last one, and the entries that it lacks. */
export const SYNC_ROUTES: readonly Route[] = [
  {
    roles: ROLES,
    limit: 'usual',
    method: 'post',
    path: '/api/sync',
    summary: 'What moved since a tablet asked last',
    body: 'json',
    takes: SyncAsk,
    gives: SyncAnswer,
    answer: ({ req, person, services }) => whatMoved(services.store, person, read(SyncAsk, req.body), services.now()),
  },
  {
    roles: ROLES,
    limit: 'usual',
    method: 'post',
    path: '/api/sync/entries',
    summary: 'Entries of several showers, streamed a line for each',
    body: 'json',
    takes: BatchAsk,
    gives: 'application/x-ndjson',
    answer: batch,
  },
  {
    roles: ['manager'],
    limit: 'usual',
    method: 'get',
    path: '/api/queue',
    summary: 'What waits for the manager in all showers, longest first',
    asks: QueueAsk,
    gives: QueueAnswer,
    answer: async ({ req, services: { store } }) => {
      await followLedgers(store, Date.now() + QUEUE_MS);
      return readQueue(store, readQuery(QueueAsk, req.query).from || null);
    },
  },
];
