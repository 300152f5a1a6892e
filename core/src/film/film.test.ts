import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { showerModel } from '../geometry/showerModel';
import { anyShower } from '../tests/anyShower';
import { sampleModel } from '../tests/sampleShower';
import { MM_PER_INCH } from '../units/length';
import { FT2_PER_M2, US_GALLON_L } from '../units/measures';
import { FilmFromVolumeInput, filmFromVolume, filmNeeded, filmPlausible, primerMix } from './filmArithmetic';
import type { FilmRecord } from './filmRecords';
import { filmSpots } from './filmSpots';
import { belowHeight, zoneAreas } from './filmZones';
import { type FilmLimits, judgeFilm } from './judgeFilm';
import { GAUGE_MILS, judgeWet, wetInterval } from './wetGauge';

const MIL = 25.4;
const value = <T>(o: { ok: boolean; value?: T }): T => {
  if (!o.ok) throw new Error(JSON.stringify(o));
  return o.value!;
};

describe('a film out of its bucket', () => {
  const ft2 = 1 / FT2_PER_M2;
  it('one gallon covers 1604.17 ft² at a mil', () => {
    const wet = value(filmFromVolume({ areaM2: 1604.166667 * ft2, volumeL: US_GALLON_L, solids: 1 })).wetUm;
    expect(wet / MIL).toBeCloseTo(1, 6);
    expect(231 / (0.001 * 144)).toBeCloseTo(1604.17, 2);
  });
  it('22 mil dry at 55 % is 40 wet; 90 ft² need 2.244 gal; one gallon leaves 9.8 mil', () => {
    const need = value(filmNeeded({ areaM2: 90 * ft2, dryUm: 22 * MIL, solids: 0.55, coats: 1 }));
    expect(need.volumeL / US_GALLON_L).toBeCloseTo(2.244, 3);
    expect(need.wetUmPerCoat / MIL).toBeCloseTo(40, 9);
    const one = value(filmFromVolume({ areaM2: 90 * ft2, volumeL: US_GALLON_L, solids: 0.55 }));
    expect(one.wetUm / MIL).toBeCloseTo(17.8, 1);
    expect(one.dryUm / MIL).toBeCloseTo(9.8, 1);
  });
  it('half a cup on 16 sq ft is about 3 mil wet', () => {
    const wet = value(filmFromVolume({ areaM2: 16 * ft2, volumeL: US_GALLON_L / 32, solids: 0.5 })).wetUm;
    expect(wet / MIL).toBeGreaterThan(3);
    expect(wet / MIL).toBeLessThan(3.3);
  });
  it('needed and made are each other’s inverse, thinned and with loss', () => {
    const share = fc.double({ min: 0.1, max: 0.9, noNaN: true });
    fc.assert(
      fc.property(share, share, share, fc.integer({ min: 1, max: 4 }), (solids, thinning, lossShare, coats) => {
        const given = { areaM2: 7, solids, thinning, lossShare };
        const need = value(filmNeeded({ ...given, dryUm: 560, coats }));
        const made = value(filmFromVolume({ ...given, volumeL: need.volumeL }));
        expect(made.dryUm).toBeCloseTo(560, 6);
        expect(made.wetUm).toBeCloseTo(need.wetUmPerCoat * coats, 6);
      }),
    );
  });
  it('refuses solids over 100 % and asks about mil and millimetre', () => {
    expect(FilmFromVolumeInput.safeParse({ areaM2: 1, volumeL: 1, solids: 55 }).success).toBe(false);
    expect(filmPlausible(22, 'x')).toMatchObject({ ok: false });
    expect(filmPlausible(22_000, 'x')).toMatchObject({ ok: false });
    expect(filmPlausible(560, 'x').ok).toBe(true);
  });
  it('primer 4 : 1', () => {
    expect(value(primerMix({ areaM2: 10, coverageM2PerL: 5, waterParts: 4 }))).toEqual({
      mixL: 2,
      productL: 0.4,
      waterL: 1.6,
    });
  });
});

