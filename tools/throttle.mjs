// A TCP proxy that lets bytes through at a set rate in each direction, for the bench. Node built-ins only.
import { connect, createServer } from 'node:net';
import { Transform } from 'node:stream';

const SLICE = 8192;
const CATCH_UP_MS = 100;

/** Passes slices on no faster than the shared budget of its direction allows. */
function slowed(budget) {
  return new Transform({
    highWaterMark: SLICE,
    async transform(chunk, _encoding, done) {
      for (let at = 0; at < chunk.length; at += SLICE) {
        const slice = chunk.subarray(at, at + SLICE);
        const now = performance.now();
        // What a timer overslept may be caught up, as a line's own buffers do.
        budget.freeAt = Math.max(budget.freeAt, now - CATCH_UP_MS) + (slice.length * 8 * 1000) / budget.bitsPerSecond;
        const wait = budget.freeAt - now;
        if (wait > 4) await new Promise((go) => setTimeout(go, wait));
        this.push(slice);
      }
      done();
    },
  });
}

/** Starts the proxy before host:port. Gives its address and the way to stop it. */
export async function throttledProxy(target, bitsPerSecond) {
  const [up, down] = [
    { bitsPerSecond, freeAt: 0 },
    { bitsPerSecond, freeAt: 0 },
  ];
  const sockets = new Set();
  const server = createServer((client) => {
    const far = connect(Number(target.port), target.hostname);
    for (const socket of [client, far]) {
      sockets.add(socket);
      socket.on('error', () => socket.destroy());
      socket.on('close', () => sockets.delete(socket));
    }
    client.pipe(slowed(up)).pipe(far);
    far.pipe(slowed(down)).pipe(client);
  });
  await new Promise((ready) => server.listen(0, '127.0.0.1', ready));
  return {
    address: `http://127.0.0.1:${server.address().port}`,
    stop: () => {
      for (const socket of sockets) socket.destroy();
      server.close();
    },
  };
}
