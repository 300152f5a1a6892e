// What start and test both need first: packages and builds. Node built-ins only.

import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { writeNotices } from './notices.mjs';

export const PROJECT = dirname(dirname(fileURLToPath(import.meta.url)));

export const say = (text) => console.log(`· ${text}`);

function run(file, args, options = {}) {
  const result = spawnSync(file, args, {
    cwd: PROJECT,
    stdio: ['ignore', 'pipe', 'pipe'],
    encoding: 'utf8',
    maxBuffer: 1 << 26,
    ...options,
  });
  if (result.status !== 0)
    throw new Error(`"${file} ${args.join(' ')}" failed:\n${result.stdout ?? ''}${result.stderr ?? ''}`);
}

const hashOf = (text) => createHash('sha256').update(text).digest('hex');

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new Error(`Node ${process.versions.node} is too old: this needs Node 20.19 or newer.`);
}

/** Installs the npm packages when the lock file changed or the last install did not finish. */
export function installPackages() {
  const stamp = join(PROJECT, 'node_modules', '.careful-seam-installed');
  const wanted = hashOf(readFileSync(join(PROJECT, 'package-lock.json'), 'utf8'));
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say('installing npm packages (about a minute)');
  rmSync(stamp, { force: true });
  run('npm', ['ci', '--no-fund', '--no-audit']);
  writeFileSync(stamp, wanted);
}

const SOURCES = [
  'core',
  'contract',
  'words',
  'files',
  'instruments',
  'demo',
  'server',
  'web',
  'package-lock.json',
  'tsconfig.base.json',
];

function* filesUnder(path) {
  if (!existsSync(path)) return;
  if (statSync(path).isFile()) {
    yield path;
    return;
  }
  for (const name of readdirSync(path).sort()) {
    if (name === 'node_modules' || name === 'dist' || /\.test\.tsx?$/.test(name)) continue;
    yield* filesUnder(join(path, name));
  }
}

/** A hash over every source file: what the build depends on. */
function sourceHash() {
  const hash = createHash('sha256');
  for (const source of SOURCES)
    for (const file of filesUnder(join(PROJECT, source)))
      hash.update(file.slice(PROJECT.length)).update(readFileSync(file));
  return hash.digest('hex');
}

/** Builds server and interface when their sources changed since the last finished build. */
export function build() {
  const stamp = join(PROJECT, 'dist', '.built');
  const wanted = sourceHash();
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return false;
  mkdirSync(join(PROJECT, 'dist'), { recursive: true });
  rmSync(stamp, { force: true });
  say('building the server');
  run('npx', ['vite', 'build'], { cwd: join(PROJECT, 'server') });
  say('building the interface');
  run('npx', ['vite', 'build'], { cwd: join(PROJECT, 'web') });
  writeNotices(PROJECT, join(PROJECT, 'dist', 'web', 'third-party-notices.txt'));
  writeFileSync(stamp, wanted);
  return true;
}
