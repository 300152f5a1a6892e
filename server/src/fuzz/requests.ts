import { BODIES, ENTRY_KINDS } from '@careful-seam/core/log/bodies';
import type { Author } from '@careful-seam/core/log/entry';
import { writeEntry } from '@careful-seam/core/log/writeEntry';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import { z } from 'zod';
import type { Route } from '../http/route';

/** One request as it goes over the wire, with nothing set right by a client's library. */
export interface FuzzRequest {
  /** As whom it is asked. */
  who: 'nobody' | 'ines' | 'maren' | 'pavel';
  /** Of HTTP. */
  method: string;
  /** With its query. */
  path: string;
  /** All but the cookie. */
  headers: Record<string, string>;
  /** Null for none. */
  body: Buffer | null;
}

/** Seeded choices: the same seed makes the same requests. */
export class Choice {
  private readonly rng;
  constructor(seed: number) {
    this.rng = xoroshiro128plus(Math.imul(seed + 1, 0x9e3779b1));
  }
  /** A whole number from 0 up to and without n. */
  below(n: number): number {
    return (this.rng.next() >>> 0) % n;
  }
  of<T>(list: readonly T[]): T {
    return list[this.below(list.length)]!;
  }
  /** True one time in n. */
  oneIn(n: number): boolean {
    return this.below(n) === 0;
  }
}

/** Words that have broken programs before. */
const WORDS = [
  '',
  ' ',
  'a',
  'x'.repeat(5000),
  '\u0000',
  '\ud83d',
  '../../etc/passwd',
  '%00',
  "'; DROP TABLE entry; --",
  '<script>1</script>',
  'null',
  '1e999',
  '🚿',
  '00000000-0000-4000-8000-000000000000',
  'FFFFFFFF-FFFF-4FFF-8FFF-FFFFFFFFFFFF',
  'f'.repeat(64),
  '2026-02-31T25:61:00Z',
  '+999999-01-01T00:00:00.000Z',
  'America/Nowhere',
  '__proto__',
  'constructor',
];
/** Figures that have. */
const NUMBERS = [0, -0, -1, 1, 0.5, 1e-320, 1e9, 2 ** 31, 2 ** 53, 1e300, -1e300];
/** Anything but what is asked for. */
const JUNK: readonly unknown[] = [null, true, [], {}, [[]], { a: { b: {} } }, { __proto__: 1 }, ...WORDS, ...NUMBERS];

/** A JSON schema. */
type Schema = Record<string, unknown>;

/** A value that a schema would nearly take: sound in most places, odd in some. */
export function nearly(c: Choice, schema: unknown, depth = 0): unknown {
  if (c.oneIn(12) || depth > 8 || schema === null || typeof schema !== 'object') return c.of(JUNK);
  const s = schema as Schema;
  const choices = (s.anyOf ?? s.oneOf) as unknown[] | undefined;
  if (choices) return nearly(c, c.of(choices), depth + 1);
  if (s.const !== undefined) return s.const;
  if (Array.isArray(s.enum)) return c.of(s.enum);
  switch (s.type) {
    case 'object': {
      const fields = Object.entries((s.properties as Schema | undefined) ?? {});
      const made: [string, unknown][] = fields
        .filter(() => !c.oneIn(10))
        .map(([key, inner]) => [key, nearly(c, inner, depth + 1)]);
      if (c.oneIn(10)) made.push([c.of(WORDS), c.of(JUNK)]);
      return Object.fromEntries(made);
    }
    case 'array':
      // A long list in a long list in a long list would be longer than a string can be.
      return Array.from({ length: c.oneIn(20) ? (depth < 3 ? 300 : 6) : c.below(3) }, () =>
        nearly(c, s.items, depth + 1),
      );
    case 'string':
      return s.format === 'uuid'
        ? c.of([crypto.randomUUID(), ...WORDS])
        : c.of(['in', 'en', 'letter', 'floor', ...WORDS]);
    case 'number':
    case 'integer':
      return c.oneIn(2) ? c.below(100) : c.of(NUMBERS);
    case 'boolean':
      return c.oneIn(2);
    default:
      return c.of(JUNK);
  }
}

/** Kinds of entries that come after the first. */
const KINDS = ENTRY_KINDS.filter((kind) => kind !== 'shower-created');

/**
 * Entries that are sealed and chained as they should be, with bodies that their schemas would nearly take: what is taken in of
 * them must stop no record, calendar, list or sheet.
 */
