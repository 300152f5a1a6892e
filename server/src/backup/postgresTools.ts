import { execFile } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { promisify } from 'node:util';

/** Runs a program and waits for it. */
const run = promisify(execFile);
/** Where Debian keeps the programs of each version. */
const DEBIAN = '/usr/lib/postgresql';

/** Where a program of PostgreSQL lies: PG_BIN, the newest of Debian's packages, or the path. */
function postgresTool(name: 'pg_restore', env: NodeJS.ProcessEnv = process.env): string {
  const versions = existsSync(DEBIAN) ? readdirSync(DEBIAN).filter((v) => Number(v) >= 15) : [];
  const debian = versions.sort((a, b) => Number(b) - Number(a)).map((v) => join(DEBIAN, v, 'bin'));
  const places = [...(env.PG_BIN ? [env.PG_BIN] : []), ...debian, ...(env.PATH ?? '').split(delimiter)];
  const found = places.map((place) => join(place, name)).find((path) => existsSync(path));
  if (!found)
    throw new Error(`${name} is not on this machine. Install postgresql-client, or set PG_BIN to its folder.`);
  return found;
}

/** Runs it to its end, a password in its environment and never on its command line; what it complains about becomes the error. */
export async function runPostgresTool(
  name: 'pg_restore',
  args: readonly string[],
  env: Readonly<Record<string, string>>,
): Promise<void> {
  await run(postgresTool(name), [...args], { maxBuffer: 16 * 1024 * 1024, env: { ...process.env, ...env } });
}
