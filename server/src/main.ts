import { createServer } from 'node:http';
import { resolve } from 'node:path';
import { cleanUpRestores } from './backup/restoreBackup';
import { DEMO_ANYWHERE, isLoopback, readEnvironment, wantsDemo } from './environment/environment';
import { currentEpoch } from './firm/epoch';
import { createApp } from './http/createApp';
import { makeLogger } from './http/logger';
import { mailServer } from './mail/outbox';
import { makePapers } from './papers/papers';
import { picturePlaceOf } from './photos/picturePlace';
import { picturesAt } from './photos/picturesAt';
import { Refusal } from './refusals/refusal';
import { startRounds } from './rounds';
import { holdsDemo } from './setUp/demoHere';
import { loadDemo } from './setUp/loadDemo';
import { makeSetUpCode, needsSetUp } from './setUp/setUp';
import { oneAtATime, openStore } from './store/dataSource';
import { shipRuleBook } from './store/shipRuleBook';

/** Migrates, loads the demo firm into an empty database where that was asked for, serves until it is told to stop. */
async function main(): Promise<void> {
  const settings = readEnvironment(process.env);
  const { HOST: host, PORT: port } = settings;
  const logger = makeLogger(settings.LOG_LEVEL);
  const store = await openStore(settings.DATABASE_URL, undefined, {
    ms: settings.SLOW_QUERY_MS,
    tell: (ms, query) => logger.warn({ ms, query }, 'a slow question to the database'),
  });
  const publicUrl = settings.PUBLIC_URL ?? `http://${host}:${port}`;
  const picturePlace = picturePlaceOf(settings.PHOTO_FOLDER);
  // A wrong key or a missing bucket is told now; a store that does not answer yet is waited for, as pictures wait on tablets.
  await picturesAt(picturePlace)
    .read('0'.repeat(64))
    .catch((error: unknown) => {
      if (!(error instanceof Refusal)) throw error;
      logger.warn(error.message);
    });
  const papers = makePapers(settings.REPORTS_DATABASE_URL ?? settings.DATABASE_URL, picturePlace);
  const now = () => new Date();
  const { NIGHT_AT: at } = settings;
  const backups = settings.BACKUP_FOLDER ? { folder: resolve(settings.BACKUP_FOLDER), at } : null;
  const services = { store, picturePlace, now, mail: mailServer(settings), publicUrl, papers, backups };
  if (wantsDemo(settings) && (await needsSetUp(store))) await loadDemo();
  // Of several servers that begin at once on an empty database, one brings it up to date; one epoch is opened, one code is made.
  const code = await oneAtATime(store, async () => {
    await shipRuleBook(store);
    await currentEpoch(store, new Date());
    return makeSetUpCode(store, new Date());
  });
  const onlyHere = settings.DEMO !== DEMO_ANYWHERE && (await holdsDemo(store));
  if (onlyHere && !isLoopback(host))
    throw new Error(
      `This database holds the demo firm, whose passwords everybody knows, and HOST=${host} would let others in. "npm run real-firm" begins with your own firm; DEMO=${DEMO_ANYWHERE} shows the demo all the same.`,
    );
  await cleanUpRestores(settings.DATABASE_URL, Date.now());
  const stopRounds = startRounds(services, logger, {
    store,
    picturePlace,
    now,
    at,
    databaseUrl: settings.DATABASE_URL,
    backupFolder: backups?.folder ?? null,
    daily: settings.BACKUPS_DAILY,
    monthly: settings.BACKUPS_MONTHLY,
  });
  const generous =
    settings.RATE_LIMITS === 'off' ? { limits: { account: 100_000, address: 100_000, usual: 1_000_000 } } : {};
  const app = createApp({
    ...services,
    ...generous,
    logger,
    webFolder: resolve(settings.WEB_FOLDER),
    metricsToken: settings.METRICS_TOKEN ?? null,
    trustProxy: settings.TRUST_PROXY === '1',
    onlyHere,
  });
  const server = createServer(app);
  server.on('error', (error) => {
    console.error(`The server can't listen on ${host}:${port}: ${error.message}`);
    process.exit(1);
  });
  server.listen(port, host, () => {
    const serving = `SERVING http://${host}:${port}${onlyHere || settings.DEMO === DEMO_ANYWHERE ? ' DEMO' : ''}`;
    const empty = `This installation is empty. Set it up at ${publicUrl}/set-up with the code  ${code}`;
    // In one breath: whoever waits for the first line shows the second one with it.
    console.log(code ? `${serving}\n${empty}` : serving);
  });
  const stop = () => {
    stopRounds();
    papers.stop();
    server.close(() => void store.destroy().then(() => process.exit(0)));
    server.closeIdleConnections();
    setTimeout(() => process.exit(0), 5000).unref();
  };
  process.once('SIGINT', stop);
  process.once('SIGTERM', stop);
}

await main().catch((error: Error) => {
  // A sentence for whoever starts it; what nobody foresaw with the place where it happened.
  console.error(error.constructor === Error ? error.message : error);
  process.exit(1);
});
