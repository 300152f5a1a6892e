// npm run try-deploy: the release is put into service as docs/operations.md says, as far as one machine can: unpacked into a
// folder of its own, with runtime packages alone, behind the proxy of deploy/nginx.conf with a certificate made here.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { request as plain } from 'node:http';
import { request } from 'node:https';
import { join } from 'node:path';
import { aptInstall, clusterFolder, freePort, startCluster, temporaryFolder } from './cluster.mjs';
import { PROJECT, say } from './prepare.mjs';

const base = temporaryFolder('deploy');
const NAME = 'seam.example.com';
const done = [];
const check = (what, isSo, found = '') => {
  done.push([what, Boolean(isSo), String(found)]);
  say(`${isSo ? 'held' : 'FAILED'}: ${what}${found === '' ? '' : ` (${found})`}`);
};

function ask(port, path, { method = 'GET', headers = {}, body, secure = true } = {}) {
  return new Promise((resolve, fail) => {
    const req = (secure ? request : plain)(
      {
        host: '127.0.0.1',
        port,
        path,
        method,
        rejectUnauthorized: false,
        headers: { host: NAME, 'x-careful-seam': '1', ...headers },
      },
      (res) => {
        let text = '';
        res.on('data', (part) => (text += part));
        res.on('end', () => resolve({ status: res.statusCode, headers: res.headers, text }));
      },
    );
    req.on('error', fail);
    req.end(body === undefined ? undefined : JSON.stringify(body));
  });
}

