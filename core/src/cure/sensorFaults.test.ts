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

describe('faults of a sensor to the reading', () => {
  const MINUTE = 60_000;
  const of = (rows: readonly [minute: number, airC: number, humidity?: number][]) =>
    sensorFaults(
      climateLog(rows.map(([m, airC, h]) => ({ atMs: m * MINUTE, airC, relativeHumidity: h ?? 0.4 + (m % 7) / 100 }))),
    );
  const kinds = (found: ReturnType<typeof of>) => found.map((f) => `${f.kind} ${f.channel}`);

  it('stuck: twelve hours and twenty-four readings at least, to the last of them', () => {
    const still = (count: number, everyMin: number) =>
      of([
        [-2 * everyMin, 18.2],
        [-everyMin, 18.1],
        ...Array.from({ length: count }, (_, i): [number, number] => [i * everyMin, 19]),
        [count * everyMin, 18.4],
        [(count + 1) * everyMin, 18.5],
      ]).filter((f) => f.kind === 'stuck');
    expect(still(25, 30)).toMatchObject([{ fromMs: 0, toMs: 24 * 30 * MINUTE, size: 19, channel: 'temperature' }]);
    expect(still(24, 32)).toHaveLength(1);
    expect(still(23, 33)).toHaveLength(0);
    expect(still(24, 31)).toHaveLength(0);
    // To the log's own end.
    const end = of([[-30, 18], ...Array.from({ length: 25 }, (_, i): [number, number] => [i * 30, 19])]);
    expect(end.filter((f) => f.kind === 'stuck')).toMatchObject([{ toMs: 24 * 30 * MINUTE }]);
  });
  it('a jump is over two degrees, or eight percent, and twelve usual steps; still stretches are no steps', () => {
    const wave = (i: number) => 18 + 0.1 * (i % 2);
    const minutes = (jump: number, quiet = 0): [number, number][] => [
      ...Array.from({ length: 60 }, (_, i): [number, number] => [i, wave(i)]),
      ...Array.from({ length: quiet }, (_, i): [number, number] => [60 + i, wave(59)]),
      ...Array.from({ length: 20 }, (_, i): [number, number] => [60 + quiet + i, wave(i) + jump]),
    ];
    expect(kinds(of(minutes(2.05)))).toEqual([]);
    expect(of(minutes(3))).toMatchObject([{ kind: 'jump', fromMs: 59 * MINUTE, toMs: 60 * MINUTE }]);
    expect(of(minutes(3))[0]!.size).toBeCloseTo(2.9, 9);
    expect(of(minutes(-3))[0]!.size).toBeCloseTo(3.1, 9);
    // A sensor that mostly stands still has a usual step all the same.
    expect(kinds(of(minutes(2.05, 200)))).toEqual([]);
    // Where the usual step is large, a large one is usual.
    const rough = Array.from({ length: 60 }, (_, i): [number, number] => [i, 15 + (i % 2) * 1.5 + (i > 30 ? 6 : 0)]);
    expect(kinds(of(rough))).toEqual([]);
    const humid = (h: number) =>
      of(Array.from({ length: 60 }, (_, i) => [i, wave(i), 0.5 + (i % 2) / 200 + (i > 30 ? h : 0)]));
    expect(kinds(humid(0.07))).toEqual([]);
    expect(kinds(humid(0.09))).toEqual(['jump humidity']);
  });
  it('jumps within ten minutes are one, with the largest; later, or of the other channel, they are two', () => {
    const wave = (i: number) => 18 + 0.1 * (i % 2);
    const spikes = (...at: [minute: number, by: number][]) =>
      of(
        Array.from({ length: 120 }, (_, i): [number, number] => [i, wave(i) + (at.find(([m]) => m === i)?.[1] ?? 0)]),
      ).filter((f) => f.kind === 'jump');
    expect(spikes([50, 5])).toMatchObject([{ fromMs: 49 * MINUTE, toMs: 51 * MINUTE }]);
    const two = spikes([50, 8], [58, 4]);
    expect(two).toMatchObject([{ fromMs: 49 * MINUTE, toMs: 59 * MINUTE }]);
    expect(two[0]!.size).toBeCloseTo(7.9, 9);
    // From the end of the first (51) to the beginning of the second: ten minutes are together, eleven not.
    expect(spikes([50, 5], [62, 5])).toMatchObject([{ toMs: 63 * MINUTE }]);
    expect(spikes([50, 5], [63, 5])).toMatchObject([{ toMs: 51 * MINUTE }, { toMs: 64 * MINUTE }]);
  });
  it('a gap is four usual steps and half an hour at least; the whole stands in the order of time', () => {
    const every = (step: number, gap: number) =>
      of([
        ...Array.from({ length: 20 }, (_, i): [number, number] => [i * step, 18 + (i % 3) / 10]),
        [19 * step + gap, 18],
      ]).filter((f) => f.kind === 'gap');
    expect(every(1, 30)).toEqual([]);
    expect(every(1, 31)).toMatchObject([{ channel: 'both', fromMs: 19 * MINUTE, toMs: 50 * MINUTE, size: 31 / 60 }]);
    expect(every(20, 80)).toEqual([]);
    expect(every(20, 81)).toHaveLength(1);
    const all = of([
      ...Array.from({ length: 20 }, (_, i): [number, number] => [i, 18 + (i % 3) / 10]),
      ...Array.from({ length: 20 }, (_, i): [number, number] => [60 + i, 18 + (i % 3) / 10]),
      ...Array.from({ length: 20 }, (_, i): [number, number] => [80 + i, 28 + (i % 3) / 10]),
    ]);
    expect(all.map((f) => f.kind)).toEqual(['gap', 'jump']);
  });
  it('out of range is what can’t be, its ends can', () => {
    const range = (airC: number, h: number) => of([[0, airC, h]]).map((f) => `${f.channel} ${f.size}`);
    expect(range(-40, 0)).toEqual([]);
    expect(range(60, 1)).toEqual([]);
    expect(range(-40.5, 0.5)).toEqual(['temperature -40.5']);
    expect(range(60.5, 0.5)).toEqual(['temperature 60.5']);
    expect(range(20, -0.1)).toEqual(['humidity -0.1']);
    expect(range(20, 1.1)).toEqual(['humidity 1.1']);
    expect(of([])).toEqual([]);
  });
});
