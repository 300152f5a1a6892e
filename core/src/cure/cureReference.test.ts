import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { saturationPa } from './air';
import { climateLog } from './climateLog';
import { type CureLayer, cureReady, type Forecast } from './cureClock';

const HOUR = 3_600_000;
interface Row {
  h: number;
  c: number;
  rh: number;
}

/** What an hour counts, by the page of calculations. */
function rate({ kind, model, filmRatio }: CureLayer, { c, rh }: Pick<Row, 'c' | 'rh'>): number {
  if (c < 5) return 0;
  if (kind === 'drying') {
    const deficit = saturationPa(c) * (1 - rh);
    return deficit < 50 ? 0 : deficit / (saturationPa(23) * 0.5) / filmRatio;
  }
  return model === 'nurse-saul' ? c / 23 : Math.exp(5000 / 296.15 - 5000 / (c + 273.15));
}

/** A second, plain way to the same: a list of stretches, each with what an hour of it counts, walked in hours. */
function plainReady(layer: CureLayer, rows: readonly Row[], forecast: Forecast | null) {
  const laid = layer.laidAtMs / HOUR;
  const before = rows.filter((r) => r.h <= laid).at(-1);
  const after = rows.filter((r) => r.h > laid);
  const stretches: { from: number; to: number; counts: number; bridged: boolean }[] = [];
  let [last, since] = [before ?? after[0], before ? before.h : laid];
  let from = laid;
  for (const r of after) {
    const bridged = r.h - since > 3;
    const [a, b] = [rate(layer, last!), rate(layer, r)];
    stretches.push({ from, to: r.h, counts: bridged ? Math.min(a, b) : (a + b) / 2, bridged });
    [last, since, from] = [r, r.h, r.h];
  }
  let [earned, lost, bridged] = [0, 0, 0];
  let ready: number | null = null;
  for (const s of stretches) {
    const hours = s.to - s.from;
    if (s.bridged) bridged += hours;
    if (s.counts === 0) lost += hours;
    else if (earned + hours * s.counts >= layer.labelHours) ready = s.from + (layer.labelHours - earned) / s.counts;
    earned += hours * s.counts;
    if (ready !== null) break;
  }
  const earnedByLog = Math.min(layer.labelHours, earned);
  const fromH = forecast?.fromMs === undefined ? null : forecast.fromMs / HOUR;
  if (ready === null && rows.length > 0 && fromH !== null && fromH > from) {
    const counts = rate(layer, rows.at(-1)!);
    const more = (fromH - from) * counts;
    if (counts === 0) lost += fromH - from;
    else if (earned + more >= layer.labelHours) ready = from + (layer.labelHours - earned) / counts;
    earned += more;
    from = fromH;
  }
  const ahead = forecast ? { c: forecast.airC, rh: forecast.relativeHumidity } : rows.at(-1)!;
  const onward = rate(layer, ahead);
  if (ready === null && onward > 0) ready = from + (layer.labelHours - earned) / onward;
  const label = laid + layer.labelHours;
  const end = ready === null ? null : Math.max(label, ready);
  const lastRead = Math.max(laid, rows.at(-1)?.h ?? laid);
  return { end, earnedByLog, lost, bridged, assumed: end === null ? 0 : Math.max(0, end - lastRead), label };
}

const rows = fc
  .uniqueArray(
    fc.record({
      h: fc.double({ min: -10, max: 90, noNaN: true }),
      c: fc.double({ min: 0, max: 35, noNaN: true }),
      rh: fc.constantFrom(0.2, 0.5, 0.8, 0.97, 1),
    }),
    {
      selector: (r) => r.h,
      maxLength: 40,
    },
  )
  .map((list) => list.sort((a, b) => a.h - b.h));
const layer = fc.record({
  kind: fc.constantFrom('cement' as const, 'drying' as const),
  laidAtMs: fc.constantFrom(0, 6 * HOUR, 60 * HOUR),
  labelHours: fc.constantFrom(2, 12, 24, 48),
  model: fc.constantFrom('arrhenius' as const, 'nurse-saul' as const),
  filmRatio: fc.constantFrom(1, 1.7),
});
const forecast = fc.option(
  fc.record({
    airC: fc.constantFrom(2, 12, 25),
    relativeHumidity: fc.constantFrom(0.4, 0.8, 1),
    fromMs: fc.constantFrom(undefined, 20 * HOUR, 100 * HOUR),
  }),
);

function agree(of: CureLayer, list: readonly Row[], ahead: Forecast | null) {
  const log = climateLog(list.map((r) => ({ atMs: r.h * HOUR, airC: r.c, relativeHumidity: r.rh })));
  const found = cureReady(of, log, ahead);
  const plain = plainReady(of, list, ahead);
  expect(found.read).toBe(true);
  if (plain.end === null) expect(found.readyAtMs).toBeNull();
  // The table of saturation pressures is good to a ten-thousandth.
  else
    expect(Math.abs(found.readyAtMs! / HOUR - plain.end)).toBeLessThan(0.02 + 4e-4 * (plain.end - of.laidAtMs / HOUR));
  expect(found.earnedHours).toBeCloseTo(plain.earnedByLog, 1);
  expect(found.assumedHours).toBeCloseTo(plain.assumed, plain.assumed > 100 ? -1 : 0);
  return { found, plain };
}

