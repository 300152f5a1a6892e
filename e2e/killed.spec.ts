import { execFileSync } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { writeEntry } from '@careful-seam/core/log/writeEntry';
import { expect, test } from '@playwright/test';
import { v4 } from 'uuid';
import { PASSWORD } from './acting';
import { freePort, processesWith, start, stop } from './starting';

let data = '';
const headers = { 'x-careful-seam': '1', 'content-type': 'application/json' };

async function session(address: string) {
  const answer = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers,
    body: JSON.stringify({ signIn: 'ines', password: PASSWORD }),
  });
  const cookie = answer.headers.get('set-cookie')!.split(';')[0]!;
  return { cookie, person: ((await answer.json()) as { person: { id: string; name: string } }).person };
}

test.describe.configure({ mode: 'serial' });
test.beforeAll(() => {
  data = mkdtempSync('/var/tmp/careful-seam-kill-');
  chmodSync(data, 0o755);
});
test.afterAll(() => rmSync(data, { recursive: true, force: true }));

test('killing server and database in the middle of work loses no acknowledged entry', async () => {
  const port = await freePort();
  const first = await start(data, port);
  const databasePort = /:(\d+)\//.exec(readFileSync(join(data, 'database.url'), 'utf8'))![1]!;
  const { cookie, person } = await session(first.address);
  const showerId = v4();
  let end = { deviceId: v4(), deviceSeq: 0, prevDeviceHash: null as string | null, lastOrderAt: null as string | null };
  const acknowledged: string[] = [];
  let stopped = false;
  const working = (async () => {
    for (let i = 0; i < 5000 && !stopped; i += 1) {
      const kind = i === 0 ? 'shower-created' : 'note';
      const body =
        i === 0 ? { name: 'Killed', job: 'Kill test', crewId: 'crew-heron', timeZone: 'UTC' } : { words: `note ${i}` };
      const written = writeEntry(
        {
          id: v4(),
          showerId,
          kind,
          body: body as never,
          author: { id: person.id, name: person.name },
          geometryVersion: 0,
          nowMs: Date.now(),
          offsetMinutes: 0,
        },
        end,
      );
      const answer = await fetch(`${first.address}/api/showers/${showerId}/entries`, {
        method: 'POST',
        headers: { ...headers, cookie },
        body: JSON.stringify({ clock: new Date().toISOString(), entries: [written.sealed.text] }),
      }).catch(() => null);
      if (!answer?.ok) return;
      const { taken } = (await answer.json()) as { taken: { id: string }[] };
      acknowledged.push(...taken.map((t) => t.id));
      end = written.end;
    }
  })();
  await expect.poll(() => acknowledged.length).toBeGreaterThan(150);

  const gone = new Promise((done) => first.parent.once('exit', done));
  for (const pid of [first.parent.pid!, ...processesWith(`port=${databasePort}`), ...processesWith(`PORT=${port}\0`)]) {
    try {
      process.kill(pid, 'SIGKILL');
    } catch {}
  }
  stopped = true;
  await gone;
  await working;

  const second = await start(data, port);
  expect(second.said()).toContain('removing the lock of a start that was killed');
  const again = await session(second.address);
  const pulled = await fetch(`${second.address}/api/showers/${showerId}/entries?after=0`, {
    headers: { ...headers, cookie: again.cookie },
  });
  const stored = ((await pulled.json()) as { entries: { text: string }[] }).entries.map(
    (e) => (JSON.parse(e.text) as { id: string }).id,
  );
  expect(acknowledged.filter((id) => !stored.includes(id))).toEqual([]);
  expect(stored.length - acknowledged.length).toBeLessThanOrEqual(1);
  console.log(`${acknowledged.length} entries acknowledged before the kill, ${stored.length} stored after it`);

  const verified = execFileSync('node', ['tools/verify.mjs'], {
    encoding: 'utf8',
    env: { ...process.env, DATABASE_URL: '', CAREFUL_SEAM_DATA: data },
  });
  expect(verified).toContain('all as written');

  await stop(second, 'SIGINT');
  expect(processesWith(`CAREFUL_SEAM_DATA=${data}\0`)).toEqual([]);
});

test('a server or a database that dies by itself is started again, and nothing acknowledged is lost', async () => {
  const port = await freePort();
  const running = await start(data, port);
  const databasePort = /:(\d+)\//.exec(readFileSync(join(data, 'database.url'), 'utf8'))![1]!;
  const { cookie } = await session(running.address);
  const showers = async () => {
    const answer = await fetch(`${running.address}/api/showers`, { headers: { ...headers, cookie } }).catch(() => null);
    return answer?.ok
      ? ((await answer.json()) as { showers: unknown[] }).showers.length
      : answer
        ? -answer.status
        : null;
  };
  const before = await showers();
  expect(before).toBeGreaterThan(5);
  for (const pid of processesWith(`PORT=${port}\0`).filter((p) => p !== running.parent.pid))
    process.kill(pid, 'SIGKILL');
  await expect.poll(showers).toBe(before);
  expect(running.said()).toContain('the server serves again');

  for (const pid of processesWith(`port=${databasePort}`))
    try {
      process.kill(pid, 'SIGKILL');
    } catch {}
  const seen: unknown[] = [];
  await expect
    .poll(async () => {
      seen.push(await showers());
      return running.said().includes('the database runs again') ? seen.at(-1) : null;
    })
    .toBe(before);
  // Meanwhile it was busy, never broken.
  expect(seen.filter((s) => s !== before && s !== -503)).toEqual([]);
  await stop(running);
  expect(processesWith(`CAREFUL_SEAM_DATA=${data}\0`)).toEqual([]);
});

test('a second start, a taken port and a half-made database are handled or named', async () => {
  const port = await freePort();
  const running = await start(data, port);
  await expect(start(data, port)).rejects.toThrow(/running already as process \d+/);
  await stop(running, 'SIGINT');

  const blocker = createServer().listen(port, '127.0.0.1');
  await expect(start(data, port)).rejects.toThrow(`Port ${port} is taken by another program`);
  blocker.close();

  writeFileSync(join(data, 'start.lock'), '999999');
  const restarted = await start(data, port);
  expect(restarted.said()).toContain('removing the lock of a start that was killed');
  expect((await fetch(`${restarted.address}/ready`)).status).toBe(200);
  await stop(restarted, 'SIGTERM');
});
