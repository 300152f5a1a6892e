import { levelPack, levelReadings } from '@careful-seam/instruments/levelDevice';
import { describe, expect, it } from 'vitest';
import { deviceReadings } from './deviceReadings';
import { type Measured, readSenml } from './senml';

const NOW = Date.UTC(2026, 11, 2, 12);
const read = (text: string): Measured[] => {
  const pack = readSenml(text);
  if (!pack.ok) throw new Error(pack.problem.code);
  return pack.value;
};

describe('what an instrument sends', () => {
  // RFC 8428, chapter 5.1, the second of them shortened [from memory].
  it('the examples of RFC 8428: a temperature now, and a current whose times count back from now', () => {
    const one = read('[{"n":"urn:dev:ow:10e2073a01080063","u":"Cel","v":23.1}]');
    expect(one[0]).toMatchObject({ name: 'urn:dev:ow:10e2073a01080063', unit: 'Cel', value: 23.1, timeS: 0 });
    const many = read(
      '[{"bn":"urn:dev:ow:10e2073a0108006:","bt":1.276020076001e+09,"bu":"A","bver":5,"n":"voltage","u":"V","v":120.1},{"n":"current","t":-5,"v":1.2},{"n":"current","t":-4,"v":1.3},{"n":"current","v":1.7}]',
    );
    expect(many.map((m) => [m.name.split(':').at(-1), m.unit, m.value, m.timeS])).toEqual([
      ['voltage', 'V', 120.1, 1276020076.001],
      ['current', 'A', 1.2, 1276020071.001],
      ['current', 'A', 1.3, 1276020072.001],
      ['current', 'A', 1.7, 1276020076.001],
    ]);
    // Times below 2^28 are counted from now [RFC 8428, 4.5.3].
    const past = deviceReadings(read('[{"n":"level","u":"m","t":-60,"v":0.05},{"n":"level","u":"m","v":0.04}]'), NOW);
    expect(past.readings).toEqual([
      { of: 'level', value: 50, atMs: NOW - 60_000 },
      { of: 'level', value: 40, atMs: NOW },
    ]);
  });

  it('units are put into this program’s, and what nobody knows is left and counted', () => {
    const pack = read(
      '[{"bn":"x:","bt":1796212800,"n":"level","u":"cm","v":7.62},{"n":"temperature","u":"K","v":293.15},{"n":"humidity","u":"%RH","v":55},{"n":"moisture","v":31},{"n":"moisture","u":"%","v":19},{"n":"loudness","u":"dBW","v":3},{"n":"level","u":"Cel","v":1}]',
    );
    const told = deviceReadings(pack, 1796212800_000);
    expect(told.readings.map((r) => [r.of, Number(r.value.toFixed(6))])).toEqual([
      ['level', 76.2],
      ['temperature', 20],
      ['humidity', 0.55],
      ['moisture', 19],
    ]);
    // A moisture meter without its scale, a sound, and a level in degrees.
    expect(told.left).toBe(3);
  });

  it('a clock that was never set, or runs ahead, is put right by the newest reading; a buffer that was sent late is not', () => {
    const run = { seed: 3, hours: 2, everyMinutes: 10, startMm: 76, holeMm: null, leaks: 0, evaporationMmPerHour: 0.1 };
    const rows = levelReadings({ ...run, scatterMm: 0.1, resolutionMm: 0.1 });
    const sent = (startMs: number, faults: Parameters<typeof levelPack>[2] = []) =>
      deviceReadings(read(levelPack(rows, startMs, faults)), NOW);
    const late = sent(NOW - 30 * 3_600_000);
    expect(late.shiftedMs).toBe(0);
    expect(late.readings.at(-1)!.atMs).toBe(NOW - 28 * 3_600_000);
    const unset = sent(NOW - 2 * 3_600_000, ['wrong-clock']);
    expect(unset.shiftedMs).toBeGreaterThan(0);
    expect(unset.readings.at(-1)!.atMs).toBe(NOW);
    expect(unset.readings[0]!.atMs).toBe(NOW - 2 * 3_600_000);
    expect(sent(NOW + 9 * 3_600_000).readings.at(-1)!.atMs).toBe(NOW);
  });

  it('each fault of the simulated logger does what it is called', () => {
    const base = {
      ...{ seed: 5, hours: 48, everyMinutes: 10, startMm: 76, holeMm: 31, leaks: 0.25 },
      ...{ evaporationMmPerHour: 0.09, scatterMm: 0.1, resolutionMm: 0.1 },
    };
    const sound = levelReadings(base);
    const count = sound.length;
    expect(count).toBe(48 * 6 + 1);
    const of = (fault: Parameters<typeof levelPack>[2]) => levelReadings({ ...base, faults: fault! });
    expect(of(['gaps']).length).toBeLessThan(count);
    expect(of(['battery']).at(-1)!.atHours).toBeLessThan(41);
    const still = of(['stuck']).filter((r) => r.atHours > 25 && r.atHours < 28);
    expect(new Set(still.map((r) => r.levelMm)).size).toBe(1);
    expect(of(['drift']).at(-1)!.levelMm - sound.at(-1)!.levelMm).toBeGreaterThan(0.6);
    const spread = (rows: typeof sound) =>
      Math.max(...rows.slice(1).map((r, k) => Math.abs(r.levelMm - rows[k]!.levelMm)));
    expect(spread(of(['noise']))).toBeGreaterThan(3 * spread(sound));
  });
});