describe('gauges', () => {
  const teeth = GAUGE_MILS.map((m) => m * MIL);
  it('a notch gauge gives an interval, and none above its last tooth', () => {
    expect(value(wetInterval(teeth, 2))).toEqual({ wettedUm: 8 * MIL, nextUm: 10 * MIL });
    expect(value(wetInterval(teeth, -1))).toEqual({ wettedUm: 0, nextUm: 4 * MIL });
    expect(wetInterval(teeth, teeth.length - 1)).toMatchObject({ ok: false });
  });
  it('decides only what lies wholly on one side', () => {
    const limits = { leastUm: 500, mostUm: 1000 };
    expect(judgeWet({ wettedUm: 400, nextUm: 500 }, limits)).toBe('thin');
    expect(judgeWet({ wettedUm: 450, nextUm: 550 }, limits)).toBe('undecided');
    expect(judgeWet({ wettedUm: 500, nextUm: 600 }, limits)).toBe('pass');
    expect(judgeWet({ wettedUm: 1000, nextUm: 1100 }, limits)).toBe('thick');
  });
  it('spots: mean within limits, none under 80 % of the least nor over 120 % of the greatest', () => {
    const of = (...means: number[]) => means.map((m): [number, number, number] => [m, m, m]);
    const limits = { minUm: 500, maxUm: 1000 };
    expect(value(filmSpots({ spots: of(600, 700, 400), ...limits }))).toMatchObject({
      verdict: 'pass',
      lowestSpotUm: 400,
    });
    expect(value(filmSpots({ spots: of(900, 900, 399), ...limits })).verdict).toBe('fail');
    expect(value(filmSpots({ spots: of(500, 500, 1201), ...limits })).verdict).toBe('fail');
    expect(value(filmSpots({ spots: of(480, 490), ...limits })).verdict).toBe('fail');
    expect(filmSpots({ spots: of(1), minUm: 5, maxUm: 4 })).toMatchObject({ ok: false });
  });
});

describe('zones of a shower', () => {
  it('divide its coated faces, whatever its shape', () => {
    fc.assert(
      fc.property(anyShower, ({ geometry }) => {
        const model = value(showerModel(geometry));
        const areas = zoneAreas(model, 18 * MM_PER_INCH);
        const zones = [...areas].filter(([z]) => z !== 'corners').reduce((sum, [, a]) => sum + a, 0);
        const faces = model.faces.filter((f) => f.kind !== 'outside').reduce((sum, f) => sum + f.areaMm2, 0);
        expect(zones).toBeCloseTo(faces / 1e6, 6);
      }),
      { numRuns: 40 },
    );
  });
  it('the lower 18 in of an alcove’s walls are 18 in times their lengths', () => {
    const model = sampleModel();
    const wallMm = model.geometry.edges.reduce((sum, e, i) => {
      const [a, b] = [model.geometry.footprint[i]!, model.geometry.footprint[(i + 1) % 4]!];
      return e.kind === 'wall' ? sum + Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm) : sum;
    }, 0);
    const low = zoneAreas(model, 457.2).get('lower-walls')!;
    expect(low).toBeGreaterThan((wallMm * 457.2) / 1e6 - 1e-6);
    expect(low).toBeLessThan(((wallMm + 500) * 457.2) / 1e6);
  });
  it('cuts a loop at a height', () => {
    expect(
      belowHeight(
        [
          [0, 0, 0],
          [10, 0, 0],
          [10, 0, 10],
          [0, 0, 10],
        ],
        4,
      ),
    ).toHaveLength(4);
  });
});

