// npm run build: everything built, and a release that runs without development packages. Node built-ins alone.
import { execFileSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { build, checkNode, installPackages, PROJECT, say } from './prepare.mjs';

checkNode();
installPackages();
build();

const about = JSON.parse(readFileSync(join(PROJECT, 'package.json'), 'utf8'));
const name = `careful-seam-${about.version}`;
const release = join(PROJECT, 'dist', 'release', name);
rmSync(join(PROJECT, 'dist', 'release'), { recursive: true, force: true });
mkdirSync(release, { recursive: true });

/** What a release can be asked for; the same words as in the repository, without anything that builds. */
const scripts = {
  serve: 'node --enable-source-maps dist/server/main.js',
  'first-manager': 'node dist/server/firstDay.js first-manager',
  verify: 'node dist/server/verify.js',
  backup: 'node dist/server/backup.js backup',
  restore: 'node dist/server/backup.js restore',
  'restore-drill': 'node dist/server/backup.js drill',
};
writeFileSync(join(release, 'package.json'), `${JSON.stringify({ ...about, scripts }, null, 2)}\n`);
// The lock file names every workspace; their package files are all that it wants of them.
cpSync(join(PROJECT, 'package-lock.json'), join(release, 'package-lock.json'));
for (const room of about.workspaces) {
  mkdirSync(join(release, room));
  cpSync(join(PROJECT, room, 'package.json'), join(release, room, 'package.json'));
}
for (const part of ['server', 'web'])
  cpSync(join(PROJECT, 'dist', part), join(release, 'dist', part), { recursive: true });
for (const file of [
  'LICENSE',
  'README.md',
  'CHANGELOG.md',
  'SECURITY.md',
  'deploy',
  'docs/operations.md',
  'docs/settings.md',
])
  if (existsSync(join(PROJECT, file))) cpSync(join(PROJECT, file), join(release, file), { recursive: true });

const file = join(PROJECT, 'dist', 'release', `${name}.tar.gz`);
execFileSync('tar', ['-czf', file, '--owner=0', '--group=0', '-C', join(PROJECT, 'dist', 'release'), name]);
say(`release written to ${file}; docs/operations.md says how it is put into service`);
