import { createServer, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';

export interface Stream {
  server: Server;
  address: string;
  /** Sends a SenML pack to all who listen. */
  send: (pack: string) => void;
}

interface Handlers {
  /** What is sent at once to somebody who begins to listen, or null. */
  first?: () => string | null;
  /** Answers a POST to one of these paths: null when it was taken, else what is wrong with it. */
  posts?: Record<string, (body: unknown) => string | null>;
}

/**
 * Serves an instrument as a bridge on the tablet would: `GET /readings` streams SenML packs [RFC 8428] as server-sent
 * events. What a POST may say is up to the instrument; only simulated ones listen.
 */
export function serveStream(port: number, { first, posts = {} }: Handlers): Promise<Stream> {
  const listeners = new Set<ServerResponse>();
  const send = (pack: string) => {
    for (const listener of listeners) listener.write(`data: ${pack}\n\n`);
  };
  const server = createServer((req, res) => {
    res.setHeader('access-control-allow-origin', '*');
    res.setHeader('access-control-allow-headers', 'content-type');
    if (req.method === 'OPTIONS') return void res.writeHead(204).end();
    if (req.method === 'GET' && req.url === '/readings') {
      res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
      res.write('retry: 2000\n\n');
      listeners.add(res);
      const now = first?.() ?? null;
      if (now !== null) res.write(`data: ${now}\n\n`);
      return void req.on('close', () => listeners.delete(res));
    }
    const take = req.method === 'POST' ? posts[req.url ?? ''] : undefined;
    if (!take) return void res.writeHead(404).end();
    let body = '';
    req.on('data', (part) => {
      body += part;
    });
    req.on('end', () => {
      let said: unknown = null;
      try {
        said = JSON.parse(body);
      } catch {
        // Told below: what can't be read says nothing.
      }
      const wrong = take(said);
      if (wrong !== null) return void res.writeHead(400, { 'content-type': 'text/plain' }).end(wrong);
      res.writeHead(204).end();
    });
  });
  return new Promise((ready) => {
    server.listen(port, '127.0.0.1', () => {
      ready({ server, address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`, send });
    });
  });
}
