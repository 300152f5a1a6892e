import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { showerModel } from '../../shower/geometry/showerModel';
import { anyShower } from '../../tests/anyShower';
import { sampleModel, sampleShower } from '../../tests/sampleShower';
import { MM_PER_INCH } from '../../units/length';
import { FT2_PER_M2, US_GALLON_L } from '../../units/measures';
import { FilmFromVolumeInput, filmFromVolume, filmNeeded, filmPlausible, primerMix } from './filmArithmetic';
import type { FilmRecord } from './filmRecords';
import { filmSpots } from './filmSpots';
import { belowHeight, zoneAreas, zoneOfFace } from './filmZones';
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

describe('limits of gauges and spots', () => {
  it('a notch gauge without one of its limits decides by the other', () => {
    expect(judgeWet({ wettedUm: 400, nextUm: 500 }, { leastUm: null, mostUm: null })).toBe('pass');
    expect(judgeWet({ wettedUm: 400, nextUm: 500 }, { leastUm: null, mostUm: 450 })).toBe('undecided');
    expect(judgeWet({ wettedUm: 400, nextUm: 500 }, { leastUm: null, mostUm: 500 })).toBe('pass');
    expect(judgeWet({ wettedUm: 400, nextUm: 500 }, { leastUm: 400, mostUm: null })).toBe('pass');
    expect(judgeWet({ wettedUm: 400, nextUm: 500 }, { leastUm: 401, mostUm: null })).toBe('undecided');
    expect(judgeWet({ wettedUm: 950, nextUm: 1050 }, { leastUm: 500, mostUm: 1000 })).toBe('undecided');
    expect(value(wetInterval([50, 75], 0))).toEqual({ wettedUm: 50, nextUm: 75 });
  });
  it('a mean and a spot at their limits keep them', () => {
    const of = (minUm: number, maxUm: number, ...means: number[]) =>
      value(filmSpots({ spots: means.map((m): [number, number, number] => [m, m, m]), minUm, maxUm }));
    expect(of(500, 1000, 500)).toMatchObject({ verdict: 'pass', tooThin: false, tooThick: false });
    expect(of(500, 1000, 1000).verdict).toBe('pass');
    expect(of(500, 1000, 1001)).toMatchObject({ tooThick: true, tooThin: false });
    expect(of(500, 1000, 499)).toMatchObject({ tooThick: false, tooThin: true });
    // The mean holds, one spot at 120 % of the greatest, then beyond it; at 80 % of the least, then under it.
    expect(of(500, 1000, 600, 1200).verdict).toBe('pass');
    expect(of(500, 1000, 600, 1201)).toMatchObject({ tooThick: true, highestSpotUm: 1201 });
    expect(of(500, 1000, 900, 400).verdict).toBe('pass');
    expect(of(500, 1000, 900, 399)).toMatchObject({ tooThin: true, lowestSpotUm: 399 });
    expect(of(500, 500, 500).verdict).toBe('pass');
  });
  it('asks about a film outside 50 to 5000 µm, and names the figure; nothing at all is a finding', () => {
    for (const um of [0, 50, 560, 5000]) expect(filmPlausible(um, 'x')).toEqual({ ok: true, value: um });
    expect(filmPlausible(49.9, 'x')).toMatchObject({ ok: false, problem: { field: 'x' } });
    expect(filmPlausible(22, 'x')).toMatchObject({ problem: { code: 'film-too-thin', values: { um: 22 } } });
    expect(filmPlausible(0.56, 'x')).toMatchObject({ problem: { code: 'film-too-thin', values: { um: 0.6 } } });
    expect(filmPlausible(5001, 'x')).toMatchObject({ problem: { code: 'film-too-thick', values: { mm: 5 } } });
    expect(filmPlausible(22_000, 'x')).toMatchObject({ problem: { code: 'film-too-thick', values: { mm: 22 } } });
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
  it('of an alcove with a niche, curb and bench are what the tape says', () => {
    const IN = MM_PER_INCH;
    const model = value(
      showerModel({
        ...sampleShower({ niche: true }),
        benches: [{ kind: 'along', id: 'b', edge: 2, alongMm: 0, widthMm: 60 * IN, depthMm: 12 * IN, topMm: 18 * IN }],
      }),
    );
    const areas = zoneAreas(model, 18 * IN);
    const of = (...kinds: string[]) =>
      model.faces.filter((f) => kinds.some((k) => f.kind.startsWith(k))).reduce((sum, f) => sum + f.areaMm2, 0) / 1e6;
    expect(areas.get('niche')).toBeCloseTo(of('niche'), 9);
    expect(areas.get('bench')).toBeCloseTo(of('bench'), 9);
    expect(areas.get('curb')).toBeCloseTo(of('curb'), 9);
    expect(areas.get('floor')).toBeCloseTo(of('floor'), 9);
    expect(areas.get('walls')! + areas.get('lower-walls')!).toBeCloseTo(of('wall'), 9);
    const kinds = ['floor-wall', 'wall-wall-inside', 'bench-wall', 'bench-floor', 'niche-edge'];
    const corners = model.seams.filter((s) => kinds.includes(s.kind)).reduce((sum, s) => sum + s.lengthMm, 0);
    expect(areas.get('corners')).toBeCloseTo((corners * 100) / 1e6, 9);
    expect(corners).toBeLessThan(model.seams.reduce((sum, s) => sum + s.lengthMm, 0));
  });
  it('take an opening off where it lies: a niche in the lower walls makes them smaller by its mouth', () => {
    const low = (sillMm: number) => {
      const geometry = sampleShower({ niche: true });
      const niches = geometry.niches!.map((n) => ({ ...n, sillMm, heightMm: 100 }));
      return zoneAreas(value(showerModel({ ...geometry, niches })), 457.2);
    };
    const mouthMm2 = (60 * MM_PER_INCH * 100) / 4;
    const [above, within, across] = [low(800), low(200), low(407.2)];
    expect(above.get('lower-walls')! - within.get('lower-walls')!).toBeCloseTo(mouthMm2 / 1e6, 9);
    expect(above.get('lower-walls')! - across.get('lower-walls')!).toBeCloseTo(mouthMm2 / 2e6, 9);
    expect(within.get('walls')! - above.get('walls')!).toBeCloseTo(mouthMm2 / 1e6, 9);
  });
  it('know every kind of face, and only the built ones', () => {
    expect(
      (
        [
          'outside',
          'floor',
          'ceiling',
          'outside-floor',
          'wall',
          'wall-cap',
          'curb-top',
          'niche',
          'niche-shelf',
          'bench-top',
        ] as const
      ).map(zoneOfFace),
    ).toEqual([null, 'floor', 'ceiling', 'outside-floor', 'walls', 'walls', 'curb', 'niche', 'niche', 'bench']);
  });
  it('cuts a loop at a height exactly, wherever it stands', () => {
    const loop: [number, number, number][] = [
      [100, 50, 20],
      [110, 70, 20],
      [110, 70, 60],
      [100, 50, 40],
    ];
    expect(belowHeight(loop, 30)).toEqual([
      [100, 50, 20],
      [110, 70, 20],
      [110, 70, 30],
      [100, 50, 30],
    ]);
    expect(belowHeight(loop, 20)).toHaveLength(4);
    expect(belowHeight(loop, 50)[3]![0]).toBeCloseTo(105, 9);
    expect(belowHeight(loop, 50)[3]![1]).toBeCloseTo(60, 9);
    expect(belowHeight(loop, 10)).toEqual([]);
    expect(belowHeight(loop, 60)).toEqual(loop);
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
  const wet = (of: string, coat = 1, wettedUm = 600, nextUm = 700): FilmRecord =>
    ({ of: 'wet', zone: of, coat, wettedUm, nextUm }) as FilmRecord;
  const gauged = (of: string) => [wet(of, 1), wet(of, 2)];
  const spot = (um: number): FilmRecord => ({ of: 'dry', zone: 'walls', spotUm: [um, um, um], by: 'cut-sample' });
  const full = [on('02T08', ['walls'], 1, 3.3), on('02T16', ['walls'], 2, 3.3)];
  const judge = (records: readonly FilmRecord[], of: FilmLimits = limits) => judgeFilm(zones, areas, of, records);
  const zone = (j: ReturnType<typeof judge>, name: string) => j.zones.find((z) => z.zone === name)!;

  it('names the thin zone and the litres missing, and passes once they are on', () => {
    const thin = judge([...full, ...gauged('walls'), on('02T08', ['lower-walls'], 1, 1)]);
    expect(zone(thin, 'walls')).toMatchObject({ verdict: 'pass', coats: [1, 2] });
    expect(zone(thin, 'lower-walls')).toMatchObject({ verdict: 'fail', reasons: ['coats-missing', 'bucket-thin'] });
    expect(thin).toMatchObject({ verdict: 'fail', thinnest: 'lower-walls' });
    const missing = zone(thin, 'lower-walls').missingL;
    expect(missing).toBeCloseTo((2 * 560) / 1000 / 0.55 - 1, 9);
    const mended = judge([
      ...full,
      ...gauged('walls'),
      ...gauged('lower-walls'),
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
    const noSolids = { ...limits, solids: null };
    expect(zone(judge([...full, spot(600)], noSolids), 'walls').reasons).toEqual(['few-spots']);
    expect(zone(judge([...full, spot(600), spot(600), spot(600), spot(600)], noSolids), 'walls').verdict).toBe('pass');
    expect(zone(judge([...full, spot(300)]), 'walls').reasons).toEqual(['spots-thin']);
    expect(zone(judge([...full, spot(2000)]), 'walls').reasons).toEqual(['spots-thick']);
    expect(zone(judge([...full, spot(300), spot(2000)]), 'walls').reasons).toEqual(['spots-thin', 'spots-thick']);
  });
  it('a bucket alone passes no film: it says how much, not where; a gauge speaks of its own coat, a dry spot of all', () => {
    expect(zone(judge(full), 'walls')).toMatchObject({ verdict: 'undecided', reasons: ['bucket-only'] });
    expect(zone(judge([...full, wet('walls', 1)]), 'walls').reasons).toEqual(['bucket-only']);
    expect(zone(judge([...full, wet('lower-walls', 1), wet('lower-walls', 2)]), 'walls').reasons).toEqual([
      'bucket-only',
    ]);
    expect(zone(judge([...full, ...gauged('walls')]), 'walls').verdict).toBe('pass');
    expect(zone(judge([...full, spot(600)]), 'walls').verdict).toBe('pass');
  });
  it('a figure that no coat has decides nothing: a mil was taken for a millimetre', () => {
    const noMost = { ...limits, dryMostUm: null, wetMostUm: null };
    expect(zone(judge([...full, spot(15_000)], noMost), 'walls')).toMatchObject({
      verdict: 'undecided',
      reasons: ['implausible'],
    });
    expect(zone(judge([...full, ...gauged('walls'), wet('walls', 2, 6000, 7000)], noMost), 'walls').reasons).toEqual([
      'implausible',
    ]);
    const bucket = [on('02T08', ['walls'], 1, 33), on('02T16', ['walls'], 2, 3.3), ...gauged('walls')];
    expect(zone(judge(bucket, noMost), 'walls').reasons).toEqual(['implausible']);
    // Of another zone it says nothing here, and what is thin is thin, whatever else was mistyped.
    const elsewhere: FilmRecord = { of: 'dry', zone: 'floor', spotUm: [15_000, 15_000, 15_000], by: 'cut-sample' };
    expect(zone(judge([...full, ...gauged('walls'), elsewhere], noMost), 'walls').verdict).toBe('pass');
    expect(zone(judge([...full, spot(22)], noMost), 'walls').verdict).toBe('fail');
  });
  it('means what the bucket makes: loss off, water evaporated, share of the product kept', () => {
    const thinned = zone(judge([on('02T08', ['walls'], 1, 3, 1.5)], { ...limits, lossShare: 0.1 }), 'walls');
    expect(thinned.volumeL).toBe(3);
    expect(thinned.meanWetUm).toBeCloseTo((4.5 * 0.9 * 1000) / 6, 9);
    expect(thinned.meanDryUm).toBeCloseTo((3 * 0.9 * 1000 * 0.55) / 6, 9);
    expect(thinned.missingL).toBeCloseTo(((560 - 247.5) * 6) / 1000 / 0.55 / 0.9, 9);
    const two = zone(judge(full), 'walls');
    expect(two.volumeL).toBeCloseTo(6.6, 9);
    expect(two.meanWetUm).toBeCloseTo(1100, 9);
    expect(two.missingL).toBe(0);
    const unknown = zone(judge(full, { ...limits, solids: null }), 'walls');
    expect(unknown).toMatchObject({ meanDryUm: null, missingL: 0 });
    expect(unknown.meanWetUm).toBeCloseTo(1100, 9);
  });
  it('a film at its limit keeps it, thick as thin', () => {
    const made = (dryUm: number) => {
      const each = (dryUm * 6) / 1000 / 0.55 / 2;
      return zone(
        judge([on('02T08', ['walls'], 1, each), on('02T16', ['walls'], 2, each), ...gauged('walls')]),
        'walls',
      );
    };
    expect(made(560).reasons).toEqual([]);
    expect(made(1100).reasons).toEqual([]);
    expect(made(559.9).reasons).toEqual(['bucket-thin']);
    expect(made(1100.1).reasons).toEqual(['bucket-thick']);
    const noMost = { ...limits, dryMostUm: null };
    expect(zone(judge([...full, ...gauged('walls')], noMost), 'walls').reasons).toEqual([]);
    const noLeast = zone(judge(full, { ...limits, dryLeastUm: null, dryMostUm: 300 }), 'walls');
    expect(noLeast.reasons).toEqual(['bucket-thick', 'no-limit']);
  });
  it('counts each coat once, in their order, however the buckets were told', () => {
    const told = [on('02T16', ['walls'], 2, 2), on('02T08', ['walls'], 1, 2), on('02T16', ['walls'], 2, 2)];
    expect(zone(judge(told), 'walls').coats).toEqual([1, 2]);
    expect(zone(judge(told.slice(0, 2)), 'lower-walls').coats).toEqual([]);
    expect(zone(judge(told), 'walls').lastCoatAtMs).toBe(Date.parse('2026-03-02T16:00:00Z'));
  });
  it('the hours between coats: of the coat below, whatever the order, to the minute; none without a label', () => {
    const soon = (records: readonly FilmRecord[], recoatHours: number | null = 3) =>
      zone(judge(records, { ...limits, recoatHours }), 'walls').reasons.includes('too-soon');
    const at = (time: string, coat: number): FilmRecord =>
      ({ of: 'coat', zones: ['walls'], coat, volumeL: 3.3, waterL: 0, doneAt: `2026-03-02T${time}Z` }) as FilmRecord;
    expect(soon([at('10:00:00', 2), at('08:00:00', 1)])).toBe(true);
    expect(soon([at('11:00:00', 2), at('08:00:00', 1)])).toBe(false);
    expect(soon([at('08:00:00', 1), at('10:59:00', 2)])).toBe(false);
    expect(soon([at('08:00:00', 1), at('10:58:59', 2)])).toBe(true);
    // Two buckets of one coat, minutes apart; and a third coat on a second that was told late.
    expect(soon([at('08:00:00', 1), at('08:20:00', 1)])).toBe(false);
    expect(soon([at('08:00:00', 1), at('12:00:00', 2), at('12:30:00', 3)])).toBe(true);
    expect(soon([at('08:00:00', 1), at('12:00:00', 2), at('15:00:00', 3)])).toBe(false);
    expect(soon([at('08:00:00', 1), at('08:10:00', 2)], null)).toBe(false);
    expect(soon([at('08:00:00', 1), at('07:00:00', 2)], null)).toBe(false);
    expect(zone(judge([at('08:00:00', 1)], { ...limits, recoatHours: null }), 'walls').nextCoatAtMs).toBeNull();
    expect(zone(judge([wet('walls')]), 'walls')).toMatchObject({ lastCoatAtMs: null, nextCoatAtMs: null });
  });
  it('the wet gauge speaks for its zone: thin, thick, or between two teeth; the thinnest is shown', () => {
    const read = (...records: FilmRecord[]) => zone(judge([...full, ...records]), 'walls');
    expect(read(wet('walls', 1, 400, 500), wet('walls', 2)).reasons).toEqual(['gauge-thin']);
    expect(read(wet('walls', 1, 450, 550), wet('walls', 2)).reasons).toEqual(['gauge-between']);
    expect(read(wet('walls', 1, 450, 550), wet('walls', 2)).verdict).toBe('undecided');
    expect(read(wet('lower-walls', 1, 400, 500), ...gauged('walls')).reasons).toEqual([]);
    expect(read(spot(600), wet('lower-walls', 1, 400, 500)).thinnestWet).toBeNull();
    const shown = read(wet('walls', 2, 700, 800), wet('walls', 1, 600, 700), wet('walls', 1, 900, 1000));
    expect(shown.thinnestWet).toEqual({ wettedUm: 600, nextUm: 700, coat: 1 });
  });
  it('what nobody read is unseen; a gauge or a spot without a coat misses its coats', () => {
    expect(zone(judge([]), 'walls').verdict).toBe('unseen');
    expect(zone(judge([wet('walls', 1, 400, 500)]), 'walls')).toMatchObject({
      verdict: 'fail',
      reasons: ['gauge-thin', 'coats-missing'],
    });
    expect(zone(judge([spot(600)]), 'walls')).toMatchObject({
      verdict: 'fail',
      reasons: ['coats-missing', 'few-spots'],
    });
    expect(zone(judge([spot(600)], { ...limits, dryLeastUm: null }), 'walls')).toMatchObject({
      spots: null,
      reasons: ['coats-missing', 'few-spots'],
    });
    expect(zone(judge(full, { ...limits, solids: null }), 'walls').reasons).toEqual(['no-limit']);
    expect(zone(judge([...full, spot(600)], { ...limits, solids: null, dryLeastUm: null }), 'walls').reasons).toEqual([
      'few-spots',
      'no-limit',
    ]);
  });
  it('five spots on 100 sq ft, one at least, none more for a round area', () => {
    const wanted = (ft2: number) => {
      const found = judgeFilm([{ zone: 'walls', coats: 1 }], new Map([['walls', ft2 / FT2_PER_M2]]), limits, []);
      return found.zones[0]!.spotsWanted;
    };
    expect([1, 20, 20.1, 40, 100, 101].map(wanted)).toEqual([1, 1, 2, 2, 5, 6]);
  });
  it('names the zone with the least film and adds up what all of them lack', () => {
    const found = judge([
      on('02T08', ['lower-walls'], 1, 1.2),
      on('02T08', ['walls'], 1, 3),
      on('02T16', ['walls'], 2, 2),
    ]);
    expect(found.thinnest).toBe('lower-walls');
    const [walls, lower] = [zone(found, 'walls').missingL, zone(found, 'lower-walls').missingL];
    expect(walls).toBeCloseTo((560 * 6) / 1000 / 0.55 - 5, 9);
    expect(found.missingL).toBeCloseTo(walls + lower, 9);
    expect(judge([]).thinnest).toBeNull();
    expect(judge([on('02T08', ['walls'], 1, 1), on('02T08', ['lower-walls'], 1, 1)]).thinnest).toBe('walls');
  });
});
