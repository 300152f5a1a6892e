import { type Logger, pino } from 'pino';

/** Structured logs on standard output; cookies and passwords never appear. */
export function makeLogger(level: string): Logger {
  return pino({ level, redact: ['req.headers.cookie', 'res.headers["set-cookie"]', 'req.headers.authorization'] });
}
