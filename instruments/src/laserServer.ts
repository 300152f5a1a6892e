import { birdbathFloor, laserReceiver, senmlPack } from './laserReceiver';
import { type Stream, serveStream } from './streamServer';

const PORT = 4420;

/** Serves a simulated laser receiver. `POST /rod` with `{"xMm", "yMm"}` sets the rod, which only a simulated one needs to be told. */
export async function serveLaser(port: number, seed = 1): Promise<Stream> {
  // The scatter goes by the place, not by how often the rod was told to stand somewhere: a rod left standing reads the same.
  const readAt = (xMm: number, yMm: number) =>
    laserReceiver(birdbathFloor, { seed: seed + Math.round(xMm) * 7919 + Math.round(yMm) }).read(xMm, yMm);
  const stream: Stream = await serveStream(port, {
    posts: {
      '/rod': (body) => {
        const place = (body ?? {}) as { xMm?: unknown; yMm?: unknown };
        if (typeof place.xMm !== 'number' || typeof place.yMm !== 'number')
          return 'Send {"xMm": number, "yMm": number}.';
        stream.send(senmlPack(readAt(place.xMm, place.yMm), Date.now()));
        return null;
      },
    },
  });
  return stream;
}

if (process.argv[1]?.endsWith('laserServer.ts')) {
  const { address } = await serveLaser(Number(process.env.LASER_PORT ?? PORT));
  console.log(`A simulated laser receiver answers at ${address}; Ctrl-C stops it.`);
}
