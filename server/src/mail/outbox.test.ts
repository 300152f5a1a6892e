import { mkdtempSync, readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { LINK_NOT_KEPT } from '@careful-seam/contract/api/office';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeBackup } from '../backup/makeBackup';
import { MailEntity } from '../store/entities/mail';
import { type TestServer, testServer } from '../tests/testServer';
import { mailServer, queueMail, SECRET, sendMail } from './outbox';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

/** A mail server that takes everything, by RFC 5321 as far as a client needs it. */
async function smallMailServer(): Promise<{ url: string; received: string[]; close: () => void }> {
  const received: string[] = [];
  const listening: Server = createServer((socket) => {
    let data: string | null = null;
    socket.write('220 test\r\n');
    socket.on('data', (part) => {
      for (const line of String(part).split('\r\n')) {
        if (data !== null) {
          if (line === '.') {
            received.push(data);
            data = null;
            socket.write('250 taken\r\n');
          } else data += `${line}\n`;
        } else if (/^(EHLO|HELO|MAIL|RCPT)/.test(line)) socket.write('250 ok\r\n');
        else if (line === 'DATA') {
          data = '';
          socket.write('354 go on\r\n');
        } else if (line === 'QUIT') socket.end('221 bye\r\n');
      }
    });
  });
  await new Promise<void>((ready) => listening.listen(0, '127.0.0.1', ready));
  const { port } = listening.address() as { port: number };
  return { url: `smtp://127.0.0.1:${port}`, received, close: () => listening.close() };
}

const mail = (subject: string) => ({
  recipient: 'lead@example.test',
  subject,
  words: 'Words of the mail',
  language: 'en' as const,
});

describe('the outbox', () => {
  it('is simulated until a mail server is set', () => {
    expect(mailServer({ MAIL_FROM: 'a@b.test' })).toBeNull();
    expect(mailServer({ SMTP_URL: 'smtp://x', MAIL_FROM: 'a@b.test' })).toEqual({ url: 'smtp://x', from: 'a@b.test' });
  });
  it('sends what waits once, and keeps it with the time that it left', async () => {
    const far = await smallMailServer();
    await queueMail(server.store, mail('First'), new Date());
    expect(await sendMail(server.store, { url: far.url, from: 'firm@example.test' }, new Date())).toBe(1);
    expect(await sendMail(server.store, { url: far.url, from: 'firm@example.test' }, new Date())).toBe(0);
    far.close();
    expect(far.received).toHaveLength(1);
    expect(far.received[0]).toContain('Subject: First');
    expect(far.received[0]).toContain('Words of the mail');
    expect((await server.store.getRepository(MailEntity).findOneByOrFail({ subject: 'First' })).sentAt).not.toBeNull();
  });
  it('writes down a failure and tries again, sooner first and later then, for five days, without losing the mail', async () => {
    const made = new Date('2026-03-01T08:00:00Z');
    await queueMail(server.store, mail('Lost'), made);
    const closed = await smallMailServer();
    closed.close();
    const down = { url: closed.url, from: 'x@example.test' };
    const row = () => server.store.getRepository(MailEntity).findOneByOrFail({ subject: 'Lost' });
    const waits: number[] = [];
    let at = made;
    for (let k = 0; k < 20; k += 1) {
      await sendMail(server.store, down, at);
      const { nextAt } = await row();
      if (nextAt === null) break;
      waits.push((nextAt.getTime() - at.getTime()) / 60_000);
      // Before it is due nothing is tried.
      await sendMail(server.store, down, new Date(nextAt.getTime() - 1000));
      expect((await row()).tries).toBe(k + 1);
      at = nextAt;
    }
    expect(waits.slice(0, 8)).toEqual([1, 5, 15, 60, 180, 360, 720, 720]);
    expect(at.getTime() - made.getTime()).toBeGreaterThan(4 * 24 * 3_600_000);
    const { sentAt, problem, nextAt } = await row();
    expect([sentAt, nextAt, problem !== null]).toEqual([null, null, true]);
    const late = await smallMailServer();
    expect(await sendMail(server.store, { url: late.url, from: 'x@example.test' }, new Date())).toBe(0);
    late.close();
  });
  it('goes out as soon as the mail server is there again', async () => {
    const [far, made] = [await smallMailServer(), new Date()];
    await queueMail(server.store, mail('Later'), made);
    await sendMail(server.store, { url: 'smtp://127.0.0.1:1', from: 'x@example.test' }, made);
    const later = new Date(made.getTime() + 61_000);
    expect(await sendMail(server.store, { url: far.url, from: 'x@example.test' }, later)).toBe(1);
    far.close();
    expect(far.received[0]).toContain('Subject: Later');
  });
  it('never sends a letter whose link a backup did not keep', async () => {
    const far = await smallMailServer();
    await queueMail(server.store, { ...mail('Link'), words: `Open ${SECRET}` }, new Date());
    expect(await sendMail(server.store, { url: far.url, from: 'x@example.test' }, new Date())).toBe(0);
    far.close();
    const { problem, nextAt } = await server.store.getRepository(MailEntity).findOneByOrFail({ subject: 'Link' });
    expect([far.received, problem, nextAt]).toEqual([[], LINK_NOT_KEPT, null]);
  });
  it('two servers send each mail once', async () => {
    const far = await smallMailServer();
    for (let k = 0; k < 12; k += 1) await queueMail(server.store, mail(`Once ${k}`), new Date());
    const server_ = { url: far.url, from: 'x@example.test' };
    const sent = await Promise.all([1, 2, 3].map(() => sendMail(server.store, server_, new Date())));
    far.close();
    expect(sent.reduce((a, b) => a + b)).toBe(12);
    const subjects = far.received.map((m) => /Subject: (Once \d+)/.exec(m)?.[1]);
    expect(new Set(subjects).size).toBe(12);
    expect(far.received).toHaveLength(12);
  });
  it('keeps a link no longer than it waits, and lets no backup and no page tell it', async () => {
    const maren = await server.as('maren');
    const wanted = { kind: 'crew', crewId: 'heron', label: 'Phone', hours: 4, email: 'lead@example.test' };
    const { body: link } = await maren.post('/api/links').send(wanted).expect(200);
    const code = link.path.split('/').at(-1);
    const stored = async () =>
      (await server.store.query('SELECT words, secret FROM mail WHERE secret IS NOT NULL')) as {
        words: string;
        secret: string;
      }[];
    expect((await stored())[0]!.words).not.toContain(code);
    expect((await stored())[0]!.secret).toContain(code);
    // While no mail server is set, a manager reads it here and hands it on.
    expect(JSON.stringify((await maren.get('/api/outbox')).body)).toContain(code);
    const file = join(mkdtempSync(join(tmpdir(), 'seam-test-mail-')), 'b.tar');
    await makeBackup(server.store, server.picturePlace, file, new Date());
    expect(readFileSync(file).includes(code)).toBe(false);
    const far = await smallMailServer();
    await sendMail(server.store, { url: far.url, from: 'x@example.test' }, new Date());
    far.close();
    // What was sent has it whole, wherever a line of the mail was broken.
    expect(far.received.join('').replaceAll('=\n', '')).toContain(code);
    expect(await stored()).toEqual([]);
  });
});
