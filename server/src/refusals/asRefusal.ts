import { Refusal } from './refusal';

/** What PostgreSQL says of a value that it can't keep: a letter of nothing, a number too large, a day that is none. */
const NOT_A_VALUE = new Set(['22P05', '22021', '22P02', '22003', '22001', '22007', '22008', '22023', '54000']);
/** What it says when it has no room for one more, is being stopped, or has its databases change places after a restore. */
const NO_ROOM = new Set(['53300', '53200', '3D000', '57P01', '57P02', '57P03', '55P03', '57014']);
/** What the driver says when no connection came free in time, or none could be made. */
const NO_CONNECTION =
  /timeout exceeded when trying to connect|Connection terminated|ECONNREFUSED|ECONNRESET|EPIPE|Query runner already released|not queryable/;

const fromStatus: Readonly<Record<number, () => Refusal>> = {
  400: () => new Refusal('request-unreadable', 'request'),
  404: () => new Refusal('no-such-address', 'path'),
  413: () => new Refusal('too-large', 'body'),
  415: () => new Refusal('media-unknown', 'body'),
  416: () => new Refusal('no-such-part', 'range'),
};

/** An error of a library or of the database as the refusal that it means; null for one that nobody foresaw. */
export function asRefusal(error: unknown): Refusal | null {
  if (error instanceof Refusal) return error;
  if (typeof error !== 'object' || error === null) return null;
  const { status, statusCode, code, driverError, message, type } = error as {
    status?: unknown;
    statusCode?: unknown;
    code?: unknown;
    driverError?: { code?: unknown };
    message?: unknown;
    type?: unknown;
  };
  if (type === 'entity.parse.failed') return new Refusal('body-not-json', 'body');
  if (error instanceof URIError) return fromStatus[400]!();
  const sql = String(driverError?.code ?? code ?? '');
  if (NOT_A_VALUE.has(sql)) return new Refusal('request-not-kept', 'request');
  if (NO_ROOM.has(sql) || NO_CONNECTION.test(String(message))) return new Refusal('database-busy', 'database');
  if (sql === '53100' || sql === 'ENOSPC') return new Refusal('disk-full', 'disk');
  const http = Number(status ?? statusCode);
  if (!(http >= 400 && http < 500)) return null;
  return (fromStatus[http] ?? fromStatus[400]!)();
}
