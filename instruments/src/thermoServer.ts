import { type Stream, serveStream } from './streamServer';
import { airPack, simulatedAir } from './thermoHygrometer';

const PORT = 4421;
const EVERY_MS = 5000;

/** Serves a simulated thermo-hygrometer: the air of this minute at once, and anew every five seconds. */
export async function serveThermo(port: number, seed = 1): Promise<Stream> {
  const rows = simulatedAir({
    hours: 24,
    everyMinutes: 1,
    startHour: 0,
    dayC: 19,
    nightC: 11,
    relativeHumidity: 0.6,
    seed,
  });
  const now = () => {
    const at = new Date();
    return airPack(rows[at.getHours() * 60 + at.getMinutes()]!, at.getTime());
  };
  const stream = await serveStream(port, { first: now });
  const timer = setInterval(() => stream.send(now()), EVERY_MS);
  stream.server.on('close', () => clearInterval(timer));
  return stream;
}

if (process.argv[1]?.endsWith('thermoServer.ts')) {
  const { address } = await serveThermo(Number(process.env.THERMO_PORT ?? PORT));
  console.log(`A simulated thermo-hygrometer answers at ${address}; Ctrl-C stops it.`);
}
