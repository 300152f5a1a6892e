import type { FilmRecord } from '@careful-seam/core/membrane/film/filmRecords';
import type { FilmZone } from '@careful-seam/core/membrane/film/filmZones';
import { type FilmLimits, judgeFilm } from '@careful-seam/core/membrane/film/judgeFilm';
import { describe, expect, it } from 'vitest';
import { makeWords } from '../texts/words';
import { hoursWords, layerName, temperatureWords } from './cureWords';
import {
  areaWords,
  bucketWords,
  filmLimitWords,
  filmRecordWords,
  filmSentence,
  filmWords,
  zoneSentence,
} from './filmWords';

const t = makeWords('en').t;
const es = makeWords('es').t;
const limits: FilmLimits = {
  dryLeastUm: 558.8,
  dryMostUm: 1117.6,
  wetLeastUm: 508,
  wetMostUm: 1016,
  solids: 0.55,
  lossShare: 0,
  recoatHours: 3,
};
const areas = new Map<FilmZone, number>([
  ['walls', 6],
  ['lower-walls', 2],
  ['floor', 2],
]);
const zones = [
  { zone: 'walls' as const, coats: 2 },
  { zone: 'lower-walls' as const, coats: 2 },
];
const coat = (zone: FilmZone, coats: number, volumeL: number, at = '2026-03-01T08:00:00Z'): FilmRecord => ({
  of: 'coat',
  zones: [zone],
  coat: coats,
  volumeL,
  waterL: 0,
  doneAt: at,
});
const full = [coat('walls', 1, 3.3), coat('walls', 2, 3.3, '2026-03-01T16:00:00Z')];
const judge = (records: readonly FilmRecord[]) => judgeFilm(zones, areas, limits, records);

describe('films in words', () => {
  it('are mils or micrometres, gallons and quarts or litres, square feet or metres', () => {
    expect(filmWords(558.8, 'in')).toBe('22 mil');
    expect(filmWords(200, 'in')).toBe('7.9 mil');
    expect(filmWords(558.8, 'mm')).toBe('559 µm');
    expect(bucketWords(3.785411784, 'in')).toBe('1.00 gal');
    expect(bucketWords(0.946352946, 'in')).toBe('1.0 qt');
    expect(bucketWords(12.34, 'mm')).toBe('12.3 L');
    expect(areaWords(1, 'in')).toBe('10.8 sq ft');
    expect(areaWords(1, 'mm')).toBe('1.00 m²');
  });
  it('name the zone that decides, its figure and the litres missing', () => {
    const thin = judge([...full, coat('lower-walls', 1, 1)]);
    expect(filmSentence(t, thin, limits, 'in')).toBe(
      'Hold: lower walls: 1 of 2 coats. 11 mil dry on the mean, needs 22 mil; 1.1 qt of product is missing.',
    );
    expect(filmSentence(es, thin, limits, 'mm')).toMatch(/^Retener: paredes bajas: 1 de 2 manos\. 275 µm seco/);
  });
  it('say that nothing was read, that it holds, and how many zones more', () => {
    expect(filmSentence(t, judge([]), limits, 'in')).toMatch(/^Nothing read of the film yet: .* And 1 zone more\.$/);
    const coats = [...full, coat('lower-walls', 1, 1.1), coat('lower-walls', 2, 1.1, '2026-03-01T16:00:00Z')];
    expect(filmSentence(t, judge(coats), limits, 'in')).toMatch(
      /^Not decided: walls: 24 mil dry on the mean by the bucket: .* And 1 zone/,
    );
    const gauged = (zone: 'walls' | 'lower-walls'): FilmRecord[] =>
      [1, 2].map((n) => ({ of: 'wet', zone, coat: n, wettedUm: 550, nextUm: 600 }));
    const done = judge([...coats, ...gauged('walls'), ...gauged('lower-walls')]);
    expect(filmSentence(t, done, limits, 'in')).toBe('The film holds in every zone.');
    expect(zoneSentence(t, done.zones[0]!, limits, 'in')).toBe('24 mil dry on the mean; at least 22 mil is asked.');
  });
  it('tell every reason without leaving a hole in the sentence', () => {
    const records: FilmRecord[] = [
      coat('walls', 1, 9),
      coat('walls', 2, 9, '2026-03-01T09:00:00Z'),
      { of: 'wet', zone: 'walls', coat: 1, wettedUm: 450, nextUm: 550 },
      { of: 'wet', zone: 'walls', coat: 1, wettedUm: 200, nextUm: 250 },
      { of: 'wet', zone: 'walls', coat: 1, wettedUm: 1100, nextUm: 1200 },
      { of: 'dry', zone: 'walls', spotUm: [300, 300, 300], by: 'cut-sample' },
      { of: 'dry', zone: 'walls', spotUm: [2000, 2000, 2000], by: 'cut-sample' },
    ];
    const walls = judge(records).zones[0]!;
    expect(walls.reasons).toEqual(
      expect.arrayContaining(['bucket-thick', 'gauge-thin', 'gauge-thick', 'gauge-between', 'spots-thin', 'too-soon']),
    );
    for (const words of [t, es]) expect(zoneSentence(words, walls, limits, 'in')).not.toMatch(/\{\{|film\.|undefined/);
    for (const record of records) expect(filmRecordWords(t, record, 'in')).not.toMatch(/\{\{|film\.|zone\.|undefined/);
    expect(filmRecordWords(t, { ...records[0]!, waterL: 0.5 } as FilmRecord, 'in')).toContain('thinned with');
  });
  it('name the limits that are set, or that none is', () => {
    expect(filmLimitWords(t, limits, 'in')).toBe('22 mil to 44 mil dry, 20 mil to 40 mil wet a coat');
    const none = { ...limits, dryLeastUm: null, dryMostUm: null, wetLeastUm: null, wetMostUm: null };
    expect(filmLimitWords(t, none, 'in')).toBe('no limit set: enter it from the label');
    expect(filmLimitWords(t, { ...none, dryMostUm: 1000 }, 'mm')).toBe('at most 1000 µm dry');
  });
});

describe('waits in words', () => {
  it('are hours and days as people say them', () => {
    expect(hoursWords(t, 9 + 1 / 3)).toBe('9 h 20 min');
    expect(hoursWords(t, 14)).toBe('14 h');
    expect(hoursWords(t, 0.25)).toBe('15 min');
    expect(hoursWords(t, 51)).toBe('2 days 3 h');
    expect(hoursWords(t, 24)).toBe('1 day 0 h');
  });
  it('are in the person’s own degrees', () => {
    expect(temperatureWords(20, 'in')).toBe('68 °F');
    expect(temperatureWords(20.04, 'mm')).toBe('20 °C');
  });
  it('name a layer by what tells of it', () => {
    const bare = { stage: 'membrane', element: null, coat: null, laidAtMs: 0, filmRatio: 1 };
    const method = { key: 'x', label: 'X', stages: [{ key: 'membrane', label: 'Membrane' }] } as never;
    const model = { seams: [], corners: [], penetrations: [], faces: [], drain: { id: 'drain:d' } } as never;
    expect(layerName(t, model, method, { ...bare, told: 'coat', coat: { zones: ['walls'], number: 2 } })).toBe(
      'coat 2 on walls',
    );
    expect(layerName(t, model, method, { ...bare, told: 'redo', element: 'drain:d' })).toContain('Drain');
    expect(layerName(t, model, method, { ...bare, told: 'work' })).toBe('the last work of: Membrane');
  });
});
