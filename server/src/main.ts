import { createServer } from 'node:http';
import { resolve } from 'node:path';
import { loadDemoFirm } from './demoFirm';
import { currentEpoch } from './firm/epoch';
import { mailServer } from './mail/outbox';
import { startRounds } from './rounds';
import { openStore } from './store/dataSource';
import { shipRuleBook } from './store/shipRuleBook';
import { createApp } from './web/createApp';
import { makeLogger } from './web/logger';

/** Migrates, loads the demo firm into an empty database, serves until it is told to stop. */
async function main(): Promise<void> {
  const logger = makeLogger(process.env.LOG_LEVEL ?? 'warn');
  const url = process.env.DATABASE_URL;
  if (!url)
    throw new Error('DATABASE_URL is not set. Start with "npm start", or point it to a PostgreSQL 15 or newer.');
  const photoFolder = resolve(process.env.PHOTO_FOLDER ?? 'data/photos');
  const store = await openStore(url);
  const mail = mailServer(process.env);
  const services = { store, photoFolder, now: () => new Date(), mail };
  if (process.env.DEMO !== 'off') await loadDemoFirm(services);
  await shipRuleBook(store);
  await currentEpoch(store, new Date());
  const stopRounds = startRounds(services, logger);
  const generous = process.env.RATE_LIMITS === 'off' ? { limits: { signIn: 100_000, usual: 1_000_000 } } : {};
  const app = createApp({
    ...services,
    ...generous,
    logger,
    webFolder: resolve(process.env.WEB_FOLDER ?? 'dist/web'),
    trustProxy: process.env.TRUST_PROXY === '1',
  });
  const server = createServer(app);
  const host = process.env.HOST ?? '127.0.0.1';
  const port = Number(process.env.PORT ?? 4310);
  server.on('error', (error) => {
    console.error(`The server can't listen on ${host}:${port}: ${error.message}`);
    process.exit(1);
  });
  server.listen(port, host, () => console.log(`SERVING http://${host}:${port}`));
  const stop = () => {
    stopRounds();
    server.close(() => void store.destroy().then(() => process.exit(0)));
    server.closeIdleConnections();
    setTimeout(() => process.exit(0), 5000).unref();
  };
  process.once('SIGINT', stop);
  process.once('SIGTERM', stop);
}

await main();
