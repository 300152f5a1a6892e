import { describe, expect, it } from 'vitest';
import { airOf, readAirFile } from './airFile';

const NOW = Date.UTC(2026, 11, 1, 12);
const HOUR = 3_600_000;
const csv = (fromMs: number, hours: number, stepMinutes = 60) =>
  new File(
    [
      `Date time,Temperature,Humidity\n${Array.from({ length: (hours * 60) / stepMinutes }, (_, k) => `${new Date(fromMs + k * stepMinutes * 60_000).toISOString()},${4 + (k % 5)},70`).join('\n')}\n`,
    ],
    'air.csv',
  );

describe('a file of the air ahead', () => {
  it('is taken hour by hour from now on, two weeks at most', async () => {
    const read = await readAirFile(csv(NOW - 10 * HOUR, 48, 10), NOW);
    expect(read.ok && read.value.hours).toHaveLength(38);
    expect(read.ok && read.value.hours[0]!.atMs).toBeGreaterThan(NOW);
    const long = await readAirFile(csv(NOW, 24 * 30), NOW);
    expect(long.ok && long.value.hours).toHaveLength(14 * 24);
  });

  it('of days that are over is refused, as is one that is no table', async () => {
    expect(await readAirFile(csv(NOW - 100 * HOUR, 48), NOW)).toMatchObject({ problem: { code: 'air-not-ahead' } });
    expect((await readAirFile(new File(['nothing'], 'x.csv'), NOW)).ok).toBe(false);
  });

  it('comes before what was typed; neither is none', async () => {
    const read = await readAirFile(csv(NOW, 5), NOW);
    const file = read.ok ? read.value : null;
    expect(airOf({ airC: '20', humidity: '40' }, file)?.hours).toHaveLength(file!.hours.length);
    expect(airOf({ airC: '20', humidity: '40' }, null)).toEqual({ airC: 20, relativeHumidity: 0.4 });
    expect(airOf({ airC: '', humidity: '' }, null)).toBeNull();
  });
});
