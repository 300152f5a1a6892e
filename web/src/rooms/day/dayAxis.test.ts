import fc from 'fast-check';
import { DateTime } from 'luxon';
import { describe, expect, it } from 'vitest';
import { crewMorning, dayParts, nearestOnBand, piecesOnBand, placeOnBand } from './dayAxis';

const ZONE = 'America/Chicago';
const at = (iso: string) => DateTime.fromISO(iso, { zone: ZONE }).toMillis();
const NOW = at('2026-11-23T11:25');
const parts = dayParts(NOW, ZONE, true);

describe('the band of hours', () => {
  it("shows today's hours at the site and tomorrow's behind them, the night left out", () => {
    expect(
      parts.map((p) => [DateTime.fromMillis(p.day.getTime(), { zone: ZONE }).toFormat('ccc d'), p.fromMs, p.toMs]),
    ).toEqual([
      ['Mon 23', at('2026-11-23T06:00'), at('2026-11-23T18:00')],
      ['Tue 24', at('2026-11-24T06:00'), at('2026-11-24T18:00')],
    ]);
    expect(placeOnBand(parts, at('2026-11-23T12:00'))).toBeCloseTo(0.35, 9);
    expect(placeOnBand(parts, at('2026-11-23T23:00'))).toBeNull();
    // What is read in the evening stands at the end of its day, what comes before the band at its begin.
    expect(nearestOnBand(parts, at('2026-11-23T20:00'))).toBeCloseTo(0.7, 9);
    expect(nearestOnBand(parts, at('2026-11-23T12:00'))).toBeCloseTo(0.35, 9);
    expect(nearestOnBand(parts, at('2026-11-22T12:00'))).toBe(0);
    expect(nearestOnBand(parts, at('2026-11-26T12:00'))).toBeCloseTo(1, 9);
    expect(dayParts(NOW, ZONE, false)).toHaveLength(1);
  });

  it('cuts a stretch at its ends and at the night; an open one runs to the end', () => {
    expect(piecesOnBand(parts, at('2026-11-22T10:00'), at('2026-11-24T12:00'))).toHaveLength(2);
    expect(piecesOnBand(parts, at('2026-11-23T19:00'), at('2026-11-24T05:00'))).toEqual([]);
    expect(piecesOnBand(parts, at('2026-11-24T12:00'), null)).toEqual([{ from: 0.86, to: 1 }]);
  });

  it('never draws a piece outside the band, and never more time than there was', () => {
    fc.assert(
      fc.property(fc.integer({ min: -72, max: 72 }), fc.integer({ min: 0, max: 96 }), (from, hours) => {
        const start = NOW + from * 3_600_000;
        const pieces = piecesOnBand(parts, start, start + hours * 3_600_000);
        const drawn = pieces.reduce((sum, p) => sum + p.to - p.from, 0);
        for (const p of pieces) {
          expect(p.from).toBeGreaterThanOrEqual(0);
          expect(p.to).toBeLessThanOrEqual(1);
        }
        expect(drawn).toBeLessThanOrEqual((hours / 12) * 0.7 + 1e-9);
      }),
    );
  });

  it('keeps the hours of the site on the day a clock changes', () => {
    const spring = dayParts(at('2026-03-08T12:00'), ZONE, true);
    expect(DateTime.fromMillis(spring[0]!.day.getTime(), { zone: ZONE }).plus({ hours: 24 }).day).toBe(9);
    expect(DateTime.fromMillis(spring[0]!.fromMs, { zone: ZONE }).hour).toBe(6);
    expect(DateTime.fromMillis(crewMorning(ZONE)(at('2026-03-08T23:30')), { zone: ZONE }).toISO()).toContain(
      '2026-03-08T07:00',
    );
  });
});
