import { createServer, request as httpRequest, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { sampleBook } from '@careful-seam/core/tests/sampleBook';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { v4 } from 'uuid';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { ROUTES } from '../http/routes';
import { created, PASSWORD, PEOPLE, push, type TestServer, testServer, testTablet } from '../tests/testServer';
import { Choice, type FuzzRequest, fuzzEntry, fuzzRequest } from './requests';

/** `npm run fuzz` makes 20,000. */
const RUNS = Number(process.env.FUZZ_RUNS ?? 500);
const SEED = Number(process.env.FUZZ_SEED ?? 20_261_128);
const HANGS_AFTER_MS = 20_000;

let server: TestServer;
let http: Server;
const cookies = new Map<string, string>();
let showerId = v4();

async function send({ who, method, path, headers, body }: FuzzRequest): Promise<{ status: number; text: string }> {
  const { port } = http.address() as AddressInfo;
  const cookie = headers.cookie ?? cookies.get(who);
  return new Promise((done, fail) => {
    const call = httpRequest(
      {
        port,
        method,
        path,
        headers: { ...headers, ...(cookie ? { cookie } : {}), connection: 'close' },
        timeout: HANGS_AFTER_MS,
      },
      (answer) => {
        let text = '';
        answer.setEncoding('utf8');
        answer.on('data', (part: string) => {
          if (text.length < 2000) text += part;
        });
        answer.on('end', () => done({ status: answer.statusCode!, text }));
        answer.on('error', fail);
      },
    );
    call.on('timeout', () => call.destroy(new Error('hangs')));
    call.on('error', (error: NodeJS.ErrnoException) =>
      // A connection that the server closed on a bad request is an answer too.
      ['ECONNRESET', 'EPIPE'].includes(error.code ?? '') ? done({ status: 400, text: '' }) : fail(error),
    );
    call.end(body ?? undefined);
  });
}

async function signIn(who: 'ines' | 'maren' | 'pavel'): Promise<void> {
  const { port } = http.address() as AddressInfo;
  const answer = await fetch(`http://127.0.0.1:${port}/api/session`, {
    method: 'POST',
    headers: { 'x-careful-seam': '1', 'content-type': 'application/json' },
    body: JSON.stringify({ signIn: who, password: PASSWORD }),
  });
  cookies.set(who, answer.headers.get('set-cookie')?.split(';')[0] ?? '');
}

beforeAll(async () => {
  server = await testServer();
  http = createServer(server.app).listen(0, '127.0.0.1');
  await new Promise((done) => http.once('listening', done));
}, 60_000);

/** Another shower to try things on, drawn and with its rules. */
async function newShower(): Promise<void> {
  showerId = v4();
  const tablet = testTablet('ines', showerId);
  const { id, version } = sampleBook();
  const texts = [
    tablet.seal('shower-created', created),
    tablet.seal('geometry-set', { version: 1, geometry: sampleShower() }),
    tablet.seal('rules-pinned', { ruleBook: id, version, method: 'bonded-sheet' }),
  ];
  await send({
    who: 'ines',
    method: 'POST',
    path: `/api/showers/${showerId}/entries`,
    headers: { 'x-careful-seam': '1', 'content-type': 'application/json' },
    body: Buffer.from(JSON.stringify(push(texts))),
  });
}

/** Entries that are nearly right, to the shower that is tried. */
function entriesTo(choice: Choice): FuzzRequest {
  const { id, name, role } = PEOPLE.ines;
  const texts = Array.from({ length: 1 + choice.below(3) }, () => fuzzEntry(choice, showerId, { id, name, role }));
  return {
    who: 'ines',
    method: 'POST',
    path: `/api/showers/${showerId}/entries`,
    headers: { 'x-careful-seam': '1', 'content-type': 'application/json' },
    body: Buffer.from(JSON.stringify(push(texts))),
  };
}
afterAll(async () => {
  await new Promise((done) => http.close(done));
  await server.close();
});

it(`${RUNS} seeded requests: none is answered with a failure, none hangs`, async () => {
  const choice = new Choice(SEED);
  const idsNow = () => [
    showerId,
    showerId,
    PEOPLE.lucia.id,
    'heron',
    'otter',
    'length-parse',
    'flood-volume',
    created.job,
    'careful-seam',
    '1',
  ];
  const counts = new Map<number, number>();
  const bad: string[] = [];
  for (let n = 0; n < RUNS; n += 1) {
    if (n % 100 === 0) {
      // Whatever was done to people, crews and passwords on the way is put right again.
      await server.store.query(
        'UPDATE firm_user u SET disabled = false, password_hash = (SELECT password_hash FROM firm_user WHERE id = $1)',
        [PEOPLE.tomas.id],
      );
      for (const who of ['ines', 'maren', 'pavel'] as const) await signIn(who);
      await newShower();
    }
    const request = choice.oneIn(4) ? entriesTo(choice) : fuzzRequest(choice, ROUTES, idsNow());
    const { status, text } = await send(request).catch((error: Error) => ({ status: 599, text: error.message }));
    counts.set(status, (counts.get(status) ?? 0) + 1);
    // Busy is an answer; anything else from 500 on is a failure of ours.
    if (status >= 500 && status !== 503) {
      const { who, method, path, headers, body } = request;
      bad.push(
        `#${n} ${status} ${who} ${method} ${path} ${JSON.stringify(headers)} ${body?.toString().slice(0, 300)} -> ${text}`,
      );
    }
  }
  console.log(
    `fuzz: ${RUNS} requests, seed ${SEED}: ${[...counts]
      .sort()
      .map(([s, k]) => `${s} ${k}`)
      .join(', ')}`,
  );
  expect(bad).toEqual([]);
  expect(counts.get(200) ?? 0).toBeGreaterThan(RUNS / 20);
}, 3_600_000);
