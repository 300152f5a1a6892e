import { createServer, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { birdbathFloor, laserReceiver, senmlPack } from './laserReceiver';

const PORT = 4420;

/**
 * Serves a simulated laser receiver as a bridge on the tablet would: `GET /readings` streams SenML packs as server-sent
 * events; `POST /rod` with `{"xMm", "yMm"}` sets the rod, which only a simulated one needs to be told.
 */
export function serveLaser(port: number, seed = 1): Promise<{ server: Server; address: string }> {
  const receiver = laserReceiver(birdbathFloor, { seed });
  const listeners = new Set<ServerResponse>();
  const server = createServer((req, res) => {
    res.setHeader('access-control-allow-origin', '*');
    res.setHeader('access-control-allow-headers', 'content-type');
    if (req.method === 'OPTIONS') return void res.writeHead(204).end();
    if (req.method === 'GET' && req.url === '/readings') {
      res.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
      res.write('retry: 2000\n\n');
      listeners.add(res);
      return void req.on('close', () => listeners.delete(res));
    }
    if (req.method !== 'POST' || req.url !== '/rod') return void res.writeHead(404).end();
    let body = '';
    req.on('data', (part) => {
      body += part;
    });
    req.on('end', () => {
      let place: { xMm?: unknown; yMm?: unknown } = {};
      try {
        place = JSON.parse(body);
      } catch {
        // Told below: what can't be read has no place.
      }
      if (typeof place.xMm !== 'number' || typeof place.yMm !== 'number')
        return void res.writeHead(400, { 'content-type': 'text/plain' }).end('Send {"xMm": number, "yMm": number}.');
      const pack = senmlPack(receiver.read(place.xMm, place.yMm), Date.now());
      for (const listener of listeners) listener.write(`data: ${pack}\n\n`);
      res.writeHead(204).end();
    });
  });
  return new Promise((ready) => {
    server.listen(port, '127.0.0.1', () => {
      ready({ server, address: `http://127.0.0.1:${(server.address() as AddressInfo).port}` });
    });
  });
}

if (process.argv[1]?.endsWith('laserServer.ts')) {
  const { address } = await serveLaser(Number(process.env.LASER_PORT ?? PORT));
  console.log(`A simulated laser receiver answers at ${address}; Ctrl-C stops it.`);
}