export function fuzzEntry(c: Choice, showerId: string, author: Author): string {
  const kind = c.of(KINDS);
  const body = nearly(c, z.toJSONSchema(BODIES[kind], { io: 'input', unrepresentable: 'any' }));
  const end = { deviceId: crypto.randomUUID(), deviceSeq: 0, prevDeviceHash: null, lastOrderAt: null };
  const draft = {
    id: crypto.randomUUID(),
    showerId,
    kind,
    body: body as never,
    author,
    geometryVersion: 1,
    nowMs: Date.now(),
    offsetMinutes: 0,
  };
  try {
    return writeEntry(draft, end).sealed.text;
  } catch {
    return JSON.stringify(body) ?? 'null';
  }
}

/** Lists in lists. */
const deep = (n: number): string => `${'['.repeat(n)}${']'.repeat(n)}`;

/** A body for a route: right, nearly right, or nonsense. */
function bodyOf(c: Choice, route: Route): { body: Buffer | null; type: string } {
  if (!route.body || c.oneIn(15)) return { body: c.oneIn(3) ? Buffer.from('left over') : null, type: 'text/plain' };
  const json = 'application/json';
  if (c.oneIn(12))
    return {
      body: Buffer.from(c.of(['', '{', 'null', '[1,', '"x"', deep(20_000), '{"a":1e999}', '\ufeff{}'])),
      type: json,
    };
  if (route.body === 'bytes' || route.body === 'stream')
    return {
      body: Buffer.from(Array.from({ length: c.below(4000) }, () => c.below(256))),
      type: c.of(['image/jpeg', 'application/x-tar', '']),
    };
  const schema = route.takes ? z.toJSONSchema(route.takes, { io: 'input', unrepresentable: 'any' }) : {};
  return { body: Buffer.from(JSON.stringify(nearly(c, schema)) ?? 'null'), type: json };
}

/** The n-th request of a seed, to one of the routes or beside them; `ids` are things that are there. */
export function fuzzRequest(c: Choice, routes: readonly Route[], ids: readonly string[]): FuzzRequest {
  const route = c.of(routes);
  const segment = () =>
    encodeURIComponent(c.of([...ids, ...ids, ...ids, ...WORDS.filter((w) => w !== '\ud83d')])) || '-';
  let path = route.path.replaceAll(/:\w+/g, segment);
  if (c.oneIn(8)) path += c.of(['/', '//', '/%', '/%zz', '/%C0%80', '/..%2f..%2f', '?', '/extra']);
  if (c.oneIn(3))
    path += `?${c.of(['q', 'after', 'width', 'unit', 'origin', 'language'])}=${encodeURIComponent(c.of(WORDS.filter((w) => w !== '\ud83d')))}`;
  if (c.oneIn(40))
    path = c.of(['/', '/assets/missing.js', '/api', '/api/', '/%', '/favicon.ico', '/set-up', `/${'x'.repeat(4000)}`]);
  const { body, type } = bodyOf(c, route);
  const headers: Record<string, string> = {
    ...(c.oneIn(20) ? {} : { 'x-careful-seam': '1' }),
    ...(type && !c.oneIn(20) ? { 'content-type': type } : {}),
    ...(c.oneIn(25) ? { 'content-encoding': c.of(['gzip', 'br', 'deflate', 'zstd', 'nonsense']) } : {}),
    ...(c.oneIn(25)
      ? {
          'content-type': c.of([
            'application/json; charset=utf-99',
            'multipart/form-data',
            ';;',
            'application/json;charset=utf-16',
          ]),
        }
      : {}),
    ...(c.oneIn(25)
      ? {
          cookie: c.of([
            'careful_seam=',
            'careful_seam=j:{"a":1}',
            'careful_seam=%00',
            `careful_seam=${'x'.repeat(3000)}`,
          ]),
        }
      : {}),
    ...(c.oneIn(25) ? { 'x-forwarded-for': c.of(['', '1.2.3.4', 'nonsense', ',,,']) } : {}),
    ...(c.oneIn(25) ? { range: c.of(['bytes=9-1', 'bytes=-', 'lines=1-2']) } : {}),
    ...(c.oneIn(25) ? { 'if-none-match': '*' } : {}),
  };
  const method = c.oneIn(15)
    ? c.of(['GET', 'POST', 'PUT', 'DELETE', 'PATCH', 'OPTIONS', 'HEAD'])
    : route.method.toUpperCase();
  return { who: c.of(['nobody', 'ines', 'maren', 'maren', 'pavel']), method, path, headers, body };
}
