import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import type { DataSource } from 'typeorm';
import { beginProgram, isSource, type Program } from '../programs/programs';
import { doChore, purge } from './chores';
import { backupName, isDue, mayGo } from './retention';

/** What is done at night, and with what. */
export interface Night {
  /** The database. */
  store: DataSource;
  /** Address of the database. */
  databaseUrl: string;
  /** Where pictures lie: a folder, or an address of a store. */
  picturePlace: string;
  /** The moment it is asked at. */
  now: () => Date;
  /** Null: no backups are made by themselves. */
  backupFolder: string | null;
  /** "HH:MM" in UTC. */
  at: string;
  /** Backups of days that are kept. */
  daily: number;
  /** Backups of months that are kept. */
  monthly: number;
}

/** A command of this program in a process of its own, at the lowest priority. Gives what it said; throws it where it failed. */
function command(
  program: Extract<Program, 'backup' | 'verify'>,
  args: readonly string[],
  { databaseUrl, picturePlace }: Pick<Night, 'databaseUrl' | 'picturePlace'>,
): Promise<string> {
  return new Promise((done, fail) => {
    const child = beginProgram(program, {
      args,
      env: { DATABASE_URL: databaseUrl, PHOTO_FOLDER: picturePlace },
      stdio: ['ignore', 'pipe', 'pipe', 'ipc'],
    });
    let said = '';
    const hear = (part: Buffer) => {
      said = (said + String(part)).slice(-4000);
    };
    child.stdout?.on('data', hear);
    child.stderr?.on('data', hear);
    child.once('error', fail);
    child.once('exit', (code) =>
      code === 0 ? done(said.trim()) : fail(new Error(said.trim() || `ended with code ${code}`)),
    );
  });
}

/** A backup into the folder, and the oldest ones out of it once the new one is whole. */
async function backUp(night: Night, folder: string): Promise<string> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const name = backupName(night.now());
  await command('backup', ['backup', join(folder, name)], night);
  const { size } = await stat(join(folder, name));
  const gone = mayGo(await readdir(folder), night).filter((n) => n !== name);
  for (const old of gone) await rm(join(folder, old));
  return `${name}, ${(size / 1e6).toFixed(1)} MB${gone.length > 0 ? `; ${gone.length} older ones taken away` : ''}`;
}

/** On Sundays everything, on other nights what moved since the last anchor. */
function verify(night: Night): Promise<string> {
  const isSunday = night.now().getUTCDay() === 0;
  const parts = ['--parts', String(isSource ? 1 : availableParallelism())];
  return command('verify', isSunday ? parts : [...parts, '--since-anchor'], night);
}

/** What is due of the night's work, one after the other. Called every minute; nothing is begun twice. */
export async function nightsWork(night: Night): Promise<void> {
  const { store, now, at, backupFolder } = night;
  const due = (last: Date | null) => isDue(at, last, now());
  if (backupFolder !== null) await doChore(store, 'backup', now, due, () => backUp(night, backupFolder));
  await doChore(store, 'verify', now, due, () => verify(night));
  await doChore(store, 'purge', now, due, () => purge(store, now()));
}