describe('the cure clock against a plain walk through the same air', () => {
  it('agrees on the end, what was earned, lost and bridged, and what is assumed', () => {
    fc.assert(
      fc.property(layer, rows, forecast, (of, list, ahead) => {
        if (list.length === 0 && ahead === null) return;
        const { found, plain } = agree(of, list, ahead);
        expect(found.lostHours).toBeCloseTo(plain.lost, 6);
        expect(found.bridgedHours).toBeCloseTo(plain.bridged, 6);
        if (plain.end !== null && plain.end > plain.label + 0.1) expect(found.decides).not.toBe('label');
        if (plain.end !== null && plain.end === plain.label) expect(found.decides).toBe('label');
      }),
      { numRuns: 600, seed: 20261128 },
    );
  });
  it('and in a log of minutes that is longer than one block of readings', () => {
    const cold = (kind: CureLayer['kind'], model: CureLayer['model']) => {
      const list = Array.from({ length: 12_000 }, (_, k) => ({ h: k / 60, c: 7 + 2 * Math.sin(k / 300), rh: 0.7 }));
      const of: CureLayer = { kind, model, laidAtMs: 30_000, labelHours: 40, filmRatio: 1 };
      const { found, plain } = agree(of, list, null);
      expect(plain.end! / 1).toBeGreaterThan(4096 / 60);
      expect(found.assumedHours).toBe(0);
    };
    cold('cement', 'arrhenius');
    cold('cement', 'nurse-saul');
    cold('drying', 'arrhenius');
  });
  it('by hand: half the rate to a reading, the worse over a gap, the last one going on', () => {
    const of: CureLayer = { kind: 'cement', model: 'nurse-saul', laidAtMs: 0, labelHours: 6, filmRatio: 1 };
    const at = (list: [number, number][], ahead: Forecast | null = null) =>
      cureReady(of, climateLog(list.map(([h, airC]) => ({ atMs: h * HOUR, airC, relativeHumidity: 0.5 }))), ahead);
    // Two hours at 23 count two; then 11.5 °C counts half an hour each: eight more.
    expect(
      at([
        [0, 23],
        [2, 23],
        [2.0001, 11.5],
      ]).readyAtMs! / HOUR,
    ).toBeCloseTo(10, 2);
    // Exactly three hours apart is no gap: the mean counts, (1 + 0.5) / 2 * 3.
    expect(
      at([
        [0, 23],
        [3, 11.5],
      ]).readyAtMs! / HOUR,
    ).toBeCloseTo(3 + (6 - 2.25) / 0.5, 6);
    expect(
      at([
        [0, 23],
        [3, 11.5],
      ]).bridgedHours,
    ).toBe(0);
    expect(
      at([
        [0, 23],
        [3.001, 11.5],
      ]).readyAtMs! / HOUR,
    ).toBeCloseTo(12, 2);
    expect(
      at([
        [0, 23],
        [3.001, 11.5],
      ]).bridgedHours,
    ).toBeCloseTo(3.001, 9);
    // A frost from the last reading until it is heated: lost, and told so.
    const heated = at(
      [
        [0, 2],
        [1, 2],
      ],
      { airC: 23, relativeHumidity: 0.5, fromMs: 10 * HOUR },
    );
    expect(heated.readyAtMs! / HOUR).toBeCloseTo(16, 9);
    expect(heated.lostHours).toBeCloseTo(10, 9);
    expect(heated.decides).toBe('cold');
    // Ready to the second at its label: the label decides.
    expect(
      at([
        [0, 23],
        [7, 23],
      ]),
    ).toMatchObject({ readyAtMs: 6 * HOUR, decides: 'label', lostHours: 0, assumedHours: 0 });
    expect(at([[0, 23]], { airC: 23, relativeHumidity: 0.5, fromMs: 2 * HOUR }).readyAtMs).toBe(6 * HOUR);
  });
  it('a sealant has its label’s hours, and its air was not asked', () => {
    const of: CureLayer = { kind: 'sealant', model: 'arrhenius', laidAtMs: HOUR, labelHours: 2, filmRatio: 1 };
    const log = climateLog([{ atMs: 0, airC: 1, relativeHumidity: 1 }]);
    const told = {
      readyAtMs: 3 * HOUR,
      decides: 'label',
      earnedHours: 0,
      bridgedHours: 0,
      lostHours: 0,
      assumedHours: 0,
    };
    expect(cureReady(of, log)).toEqual({ ...told, read: false });
    expect(cureReady({ ...of, kind: 'cement' }, climateLog([]))).toEqual({ ...told, read: false });
    expect(cureReady({ ...of, kind: 'cement' }, climateLog([]), { airC: 23, relativeHumidity: 0.5 })).toMatchObject({
      readyAtMs: 3 * HOUR,
      read: true,
      assumedHours: 2,
    });
  });
});
