import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type { Person } from '@careful-seam/contract/api/messages';
import { withMessage } from '@careful-seam/words/errors/errors';
import compression from 'compression';
import cookieParser from 'cookie-parser';
import express, { type Express, type NextFunction, type Request, type RequestHandler, type Response } from 'express';
import expressStaticGzip from 'express-static-gzip';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { type Deed, NOBODY, writeAudit } from '../audit/audit';
import { makeMetrics } from '../operations/metrics';
import { findSession } from '../people/sessions';
import { asRefusal } from '../refusals/asRefusal';
import { Refusal } from '../refusals/refusal';
import { cameFromHere } from '../setUp/demoHere';
import { FileOut } from './fileOut';
import { atTheDoor, inside, type Limits, takeTry, USUAL_LIMITS } from './limits';
import { REQUEST_LOG } from './logger';
import { COOKIE, languageOf, PARSERS, type Route, type Services } from './route';
import { ROUTES } from './routes';

/** What the application is set up with. */
export interface AppOptions extends Services {
  /** A line a request. */
  logger: Logger;
  /** Folder of the built interface, or null to serve the API alone. */
  webFolder: string | null;
  /** How many tries and requests; the usual ones without it. */
  limits?: Limits;
  /** A proxy before it says where a request comes from. */
  trustProxy?: boolean;
  /** Whoever shows it may read the metrics; without it nobody may. */
  metricsToken?: string | null;
  /** Only this machine itself is answered: the demo firm's passwords are known to everybody. */
  onlyHere?: boolean;
}

/** Requests that change something must come from our own pages: a header that other sites can't set. */
function refuseCrossSite(req: Request, _res: Response, next: NextFunction): void {
  const reads = req.method === 'GET' || req.method === 'HEAD';
  if (reads || req.get('x-careful-seam') === '1') return next();
  next(new Refusal('cross-site', 'x-careful-seam'));
}

/** The invented firm is for whoever sits at this machine: what a proxy or another name brings in is refused. */
function refuseFromElsewhere(req: Request, _res: Response, next: NextFunction): void {
  if (cameFromHere((name) => req.get(name))) return next();
  next(new Refusal('demo-here-only', 'host'));
}

/** Writes down that somebody asked for what is not theirs: once a minute for each person and route, however often they try. */
async function noteRefused({ method, path }: Route, who: Person, { store, now }: Services): Promise<void> {
  const isFirst = await takeTry(store, `refused ${who.id} ${method} ${path}`, 1, now()).then(
    () => true,
    () => false,
  );
  if (isFirst) await writeAudit(store, { who, did: 'refused', about: `${method.toUpperCase()} ${path}` }, now());
}

/** Who is signed in, refused where the route is not for them. */
async function whoCalls(route: Route, req: Request, res: Response, services: Services): Promise<Person | null> {
  if (route.roles === 'anyone') return null;
  const token: unknown = req.cookies[COOKIE];
  const session = typeof token === 'string' ? await findSession(services.store, token, services.now()) : null;
  if (!session) throw new Refusal('not-signed-in', 'session');
  if (!route.roles.includes(session.person.role)) {
    await noteRefused(route, session.person, services);
    throw new Refusal('role-may-not', 'role');
  }
  res.locals.expiresAt = session.expiresAt.toISOString();
  return session.person;
}

/** Writes down who did it; a handler may say about what, and who, when nobody is signed in. */
async function note(did: Deed, req: Request, res: Response, { store, now }: AppOptions): Promise<void> {
  const { person, about, who } = res.locals as {
    person: Person | null;
    about?: string;
    who?: Pick<Person, 'id' | 'name'>;
  };
  await writeAudit(store, { who: who ?? person ?? NOBODY, did, about: about ?? req.path }, now());
}

/** What a body is read with: of somebody who is not signed in no more than a form holds. */
function parserOf({ body, roles, path }: Route) {
  if (!body || body === 'stream') return [];
  if (roles !== 'anyone') return [PARSERS[body]];
  return [path === '/api/set-up' ? PARSERS.firstDay : PARSERS.stranger];
}

/** One route with its limits, its person and its schema. */
function mount(app: Express, route: Route, options: AppOptions, limit: readonly RequestHandler[]): void {
  const admit = async (req: Request, res: Response, next: NextFunction) => {
    res.locals.person = await whoCalls(route, req, res, options);
    next();
  };
  const answer = async (req: Request, res: Response) => {
    const given = await route.answer({ req, res, person: res.locals.person as Person, services: options });
    try {
      if (route.did) await note(route.did, req, res, options);
      if (given instanceof FileOut) await given.send(res);
      else if (given !== undefined) res.set('Cache-Control', 'no-store').json(given);
    } finally {
      if (given instanceof FileOut) await given.done();
    }
  };
  const parser = parserOf(route);
  app[route.method](route.path, ...limit, admit, ...parser, answer);
}

