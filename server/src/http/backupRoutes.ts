import { createWriteStream } from 'node:fs';
import { mkdtemp, rm, statfs } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { RestoreState, ServerState } from '@careful-seam/contract/api/office';
import { withMessage } from '@careful-seam/words/errors/errors';
import type { Request } from 'express';
import { z } from 'zod';
import { writeAudit } from '../audit/audit';
import { makeBackup, urlOf } from '../backup/makeBackup';
import { beginRestore, type RestoreStands, restoreState } from '../backup/restoreJob';
import { serverState } from '../operations/serverState';
import { Refusal } from '../refusals/refusal';
import { FileOut } from './fileOut';
import { type Call, languageOf, type Route } from './route';

/** For managers alone. */
const MANAGING = { roles: ['manager'] as const, limit: 'usual' as const };

/** A backup as it is made. */
async function backup({ res, services }: Call): Promise<FileOut> {
  const now = services.now();
  const folder = await mkdtemp(join(tmpdir(), 'seam-backup-out-'));
  const name = `careful-seam-${now.toISOString().slice(0, 10)}.tar`;
  const file = join(folder, name);
  const clear = () => rm(folder, { recursive: true, force: true });
  try {
    const { showers, entries, photos } = await makeBackup(services.store, services.picturePlace, file, now);
    res.locals.about = `${showers} showers, ${entries} entries, ${photos} pictures`;
    return new FileOut(name, { file }, clear);
  } catch (error) {
    await clear();
    throw error;
  }
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
  problem: problem && withMessage(problem, languageOf(req)),
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

/** Backup, restore, and how the server stands. */
export const BACKUP_ROUTES: readonly Route[] = [
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
