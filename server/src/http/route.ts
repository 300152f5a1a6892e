import { type Person, PHOTO_BYTES_AT_MOST } from '@careful-seam/contract/api/messages';
import type { Role } from '@careful-seam/core/log/roles';
import { issueValues } from '@careful-seam/core/outcome/issueValues';
import { LANGUAGES, type Language, type Words } from '@careful-seam/words/texts/language';
import { makeWords } from '@careful-seam/words/texts/words';
import express, { type Request, type Response } from 'express';
import type { DataSource } from 'typeorm';
import type { z } from 'zod';
import type { Deed } from '../audit/audit';
import type { MailServer } from '../mail/outbox';
import type { Papers } from '../papers/papers';
import { Refusal } from '../refusals/refusal';

/** What answers may need. */
export interface Services {
  /** The database. */
  store: DataSource;
  /** Where pictures lie: a folder, or an address of a store. */
  picturePlace: string;
  /** The moment it is asked at. */
  now: () => Date;
  /** Null: mail stays in the simulated outbox. */
  mail: MailServer | null;
  /** Makes what leaves as a file, beside the server. */
  papers: Papers;
  /** Address under which people reach the application, without a slash at its end. */
  publicUrl: string;
  /** Where backups go by themselves, and when; without it nowhere. */
  backups?: { folder: string; at: string } | null;
  /** Tries to sign in as one account in a minute; the usual ones without it. */
  limits?: { account: number };
}

/** A request that may be answered. */
export interface Call {
  /** As it came. */
  req: Request;
  /** For what is more than an answer. */
  res: Response;
  /** Always set on routes that ask for a role. */
  person: Person;
  /** Database, pictures, clock and all else that an answer may need. */
  services: Services;
}

/** The cookie of a session. */
export const COOKIE = 'careful_seam';

/** One row of the route table: who may call it, what it takes and gives, and what answers. The role test walks this list. */
export interface Route {
  /** Of HTTP. */
  method: 'get' | 'post' | 'put' | 'delete';
  /** With its parameters, as Express writes them. */
  path: string;
  /** One line for the API's own description. */
  summary: string;
  /** Who may ask. */
  roles: readonly Role[] | 'anyone';
  /** Which limit counts it. */
  limit: 'sign-in' | 'usual';
  /** `stream`: the handler reads the request itself. */
  body?: 'json' | 'file' | 'bytes' | 'stream';
  /** Schema of what stands behind the question mark of its address. */
  asks?: z.ZodObject;
  /** Schema of what it takes, where it takes JSON. */
  takes?: z.ZodType;
  /** Schema of what it gives, or the media type of the file that it gives. */
  gives: z.ZodType | string;
  /** What the audit writes down before the answer leaves; `res.locals.about` says about what, else the path does. */
  did?: Deed;
  /** What is answered, as data or as a `FileOut`; undefined where it answered itself, which a route with `did` never does. */
  answer: (call: Call) => Promise<unknown>;
}

/** Checks a body against its schema; the first fault is named by its field. */
export function read<T extends z.ZodType>(schema: T, input: unknown): z.infer<T> {
  const result = schema.safeParse(input);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  const field = issue.path.join('.');
  throw new Refusal('input-invalid', field, issueValues(issue, field));
}

/** Checks what stands behind the question mark of an address, as {@link read} does; `?after=` with nothing behind it was not asked. */
export function readQuery<T extends z.ZodType>(schema: T, query: Record<string, unknown>): z.infer<T> {
  return read(schema, Object.fromEntries(Object.entries(query).filter(([, value]) => value !== '')));
}

/** The language that an answer is wanted in: `?lang=`, else what the browser asks for. */
export function languageOf(req: Request): Language {
  const asked = LANGUAGES.find((language) => language === req.query.lang);
  return asked ?? ((req.acceptsLanguages([...LANGUAGES]) || 'en') as Language);
}

/** The words of the language that an answer is wanted in. */
export const wordsFor = (req: Request): Words => makeWords(languageOf(req)).t;

/** A parameter of the path. */
export const param = (req: Request, name: string): string => String(req.params[name] ?? '');

/** True for an id. */
export const isUuid = (id: string): boolean => /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(id);

/** What is said of an id that nobody has. */
const NO_SUCH = { shower: 'no-such-shower', person: 'no-such-person', link: 'no-such-link' } as const;

/** The id in an address; one that is none names nothing. */
export function uuidParam(req: Request, what: keyof typeof NO_SUCH = 'shower'): string {
  const id = param(req, 'id');
  if (!isUuid(id)) throw new Refusal(NO_SUCH[what], 'id');
  return id;
}

/** Server time less the device's, ms. */
export const skewOf = (clock: string, now: Date): number => now.getTime() - Date.parse(clock);

/** Sets the cookie of a session that was just opened. */
export function setSessionCookie(req: Request, res: Response, token: string, expires: Date): void {
  res.cookie(COOKIE, token, { httpOnly: true, sameSite: 'strict', secure: req.secure, path: '/', expires });
}

/** Body parsers, set per route so that nothing else is read into memory. */
export const PARSERS = {
  /** Of somebody who is not signed in: a name and a password, a code. */
  stranger: express.json({ limit: '10kb' }),
  /** Of an empty installation: a firm with all of its people. */
  firstDay: express.json({ limit: '500kb' }),
  json: express.json({ limit: '8mb' }),
  file: express.json({ limit: '200mb' }),
  bytes: express.raw({ type: () => true, limit: PHOTO_BYTES_AT_MOST }),
};