/** Every error becomes one shape; an unknown one is logged under an id that the screen shows. */
function answerErrors(logger: Logger) {
  return (error: unknown, req: Request, res: Response, _next: NextFunction): void => {
    if (res.headersSent) {
      // The answer had begun: it can only be broken off.
      logger.error({ err: error }, 'broken off');
      res.destroy();
      return;
    }
    const known = asRefusal(error);
    if (known) {
      if (known.status === 503) res.set('Retry-After', '5');
      res.status(known.status).json({ error: withMessage(known.problem, languageOf(req)) });
      return;
    }
    const id = String(req.id ?? randomUUID());
    logger.error({ err: error, id }, 'unexpected');
    const problem = { code: 'internal', field: '', values: { id } };
    res.status(500).json({ error: { ...withMessage(problem, languageOf(req)), id } });
  };
}

/** What a page tells the browser of itself; a part of it has no window, and pays for each word on a slow phone. */
const OF_A_PAGE = [
  'Cross-Origin-Opener-Policy',
  'Origin-Agent-Cluster',
  'X-DNS-Prefetch-Control',
  'X-Download-Options',
  'X-Frame-Options',
  'X-Permitted-Cross-Domain-Policies',
  'X-XSS-Protection',
];
/** Leaves them out. A part that works beside the page reaches this server alone, as the page. */
function asPart(_req: Request, res: Response, next: NextFunction): void {
  for (const name of OF_A_PAGE) res.removeHeader(name);
  res.set('Content-Security-Policy', "default-src 'self';frame-ancestors 'none'");
  next();
}

/** The interface, and its first page for every address of it. */
function serveWeb(app: Express, folder: string): void {
  // What was packed when it was built goes out as it is.
  const packed = { enableBrotli: true, orderPreference: ['br', 'gz'] as ('br' | 'gz')[] };
  const assets = { immutable: true, maxAge: '1y', fallthrough: false } as const;
  app.use('/assets', asPart, expressStaticGzip(join(folder, 'assets'), { ...packed, serveStatic: assets }));
  // A homeowner's link opens a page of its own, without the application behind it.
  app.get('/r/:code', (_req, res) => void res.set('Cache-Control', 'no-cache').sendFile(join(folder, 'record.html')));
  app.use(express.static(folder, { index: false, maxAge: 0 }));
  app.get('/{*splat}', (req, res, next) => {
    if (req.path.startsWith('/api/')) return next();
    res.set('Cache-Control', 'no-cache').sendFile(join(folder, 'index.html'));
  });
}

/** Text is packed on its way; pictures, printed records and backups are packed already, or as large as they are. */
const isWorthPacking = (_req: Request, res: Response): boolean =>
  /json|text|javascript|svg|manifest/.test(String(res.getHeader('Content-Type') ?? ''));

/** What answers of the API carry. */
const API_HEADERS = { 'X-Content-Type-Options': 'nosniff', 'Referrer-Policy': 'no-referrer' };
/** Puts them on. */
function slimHeaders(_req: Request, res: Response, next: NextFunction): void {
  res.set({ ...API_HEADERS, 'Content-Security-Policy': "default-src 'none'; frame-ancestors 'none'" });
  next();
}

/** The whole HTTP application, without a listening socket. */
export function createApp(options: AppOptions): Express {
  const { logger, store, webFolder } = options;
  const limits = options.limits ?? USUAL_LIMITS;
  const app = express();
  app.disable('x-powered-by');
  if (options.trustProxy) app.set('trust proxy', 1);
  app.use(pinoHttp({ ...REQUEST_LOG, logger, genReqId: () => randomUUID() }));
  const metrics = makeMetrics(store, options.picturePlace, options.metricsToken ?? null);
  app.use(metrics.count);
  app.use(compression({ filter: isWorthPacking }));
  // A browser shows nothing of what the API answers: a tablet asks every few seconds, and need not be told more each time.
  app.use('/api', slimHeaders);
  const pageHeaders = helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'none'"],
        scriptSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'blob:', 'data:'],
        fontSrc: ["'self'"],
        // A laser's bridge runs on the tablet itself; nothing farther away can be reached.
        connectSrc: ["'self'", 'http://127.0.0.1:*', 'http://localhost:*'],
        workerSrc: ["'self'"],
        manifestSrc: ["'self'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    strictTransportSecurity: false,
  });
  app.use((req, res, next) => (req.path.startsWith('/api/') ? next() : pageHeaders(req, res, next)));
  // Once by TLS, always by TLS; on the machine itself there is none.
  app.use((req, res, next) => {
    if (req.secure) res.set('Strict-Transport-Security', 'max-age=31536000');
    next();
  });
  if (options.onlyHere) app.use(refuseFromElsewhere);
  app.use(cookieParser());
  app.get('/metrics', metrics.answer);
  app.get('/health', (_req, res) => void res.json({ ok: true }));
  app.get('/ready', async (_req, res) => {
    await store.query('SELECT 1').catch(() => {
      throw new Refusal('not-ready', 'database');
    });
    res.json({ ok: true });
  });
  app.use('/api', refuseCrossSite);
  const usual = inside(limits);
  const door = [atTheDoor(store, limits, options.now)];
  for (const route of ROUTES) mount(app, route, { ...options, limits }, route.limit === 'sign-in' ? door : usual);
  if (webFolder && existsSync(webFolder)) serveWeb(app, webFolder);
  app.use((_req, _res, next) => next(new Refusal('no-such-address', 'path')));
  app.use(answerErrors(logger));
  return app;
}
