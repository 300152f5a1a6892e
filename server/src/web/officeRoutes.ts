import { createWriteStream } from 'node:fs';
import { mkdtemp, rm, statfs } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { FirmSettings } from '@careful-seam/contract/api/firm';
import { RuleBookAnswer } from '@careful-seam/contract/api/messages';
import {
  AuditPage,
  BookList,
  FirmKeyAnswer,
  JobList,
  LeakLimit,
  Outbox,
  PublishBook,
  PutJob,
  RestoreState,
  ServerState,
  Visit,
} from '@careful-seam/contract/api/office';
import { compareBooks } from '@careful-seam/core/proof/shown/compareBooks';
import { told } from '@careful-seam/words/errors/errors';
import type { Request } from 'express';
import { z } from 'zod';
import { readAudit, writeAudit } from '../audit/audit';
import { makeBackup, urlOf } from '../backup/makeBackup';
import { beginRestore, type RestoreStands, restoreState } from '../backup/restoreJob';
import { firmKey } from '../firm/firmKey';
import { setSmallestLeak } from '../firm/limits';
import { writeSettings } from '../firm/settings';
import { listJobs, putJob, setVisit } from '../jobs/jobs';
import { SECRET } from '../mail/outbox';
import { serverState } from '../operations/serverState';
import { Refusal } from '../people/refusal';
import { listBooks, publishBook } from '../rules/publishBook';
import { visibleShower } from '../showers/loadShower';
import { MailEntity, type MailRow, PhotoEntity } from '../store/entities';
import { type Call, languageOf, param, type Route, read, uuidParam } from './route';

const MANAGING = { roles: ['manager'] as const, limit: 'usual' as const };
const MAIL_AT_MOST = 200;

async function changeSettings({ req, res, services }: Call): Promise<unknown> {
  const settings = read(FirmSettings, req.body);
  if (settings.logo !== null && !(await services.store.getRepository(PhotoEntity).existsBy({ hash: settings.logo })))
    throw new Refusal('logo-not-arrived', 'logo');
  await writeSettings(services.store, settings);
  res.locals.about = settings.name;
  return settings;
}

async function changeLeakLimit({ req, res, services }: Call): Promise<unknown> {
  const { smallestLeakMmPerDay } = read(LeakLimit, req.body);
  const version = await setSmallestLeak(services.store, smallestLeakMmPerDay);
  res.locals.about = `${smallestLeakMmPerDay ?? 'none'} mm a day, rule book version ${version}`;
  return { smallestLeakMmPerDay };
}

async function publish({ req, res, services }: Call): Promise<unknown> {
  const { book: draft, basedOn } = read(PublishBook, req.body);
  const { before, book } = await publishBook(services.store, draft, basedOn);
  const { checks, choices } = compareBooks(before, book);
  const named = [
    ...checks.map((d) => `${(d.after ?? d.before)!.id} (${d.method})`),
    ...choices.map((c) => `${c.question}: ${c.after ?? 'as shipped'}`),
  ];
  res.locals.about = `rule book version ${book.version}: ${named.slice(0, 20).join('; ')}`;
  return { book };
}

async function changeJob({ req, res, services }: Call): Promise<unknown> {
  const job = read(PutJob, req.body);
  await putJob(services.store, param(req, 'job'), job);
  res.locals.about = param(req, 'job');
  return job;
}

async function planVisit({ req, res, person, services }: Call): Promise<unknown> {
  const visit = read(Visit, req.body);
  const row = await visibleShower(services.store, person, uuidParam(req));
  await setVisit(services.store, row.id, visit);
  res.locals.about = `${row.name}, ${row.job}: ${visit.visitOn ?? 'no day'}`;
  return visit;
}

async function outbox({ services }: Call): Promise<unknown> {
  const rows = await services.store.getRepository(MailEntity).find({ order: { madeAt: 'DESC' }, take: MAIL_AT_MOST });
  // Without a mail server the manager hands a link on by hand; with one it is for its recipient alone.
  const shown = (m: MailRow) => m.words.replaceAll(SECRET, (services.mail === null ? m.secret : null) ?? '…');
  const mail = rows.map((m) => ({
    id: m.id,
    recipient: m.recipient,
    subject: m.subject,
    words: shown(m),
    problem: m.problem,
    madeAt: m.madeAt.toISOString(),
    sentAt: m.sentAt?.toISOString() ?? null,
  }));
  return { real: services.mail !== null, mail };
}

async function audit({ req, services }: Call): Promise<unknown> {
  const before = new Date(String(req.query.before ?? ''));
  const { rows, more } = await readAudit(services.store, Number.isNaN(before.getTime()) ? null : before);
  return { lines: rows.map(({ id, at, who, did, about }) => ({ id, at: at.toISOString(), who, did, about })), more };
}

async function backup({ res, services }: Call): Promise<undefined> {
  const now = services.now();
  const folder = await mkdtemp(join(tmpdir(), 'seam-backup-out-'));
  const file = join(folder, `careful-seam-${now.toISOString().slice(0, 10)}.tar`);
  try {
    const { showers, entries, photos } = await makeBackup(services.store, services.picturePlace, file, now);
    res.locals.about = `${showers} showers, ${entries} entries, ${photos} pictures`;
    await new Promise<void>((done, fail) => res.download(file, (error) => (error ? fail(error) : done())));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
  return undefined;
}

/** Bytes that may be taken in: half of what is free there, since what is unpacked needs as much again. */
async function roomFor(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder);
  return (bavail * bsize) / 2;
}