const children = [];
let cluster = null;
try {
  execFileSync('npm', ['run', 'build'], { cwd: PROJECT, stdio: 'inherit' });
  const { version } = JSON.parse(readFileSync(join(PROJECT, 'package.json'), 'utf8'));
  execFileSync('tar', ['-xzf', join(PROJECT, 'dist/release', `careful-seam-${version}.tar.gz`), '-C', base]);
  const home = join(base, `careful-seam-${version}`);
  execFileSync('npm', ['ci', '--omit=dev', '-w', 'server', '--no-audit', '--no-fund'], { cwd: home, stdio: 'ignore' });
  check(
    'no development package is in the release',
    !existsSync(join(home, 'node_modules/vitest')) && !existsSync(join(home, 'node_modules/vite')),
  );

  if (existsSync('/usr/bin/systemd-analyze')) {
    const units = ['careful-seam.service', 'careful-seam-drill.service', 'careful-seam-drill.timer'].map((u) =>
      join(home, 'deploy', u),
    );
    const verified = spawnSync('systemd-analyze', ['verify', ...units], { encoding: 'utf8' });
    check('systemd reads the units', verified.status === 0, verified.stderr.trim().split('\n')[0]);
    const exposure = spawnSync('systemd-analyze', ['security', '--offline=true', units[0]], { encoding: 'utf8' });
    check(
      'the unit is confined',
      exposure.status === 0,
      /Overall exposure level[^:]*: ([\d.]+ \w+)/.exec(exposure.stdout)?.[1],
    );
  }

  cluster = await startCluster({ folder: clusterFolder(base), say });
  cluster.createDatabase('seam');
  const [port, http, https] = [await freePort(), await freePort(), await freePort()];
  const env = {
    PATH: process.env.PATH,
    NODE_ENV: 'production',
    DATABASE_URL: cluster.url('seam'),
    PORT: String(port),
    PUBLIC_URL: `https://${NAME}`,
    TRUST_PROXY: '1',
    PHOTO_FOLDER: join(base, 'photos'),
    METRICS_TOKEN: 'a token of this trial alone',
    LOG_LEVEL: 'info',
  };
  const server = spawn('npm', ['run', '--silent', 'serve'], {
    cwd: home,
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
    detached: true,
  });
  children.push(server);
  let said = '';
  server.stdout.on('data', (part) => (said += part));
  for (let k = 0; k < 150 && !/with the code/.test(said); k += 1) await new Promise((later) => setTimeout(later, 200));
  const code = /with the code\s+(\S+)/.exec(said)?.[1];
  check('an empty installation asks to be set up under its public address', said.includes(`https://${NAME}/set-up`));

  if (!existsSync('/usr/sbin/nginx')) aptInstall(['nginx-light'], say);
  const tls = join(base, 'tls');
  mkdirSync(tls);
  execFileSync(
    'openssl',
    [
      'req',
      '-x509',
      '-newkey',
      'rsa:2048',
      '-nodes',
      '-days',
      '2',
      '-subj',
      `/CN=${NAME}`,
      '-keyout',
      join(tls, 'key.pem'),
      '-out',
      join(tls, 'fullchain.pem'),
    ],
    { stdio: 'ignore' },
  );
  const site = readFileSync(join(home, 'deploy/nginx.conf'), 'utf8')
    .replace(/listen \[::\].*\n/g, '\n')
    .replace('listen 80;', `listen 127.0.0.1:${http};`)
    .replace('listen 443 ssl', `listen 127.0.0.1:${https} ssl`)
    .replaceAll('/etc/ssl/careful-seam', tls)
    .replace('127.0.0.1:4310', `127.0.0.1:${port}`);
  writeFileSync(join(base, 'site.conf'), site);
  writeFileSync(
    join(base, 'nginx.conf'),
    `daemon off; pid ${base}/nginx.pid; error_log ${base}/error.log; events {} http { access_log off; client_body_temp_path ${base}/body; proxy_temp_path ${base}/proxy; fastcgi_temp_path ${base}/f; uwsgi_temp_path ${base}/u; scgi_temp_path ${base}/s; include ${base}/site.conf; }`,
  );
  const tested = spawnSync('/usr/sbin/nginx', ['-t', '-c', join(base, 'nginx.conf')], { encoding: 'utf8' });
  check('the proxy reads its file', tested.status === 0, tested.stderr.trim().split('\n').at(-1));
  children.push(spawn('/usr/sbin/nginx', ['-c', join(base, 'nginx.conf')], { stdio: 'ignore', detached: true }));
  await new Promise((later) => setTimeout(later, 1000));

  const ready = await ask(https, '/ready');
  check(
    'it answers by TLS, and says that it stays there',
    ready.status === 200 && /max-age/.test(ready.headers['strict-transport-security'] ?? ''),
  );
  const moved = await ask(http, '/showers', { secure: false });
  check(
    'without TLS a browser is sent to it',
    moved.status === 301 && moved.headers.location === `https://${NAME}/showers`,
  );
  check('metrics stay on the machine', (await ask(https, '/metrics')).status === 404);
  const own = await ask(port, '/metrics', { secure: false, headers: { authorization: `Bearer ${env.METRICS_TOKEN}` } });
  check('and are had there with the token', own.status === 200 && own.text.includes('seam_http_request_seconds'));
  const json = { 'content-type': 'application/json' };
  const firm = {
    name: 'Trial Firm',
    address: '',
    licence: '',
    timeZone: 'UTC',
    paper: 'a4',
    mainMethods: [],
    unit: 'mm',
    language: 'en',
  };
  const manager = { name: 'Mae', signIn: 'mae', password: 'a long word for a trial' };
  const setUp = await ask(https, '/api/set-up', {
    method: 'POST',
    headers: json,
    body: { code, firm, manager, crews: [], people: [] },
  });
  check('the firm is set up through the proxy', setUp.status === 200, setUp.text.slice(0, 80));
  const signedIn = await ask(https, '/api/session', {
    method: 'POST',
    headers: json,
    body: { signIn: 'mae', password: manager.password },
  });
  const cookie = signedIn.headers['set-cookie']?.[0] ?? '';
  check(
    'its manager signs in; the cookie goes by TLS alone',
    signedIn.status === 200 && /Secure/.test(cookie) && /HttpOnly/.test(cookie) && /SameSite=Strict/.test(cookie),
  );
  // What a caller says of its own address is thrown away: eleven tries from eleven invented addresses are eleven of one account.
  const tries = [];
  for (let k = 0; k < 11; k += 1)
    tries.push(
      (
        await ask(https, '/api/session', {
          method: 'POST',
          headers: { ...json, 'x-forwarded-for': `203.0.113.${k}` },
          body: { signIn: 'mae', password: 'wrong' },
        })
      ).status,
    );
  check('invented addresses win no tries', tries.at(-1) === 429, tries.join(' '));
  const page = await ask(https, '/');
  check(
    'the interface is served, and nothing of elsewhere may run in it',
    page.status === 200 && /default-src 'none'/.test(page.headers['content-security-policy'] ?? ''),
  );

  const backup = join(base, 'night.tar');
  const command = (what, file) =>
    execFileSync('npm', ['run', '--silent', what, '--', file], { cwd: home, env, encoding: 'utf8' }).trim();
  check('a backup is made by the release', /Backup written/.test(command('backup', backup)));
  check('a drill restores it beside', /can be restored/.test(command('restore-drill', backup)));
  check('the way back: it is put in force again', /In force again/.test(command('restore', backup)));
  const session = await ask(https, '/api/session', { headers: { cookie: cookie.split(';')[0] } });
  check('who was signed in still is', session.status === 200);
  process.kill(-server.pid, 'SIGTERM');
  const ended = await new Promise((end) => server.once('exit', (c, signal) => end(c ?? signal)));
  check('it stops when it is told to', ended === 0 || ended === 143 || ended === 'SIGTERM', ended);
} finally {
  for (const child of children)
    try {
      process.kill(-child.pid, 'SIGTERM');
    } catch {}
  await new Promise((later) => setTimeout(later, 500));
  await cluster?.stop();
  rmSync(base, { recursive: true, force: true });
}
const failed = done.filter(([, isSo]) => !isSo).length;
console.log(`\n${done.length} things tried, ${failed} failed.`);
process.exit(failed === 0 ? 0 : 1);
