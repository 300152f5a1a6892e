import { airReading, readSenml } from '@careful-seam/files/instruments/senml';
import { airFile, airPack, simulatedAir } from '@careful-seam/instruments/thermoHygrometer';
import { readHumidity, readTemperature } from '@careful-seam/words/sentences/cureWords';
import { DateTime } from 'luxon';
import { describe, expect, it } from 'vitest';
import { guessClimate, readClimate } from './climateCsv';
import { readLoggerTable } from './loggerCsv';

const value = <T>(o: { ok: boolean; value?: T }): T => {
  if (!o.ok) throw new Error(JSON.stringify(o));
  return o.value!;
};
const read = (text: string, zone = 'America/Chicago', change: object = {}) => {
  const table = value(readLoggerTable(text));
  return readClimate(table, { ...guessClimate(table, zone, 0), ...change });
};

describe('a file of the air', () => {
  it('is read with its columns in any order, °F and percent told by their names', () => {
    const found = value(read('RH (%),Temperature (°F),Date time\n50,68,2026-03-01 08:00\n60,50,2026-03-01 09:00\n'));
    expect(found.readings.map((r) => [Math.round(r.airC * 10) / 10, r.relativeHumidity])).toEqual([
      [20, 0.5],
      [10, 0.6],
    ]);
  });
  it('asks about 92 °C on site, and about a humidity that can’t be', () => {
    const hot = read('Date time,Temperature,Humidity\n2026-03-01 08:00,92,50\n2026-03-01 09:00,90,50\n');
    expect(hot).toMatchObject({ ok: false, problem: { field: 'readings.0.airC' } });
    const damp = read('Date time,Temperature,Humidity\n2026-03-01 08:00,20,150\n2026-03-01 09:00,20,50\n');
    expect(damp).toMatchObject({ ok: false, problem: { field: 'readings.0.relativeHumidity' } });
  });
  it('of another time zone, and across the clock change, keeps its hours', () => {
    const rows = ['2026-11-01 00:30', '2026-11-01 01:30', '2026-11-01 01:30', '2026-11-01 02:30']
      .map((t) => `${t},12,60`)
      .join('\n');
    const found = value(read(`Date time,Temperature,Humidity\n${rows}\n`));
    const hours = found.readings.map((r) => (r.atMs - found.readings[0]!.atMs) / 3_600_000);
    expect(hours).toEqual([0, 1, 2, 3]);
    const there = value(read(`Date time,Temperature,Humidity\n${rows.split('\n').slice(0, 2).join('\n')}\n`, 'UTC'));
    expect(found.readings[0]!.atMs - there.readings[0]!.atMs).toBe(5 * 3_600_000);
  });
  it('leaves out and lists rows that can’t be read', () => {
    const found = value(
      read(
        'Date time,Temperature,Humidity\n2026-03-01 08:00,20,50\nx,20,50\n2026-03-01 07:00,20,50\n2026-03-01 09:00,–,50\n2026-03-01 10:00,21,50\n',
      ),
    );
    expect(found.readings).toHaveLength(2);
    expect(found.problems.map((p) => [p.row, p.kind])).toEqual([
      [2, 'time-unreadable'],
      [3, 'time-backwards'],
      [4, 'level-unreadable'],
    ]);
  });
  it('comes back as the simulated instrument wrote it', () => {
    const rows = simulatedAir({
      hours: 12,
      everyMinutes: 30,
      startHour: 18,
      dayC: 19,
      nightC: 9,
      relativeHumidity: 0.6,
      seed: 3,
    });
    const clockAt = (minutes: number) =>
      DateTime.fromISO('2026-03-01T18:00', { zone: 'America/Chicago' }).plus({ minutes }).toFormat('yyyy-MM-dd HH:mm');
    const found = value(read(airFile(rows, clockAt)));
    expect(found.readings.map((r) => Math.round(r.airC * 10) / 10)).toEqual(rows.map((r) => r.airC));
    expect(Math.min(...rows.map((r) => r.airC))).toBeLessThan(10);
  });
});

describe('a thermo-hygrometer', () => {
  it('says temperature and humidity in the units of RFC 8428', () => {
    const pack = value(readSenml(airPack({ airC: 11.2, relativeHumidity: 0.634 }, 1_000)));
    expect(airReading(pack)).toEqual({ airC: 11.2, relativeHumidity: 0.634 });
    const kelvin = value(readSenml('[{"n":"temperature","u":"K","v":293.15},{"n":"humidity","u":"%RH","v":50}]'));
    expect(airReading(kelvin)).toEqual({ airC: 20, relativeHumidity: 0.5 });
    expect(airReading(value(readSenml('[{"n":"temperature","u":"Cel","v":20}]')))).toBeNull();
  });
});

describe('figures as typed', () => {
  it('temperatures in the person’s own degrees, or in those they say', () => {
    expect(readTemperature('68', 'in')).toBeCloseTo(20, 9);
    expect(readTemperature('20', 'mm')).toBe(20);
    expect(readTemperature('20 °C', 'in')).toBe(20);
    expect(readTemperature('-4,5', 'mm')).toBe(-4.5);
    expect(readTemperature('warm', 'in')).toBeNull();
  });
  it('humidities in percent or as a share', () => {
    expect(readHumidity('55')).toBe(0.55);
    expect(readHumidity('55 %')).toBe(0.55);
    expect(readHumidity('0.55')).toBe(0.55);
    expect(readHumidity('130')).toBeNull();
    expect(readHumidity('-5')).toBeNull();
  });
});
