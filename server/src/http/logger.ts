import type { IncomingMessage, ServerResponse } from 'node:http';
import { type Logger, pino } from 'pino';
import type { Options } from 'pino-http';

/** Structured logs on standard output; cookies, passwords and the codes of links never appear. */
export function makeLogger(level: string): Logger {
  return pino({ level, redact: ['req.headers.cookie', 'res.headers["set-cookie"]', 'req.headers.authorization'] });
}

/** A request with what it was answered by. */
type Answered = IncomingMessage & { route?: { path?: string }; id?: unknown; baseUrl?: string };

/** One line for each request: the route that answered, and not the address, which may hold the code of a link. */
export const REQUEST_LOG: Options<IncomingMessage, ServerResponse> = {
  autoLogging: { ignore: (req) => req.url === '/health' || req.url === '/ready' },
  serializers: { req: () => undefined, res: () => undefined },
  customProps: (req, res) => ({
    method: req.method,
    route: (req as Answered).route?.path ?? 'none',
    status: res.statusCode,
  }),
  customLogLevel: (_req, res, error) => (error || res.statusCode >= 500 ? 'error' : 'info'),
};
