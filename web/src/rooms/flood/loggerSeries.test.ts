import { readBody } from '@careful-seam/core/log/entry';
import type { FloodTest } from '@careful-seam/core/log/floodTest';
import { describe, expect, it } from 'vitest';
import { READINGS_AT_MOST } from '../../ui/thinned';
import { seriesBody } from './loggerSeries';

const START = Date.parse('2026-03-10T14:00:00Z');
const test = { startMs: START, filledToMm: 76.2 } as FloodTest;
const readings = (levels: number[], everyMs = 60_000, fromMs = START) =>
  levels.map((levelMm, i) => ({ atMs: fromMs + i * everyMs, levelMm }));

describe("a logger's series as an entry", () => {
  it('is shifted so that the first reading after the start stands at the water line; the pan begins at nought', () => {
    const body = seriesBody(test, 'water', readings([130, 120, 119.5], 60_000, START - 60_000), 'a.csv', 0.1);
    expect(body.series.levelMm).toEqual([86.2, 76.2, 75.7]);
    expect(body.levelMm).toBe(75.7);
    expect(seriesBody(test, 'pan', readings([60, 59.8]), 'a.csv', 0.1).series.levelMm).toEqual([0, -0.2]);
  });

  it('is a valid body of its kind, with times as minutes from its first reading', () => {
    const body = seriesBody(test, 'water', readings([70, 69.9, 69.7], 90_000), 'x'.repeat(400), 0.1);
    expect(body.series.minutes).toEqual([0, 1.5, 3]);
    expect(body.series.startAt).toBe('2026-03-10T14:00:00.000Z');
    expect(readBody('flood-reading', body).ok).toBe(true);
  });

  it('of weeks at a reading a second is thinned evenly to what one entry holds, and keeps its rate', () => {
    const many = readings(
      Array.from({ length: READINGS_AT_MOST * 3 + 1 }, (_, i) => 76 - i * 0.0001),
      1000,
    );
    const { series } = seriesBody(test, 'water', many, 'a.csv', 0.1);
    expect(series.levelMm.length).toBeLessThanOrEqual(READINGS_AT_MOST);
    const hours = (series.minutes.at(-1)! - series.minutes[0]!) / 60;
    expect((series.levelMm[0]! - series.levelMm.at(-1)!) / hours).toBeCloseTo(0.36, 2);
    expect(readBody('flood-reading', seriesBody(test, 'water', many, 'a.csv', 0.1)).ok).toBe(true);
  });
});
