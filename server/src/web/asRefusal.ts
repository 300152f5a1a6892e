import { Refusal } from '../people/refusal';

/** What PostgreSQL says of a value that it can't keep: a letter of nothing, a number too large, a day that is none. */
const NOT_A_VALUE = new Set(['22P05', '22021', '22P02', '22003', '22001', '22007', '22008', '22023', '54000']);
/** What it says when it has no room for one more, is being stopped, or has its databases change places after a restore. */
const NO_ROOM = new Set(['53300', '53200', '3D000', '57P01', '57P02', '57P03', '55P03', '57014']);
/** What the driver says when no connection came free in time, or none could be made. */
const NO_CONNECTION =
  /timeout exceeded when trying to connect|Connection terminated|ECONNREFUSED|ECONNRESET|EPIPE|Query runner already released|not queryable/;

const fromStatus: Readonly<Record<number, () => Refusal>> = {
  400: () =>
    new Refusal('request-invalid', 'request', 'This request can not be read. Check the address and what was sent.'),
  404: () => new Refusal('not-found', 'path', 'There is nothing at this address.'),
  413: () =>
    new Refusal(
      'too-large',
      'body',
      'This is too large: pictures may have 12 MB, lists of entries 8 MB, forms before signing in 10 kB. Send less at a time.',
    ),
  415: () =>
    new Refusal('media-unknown', 'body', 'What was sent is in a form that is not read here. Send JSON in UTF-8.'),
  416: () => new Refusal('request-invalid', 'range', 'The file does not have this part.'),
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
  if (type === 'entity.parse.failed') return new Refusal('input-invalid', 'body', 'What was sent is not JSON.');
  if (error instanceof URIError) return fromStatus[400]!();
  const sql = String(driverError?.code ?? code ?? '');
  if (NOT_A_VALUE.has(sql))
    return new Refusal(
      'input-invalid',
      'request',
      'Something in this request can not be kept: a letter, a number or a day that is none.',
    );
  if (NO_ROOM.has(sql) || NO_CONNECTION.test(String(message)))
    return new Refusal(
      'busy',
      'database',
      'The database has its hands full. What you typed is kept; try again in a moment.',
    );
  if (sql === '53100' || sql === 'ENOSPC')
    return new Refusal(
      'disk-full',
      'disk',
      "The server's disk is full. What you typed is kept on this tablet and goes out by itself when there is room. Tell a manager.",
    );
  const http = Number(status ?? statusCode);
  if (!(http >= 400 && http < 500)) return null;
  return (fromStatus[http] ?? fromStatus[400]!)();
}
