import { serveLaser } from '@careful-seam/instruments/laserServer';
import type { Stream } from '@careful-seam/instruments/streamServer';
import { simulatedAir } from '@careful-seam/instruments/thermoHygrometer';
import { serveThermo } from '@careful-seam/instruments/thermoServer';
import { afterEach, describe, expect, it } from 'vitest';
import { airReading, isSimulated, readSenml, rodReadingMm } from './senml';

let open: Stream | null = null;
afterEach(() => {
  open?.server.close();
  open?.server.closeAllConnections();
  open = null;
});

/** The first pack of a stream, and a way to leave it. */
async function listen(address: string) {
  const stop = new AbortController();
  const answer = await fetch(`${address}/readings`, { signal: stop.signal });
  expect(answer.headers.get('content-type')).toBe('text/event-stream');
  const reader = answer.body!.getReader();
  let text = '';
  const next = async (): Promise<string> => {
    for (;;) {
      const found = /^data: (.*)$/m.exec(text);
      if (found) {
        text = text.slice(found.index + found[0].length);
        return found[1]!;
      }
      text += new TextDecoder().decode((await reader.read()).value);
    }
  };
  return { next, leave: () => stop.abort() };
}
const pack = (text: string) => {
  const read = readSenml(text);
  if (!read.ok) throw new Error(read.problem.code);
  return read.value;
};

describe('instruments that stream', () => {
  it('a thermo-hygrometer says the air at once, and that it is simulated', async () => {
    open = await serveThermo(0);
    const stream = await listen(open.address);
    const first = pack(await stream.next());
    expect(isSimulated(first)).toBe(true);
    const air = airReading(first)!;
    expect(air.airC).toBeGreaterThan(8);
    expect(air.airC).toBeLessThan(22);
    expect(air.relativeHumidity).toBeGreaterThan(0.3);
    stream.leave();
  });
  it('a laser reads where its rod was set, and refuses what is no place', async () => {
    open = await serveLaser(0, 3);
    const post = (body: string, path = '/rod') => fetch(`${open!.address}${path}`, { method: 'POST', body });
    expect((await post('{"xMm": "x"}')).status).toBe(400);
    expect((await post('not json')).status).toBe(400);
    expect((await post('{}', '/elsewhere')).status).toBe(404);
    const stream = await listen(open.address);
    expect((await post('{"xMm": 100, "yMm": 100}')).status).toBe(204);
    const rod = rodReadingMm(pack(await stream.next()))!;
    expect(rod).toBeGreaterThan(1150);
    expect(rod).toBeLessThan(1210);
    stream.leave();
  });
});

describe('simulated air', () => {
  const air = (seed: number) =>
    simulatedAir({ hours: 24, everyMinutes: 30, startHour: 0, dayC: 19, nightC: 9, relativeHumidity: 0.6, seed });
  it('is coldest at night, warmest in the afternoon, and the same for the same seed', () => {
    const rows = air(4);
    expect(rows).toEqual(air(4));
    expect(rows).not.toEqual(air(5));
    const at = (hour: number) => rows.find((r) => r.minutes === hour * 60)!.airC;
    expect(at(3)).toBeLessThan(10);
    expect(at(15)).toBeGreaterThan(18);
    expect(rows.every((r) => r.relativeHumidity > 0 && r.relativeHumidity < 1)).toBe(true);
  });
});
