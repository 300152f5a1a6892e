import { createServer, type Server } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { MailEntity } from '../store/entities';
import { type TestServer, testServer } from '../tests/testServer';
import { mailServer, queueMail, sendMail } from './outbox';

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

const mail = (subject: string) => ({ recipient: 'lead@example.test', subject, words: 'Words of the mail' });

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
  it('writes down a failure and gives up after five tries, without losing the mail', async () => {
    await queueMail(server.store, mail('Lost'), new Date());
    const closed = await smallMailServer();
    closed.close();
    for (let k = 0; k < 6; k += 1)
      await sendMail(server.store, { url: closed.url, from: 'x@example.test' }, new Date());
    const row = await server.store.getRepository(MailEntity).findOneByOrFail({ subject: 'Lost' });
    expect([row.tries, row.sentAt, row.problem !== null]).toEqual([5, null, true]);
  });
});