describe('a film judged by zone', () => {
  const areas = new Map([
    ['floor', 2],
    ['lower-walls', 2],
    ['walls', 6],
    ['corners', 0.5],
  ] as const);
  const limits: FilmLimits = {
    dryLeastUm: 560,
    dryMostUm: 1100,
    wetLeastUm: 500,
    wetMostUm: 1000,
    solids: 0.55,
    lossShare: 0,
    recoatHours: 3,
  };
  const zones = [
    { zone: 'walls', coats: 2 },
    { zone: 'lower-walls', coats: 2 },
    { zone: 'corners', coats: 0 },
    { zone: 'bench', coats: 2 },
  ] as const;
  const on = (day: string, of: readonly string[], coat: number, volumeL: number, waterL = 0): FilmRecord =>
    ({ of: 'coat', zones: of, coat, volumeL, waterL, doneAt: `2026-03-${day}:00:00Z` }) as FilmRecord;
  const wet = (of: string): FilmRecord => ({ of: 'wet', zone: of, coat: 1, wettedUm: 600, nextUm: 700 }) as FilmRecord;
  const full = [on('02T08', ['walls'], 1, 3.3), on('02T16', ['walls'], 2, 3.3)];
  const judge = (records: readonly FilmRecord[], of: FilmLimits = limits) => judgeFilm(zones, areas, of, records);
  const zone = (j: ReturnType<typeof judge>, name: string) => j.zones.find((z) => z.zone === name)!;

  it('names the thin zone and the litres missing, and passes once they are on', () => {
    const thin = judge([...full, wet('walls'), on('02T08', ['lower-walls'], 1, 1)]);
    expect(zone(thin, 'walls')).toMatchObject({ verdict: 'pass', coats: [1, 2] });
    expect(zone(thin, 'lower-walls')).toMatchObject({ verdict: 'fail', reasons: ['coats-missing', 'bucket-thin'] });
    expect(thin).toMatchObject({ verdict: 'fail', thinnest: 'lower-walls' });
    const missing = zone(thin, 'lower-walls').missingL;
    expect(missing).toBeCloseTo((2 * 560) / 1000 / 0.55 - 1, 9);
    const mended = judge([
      ...full,
      wet('walls'),
      wet('lower-walls'),
      on('02T08', ['lower-walls'], 1, 1),
      on('02T12', ['lower-walls'], 2, missing),
    ]);
    expect(mended).toMatchObject({ verdict: 'pass', missingL: 0 });
  });
  it('leaves out zones that the shower has not, and corners that nobody read', () => {
    expect(judge(full).zones.map((z) => z.zone)).toEqual(['walls', 'lower-walls', 'corners']);
    expect(zone(judge(full), 'corners').verdict).toBe('pass');
    expect(judge([]).verdict).toBe('unseen');
  });
  it('spreads one bucket over its zones by area', () => {
    const both = judge([on('02T08', ['walls', 'lower-walls'], 1, 8.5)]);
    expect(zone(both, 'walls').meanDryUm).toBeCloseTo(zone(both, 'lower-walls').meanDryUm!, 9);
  });
  it('takes too much for a fault, like too little', () => {
    expect(zone(judge([on('02T08', ['walls'], 1, 9), on('02T16', ['walls'], 2, 9)]), 'walls').reasons).toEqual([
      'bucket-thick',
    ]);
    const corner: FilmRecord = { of: 'wet', zone: 'corners', coat: 1, wettedUm: 1100, nextUm: 1200 };
    expect(zone(judge([...full, corner]), 'corners').reasons).toEqual(['gauge-thick']);
  });
  it('thinning makes a wet film, not a dry one', () => {
    const thinned = zone(judge([on('02T08', ['walls'], 1, 3, 3)]), 'walls');
    const plain = zone(judge([on('02T08', ['walls'], 1, 3)]), 'walls');
    expect(thinned.meanWetUm).toBeCloseTo(2 * plain.meanWetUm!, 9);
    expect(thinned.meanDryUm).toBeCloseTo(plain.meanDryUm!, 9);
  });
  it('a coat on one that had not its hours is told', () => {
    expect(zone(judge([on('02T08', ['walls'], 1, 3.3), on('02T10', ['walls'], 2, 3.3)]), 'walls').reasons).toEqual([
      'too-soon',
    ]);
    expect(zone(judge(full), 'walls').nextCoatAtMs).toBe(Date.parse('2026-03-02T19:00:00Z'));
  });
  it('without a label nothing passes: it is undecided', () => {
    const none = { ...limits, dryLeastUm: null };
    expect(zone(judge(full, none), 'walls')).toMatchObject({ verdict: 'undecided', reasons: ['no-limit'] });
  });
  it('dry spots: a few are too few, a thin one fails', () => {
    const spot = (um: number): FilmRecord => ({ of: 'dry', zone: 'walls', spotUm: [um, um, um], by: 'cut-sample' });
    const noSolids = { ...limits, solids: null };
    expect(zone(judge([...full, spot(600)], noSolids), 'walls').reasons).toEqual(['few-spots']);
    expect(zone(judge([...full, spot(600), spot(600), spot(600), spot(600)], noSolids), 'walls').verdict).toBe('pass');
    expect(zone(judge([...full, spot(300)]), 'walls').reasons).toEqual(['spots-thin']);
    expect(zone(judge([...full, spot(2000)]), 'walls').reasons).toEqual(['spots-thick']);
    expect(zone(judge([...full, spot(300), spot(2000)]), 'walls').reasons).toEqual(['spots-thin', 'spots-thick']);
  });
  it('a bucket alone passes no film: it says how much, not where', () => {
    const bucket = full.slice(0, 2);
    expect(zone(judge(bucket), 'walls')).toMatchObject({ verdict: 'undecided', reasons: ['bucket-only'] });
    expect(zone(judge([...bucket, wet('walls')]), 'walls').verdict).toBe('pass');
  });
});
