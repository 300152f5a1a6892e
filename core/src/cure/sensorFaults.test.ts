import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { climateLog } from './climateLog';
import { sensorFaults } from './sensorFaults';

const HOUR = 3_600_000;
/** A day of minutes that a house would give, with what goes wrong put in. */
function day(
  change: (i: number, r: { airC: number; relativeHumidity: number }) => void = () => {},
  leave = () => false,
) {
  const rows = Array.from({ length: 1440 }, (_, i) => {
    const r = {
      airC: 18 + 2 * Math.sin(i / 229) + 0.05 * Math.sin(i),
      relativeHumidity: 0.5 + 0.05 * Math.cos(i / 229),
    };
    change(i, r);
    return { atMs: i * 60_000, ...r };
  });
  return climateLog(rows.filter((_, i) => !(leave as (i: number) => boolean)(i)));
}

/** A sensor's readings, 5 s apart, with the stretches that its makers labelled. */
function mote(number: number) {
  const lines = readFileSync(new URL(`../tests/motes/mote-${number}.csv`, import.meta.url), 'utf8')
    .trim()
    .split('\n');
  const rows = lines.slice(1).map((l) => l.split(',').map(Number) as [number, number, number]);
  const log = climateLog(
    rows.map(([humidity, airC], i) => ({ atMs: i * 5000, airC, relativeHumidity: humidity / 100 })),
  );
  const events: { fromMs: number; toMs: number }[] = [];
  rows.forEach(([, , label], i) => {
    if (label === 1 && rows[i - 1]?.[2] !== 1) events.push({ fromMs: i * 5000, toMs: i * 5000 });
    if (label === 1) events.at(-1)!.toMs = i * 5000;
  });
  return { log, events, faults: sensorFaults(log) };
}

describe('a log of temperature and humidity', () => {
  it('of a quiet day is left in peace', () => {
    expect(sensorFaults(day())).toEqual([]);
  });
  it('with a dead sensor is told where and how long', () => {
    const log = day((i, r) => {
      if (i >= 300 && i <= 1100) r.airC = 19;
    });
    expect(sensorFaults(log).filter((f) => f.kind === 'stuck')).toMatchObject([
      { kind: 'stuck', channel: 'temperature', fromMs: 300 * 60_000, toMs: 1100 * 60_000, size: 19 },
    ]);
  });
  it('with a jump, a gap and a figure that can’t be: each named with its place', () => {
    const jump = day((i, r) => {
      if (i >= 700) r.relativeHumidity += 0.25;
    });
    expect(sensorFaults(jump)).toMatchObject([{ kind: 'jump', channel: 'humidity', fromMs: 699 * 60_000 }]);
    const gap = sensorFaults(day(undefined, ((i: number) => i > 200 && i < 400) as () => boolean));
    expect(gap).toMatchObject([{ kind: 'gap', fromMs: 200 * 60_000, toMs: 400 * 60_000 }]);
    expect(gap[0]!.size).toBeCloseTo(200 / 60, 6);
    const wrong = day((i, r) => {
      if (i === 50) r.relativeHumidity = 1.7;
    });
    expect(sensorFaults(wrong).map((f) => f.kind)).toContain('range');
  });
  it('has no gap between readings that are hours apart by habit', () => {
    const sparse = climateLog([0, 4, 8, 12].map((h) => ({ atMs: h * HOUR, airC: 18 + h / 10, relativeHumidity: 0.5 })));
    expect(sensorFaults(sparse)).toEqual([]);
  });
});

// Outside reference: sensors whose events their owners labelled (core/s../tests/motes/README.md).
describe('sensors whose events were labelled by others', () => {
  it.each([1, 4])('finds the event of mote %i, and nothing before it', (number) => {
    const { events, faults } = mote(number);
    expect(events).toHaveLength(1);
    const [event] = events;
    const inside = faults.filter((f) => f.toMs >= event!.fromMs - 60_000 && f.fromMs <= event!.toMs + 120_000);
    expect(inside.length).toBeGreaterThan(0);
    expect(faults.filter((f) => f.toMs < event!.fromMs - 60_000)).toEqual([]);
    expect(inside.length).toBe(faults.length);
  });
  it('finds nothing in mote 2, which had none', () => {
    expect(mote(2).faults).toEqual([]);
  });
});