/** Lets so many bytes through and refuses more. */
function upTo(most: number): Transform {
  let seen = 0;
  return new Transform({
    transform(part: Buffer, _encoding, done) {
      seen += part.length;
      if (seen <= most) return done(null, part);
      done(new Refusal('no-room-for-file', 'file'));
    },
  });
}

/** How a restore stands, with the sentence of what went wrong. */
const toldRestore = ({ problem, ...stands }: RestoreStands, req: Request): RestoreState => ({
  ...stands,
  problem: problem && told(problem, languageOf(req)),
});

/** Takes a backup in and begins to put it in force; how that goes is asked for, since it may take many minutes. */
async function restore({ req, person, services }: Call): Promise<RestoreState> {
  const { store, picturePlace, now } = services;
  const folder = await mkdtemp(join(tmpdir(), 'seam-restore-in-'));
  const clear = () => rm(folder, { recursive: true, force: true });
  try {
    const file = join(folder, 'backup.tar');
    await pipeline(req, upTo(await roomFor(folder)), createWriteStream(file));
    const begun = beginRestore({ file, url: urlOf(store), picturePlace, nowMs: now().getTime() }, async (found) => {
      await clear();
      if (!found) return;
      const { madeAt, showers, entries, photos, faults } = found;
      const about = `backup of ${madeAt}: ${showers} showers, ${entries} entries, ${photos} pictures, ${faults} faults`;
      // The first question to the database that is in force now finds the old connections closed.
      const write = () => writeAudit(store, { who: person, did: 'restored', about }, now());
      await write().catch(write);
    });
    return toldRestore(begun, req);
  } catch (error) {
    await clear();
    throw error;
  }
}

/** The office: settings, jobs, visits, mail, the audit, backup and restore. */
export const OFFICE_ROUTES: readonly Route[] = [
  {
    ...MANAGING,
    method: 'put',
    path: '/api/firm/settings',
    summary: 'Sets what holds for the whole firm',
    body: 'json',
    takes: FirmSettings,
    gives: FirmSettings,
    did: 'settings-changed',
    answer: changeSettings,
  },
  {
    ...MANAGING,
    method: 'put',
    path: '/api/firm/leak-limit',
    summary: 'Sets the smallest leak that a flood test must exclude, in a new version of the rule book',
    body: 'json',
    takes: LeakLimit,
    gives: LeakLimit,
    did: 'leak-limit-changed',
    answer: changeLeakLimit,
  },
  {
    ...MANAGING,
    method: 'get',
    path: '/api/rule-books',
    summary: 'The versions of the rule book, newest first',
    gives: BookList,
    answer: async ({ services }) => ({ books: await listBooks(services.store) }),
  },
  {
    ...MANAGING,
    method: 'put',
    path: '/api/rule-books',
    summary: 'Publishes a draft as the next version of the rule book',
    body: 'json',
    takes: PublishBook,
    gives: RuleBookAnswer,
    did: 'rule-book-published',
    answer: publish,
  },
  {
    method: 'get',
    path: '/api/firm/key',
    summary: "The firm's public key",
    roles: 'anyone',
    limit: 'usual',
    gives: FirmKeyAnswer,
    answer: async ({ services }) => ({
      algorithm: 'Ed25519',
      publicKey: (await firmKey(services.store, services.now())).publicKey,
    }),
  },
  {
    roles: ['inspector', 'manager'],
    limit: 'usual',
    method: 'get',
    path: '/api/jobs',
    summary: 'A page of jobs with their site and how many showers they have (query: after)',
    gives: JobList,
    answer: ({ req, services }) => listJobs(services.store, String(req.query.after ?? '')),
  },
  {
    ...MANAGING,
    method: 'put',
    path: '/api/jobs/:job',
    summary: "Sets a job's address and the site's time zone",
    body: 'json',
    takes: PutJob,
    gives: PutJob,
    did: 'job-changed',
    answer: changeJob,
  },
  {
    ...MANAGING,
    method: 'put',
    path: '/api/showers/:id/visit',
    summary: 'Says who looks at a shower next, and when',
    body: 'json',
    takes: Visit,
    gives: Visit,
    did: 'visit-set',
    answer: planVisit,
  },
  { ...MANAGING, method: 'get', path: '/api/outbox', summary: 'Mail, newest first', gives: Outbox, answer: outbox },
  {
    ...MANAGING,
    method: 'get',
    path: '/api/audit',
    summary: 'Who saw and did what, newest first (query: before)',
    gives: AuditPage,
    answer: audit,
  },
  {
    ...MANAGING,
    method: 'get',
    path: '/api/backup.tar',
    summary: 'Everything the firm has, as one file',
    gives: 'application/x-tar',
    did: 'backup-made',
    answer: backup,
  },
  {
    ...MANAGING,
    method: 'post',
    path: '/api/restore',
    summary: 'Puts a backup in force after checking every entry in it',
    body: 'stream',
    takes: z.string(),
    gives: RestoreState,
    answer: restore,
  },
  {
    ...MANAGING,
    method: 'get',
    path: '/api/restore',
    summary: 'How the restore stands that was begun last',
    gives: RestoreState,
    answer: async ({ req }) => toldRestore(restoreState(), req),
  },
  {
    ...MANAGING,
    method: 'get',
    path: '/api/server',
    summary: 'How the server stands: versions, sizes, room, last backup and check',
    gives: ServerState,
    answer: ({ services }) => serverState(services),
  },
];
