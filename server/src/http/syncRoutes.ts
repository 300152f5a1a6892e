import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { QueueAnswer } from '@careful-seam/contract/api/queue';
import { BatchAsk, type BatchLine, SyncAnswer, SyncAsk } from '@careful-seam/contract/api/sync';
import { ROLES } from '@careful-seam/core/log/roles';
import { followLedgers } from '../facts/projector';
import { readQueue } from '../facts/queue';
import { entryBatch } from '../sync/entryBatch';
import { onNews } from '../sync/news';
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

/** A line that keeps the way open through proxies that end what is silent, ms. */
const BEAT_MS = 25_000;
/** A way is ended after so long and made anew, so that a session that ended does not go on hearing, ms. */
const OPEN_MS = 10 * 60_000;

/** Says that something moved, as long as somebody listens (server-sent events); what moved is asked for as ever. */
async function news({ req, res, services }: Call): Promise<undefined> {
  res.set({ 'Cache-Control': 'no-store, no-transform', 'X-Accel-Buffering': 'no' }).type('text/event-stream');
  res.write('retry: 3000\n\n');
  // Whoever did not ask for a stream is not kept waiting for one.
  if (!req.get('accept')?.includes('text/event-stream')) {
    res.end();
    return undefined;
  }
  const stop = onNews(services.store, () => res.write('event: news\ndata: \n\n'));
  const beat = setInterval(() => res.write(':\n\n'), BEAT_MS);
  const over = setTimeout(() => res.end(), OPEN_MS);
  await new Promise<void>((done) => {
    res.once('close', done);
    req.once('aborted', done);
  });
  clearInterval(beat);
  clearTimeout(over);
  stop();
  return undefined;
}

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
    roles: ROLES,
    limit: 'usual',
    method: 'get',
    path: '/api/news',
    summary: 'Says when something moved, as server-sent events',
    gives: 'text/event-stream',
    answer: news,
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
