import { describe } from 'vitest';
import { type Bounds, holdBounds } from '../../tests/bounds';
import { FilmFromVolumeInput, FilmNeededInput, PrimerMixInput } from './filmArithmetic';
import { FilmRecord } from './filmRecords';
import { FilmSpotsInput } from './filmSpots';

const AT = '2026-03-02T08:00:00Z';
const fromVolume = { areaM2: 6, volumeL: 3, solids: 0.55, thinning: 0.1, lossShare: 0.1 };
const needed = { areaM2: 6, dryUm: 560, solids: 0.55, thinning: 0.1, lossShare: 0.1, coats: 2 };
const primer = { areaM2: 10, coverageM2PerL: 5, waterParts: 4 };
const spots = { spots: [[500, 510, 520]], minUm: 500, maxUm: 1000 };
const coat = { of: 'coat', zones: ['walls'], coat: 1, volumeL: 3, waterL: 0, doneAt: AT };
const wet = { of: 'wet', zone: 'walls', coat: 1, wettedUm: 500, nextUm: 600 };
const dry = { of: 'dry', zone: 'walls', spotUm: [500, 510, 520], by: 'cut-sample' };

const BOUNDS: Bounds[] = [
  ['film from a volume', FilmFromVolumeInput, fromVolume, 'solids', [0.01, 1], [0, -0.1, 1.01, 55, Number.NaN]],
  ['film from a volume', FilmFromVolumeInput, fromVolume, 'lossShare', [0, 0.9, undefined], [-0.01, 0.91]],
  ['film from a volume', FilmFromVolumeInput, fromVolume, 'thinning', [0, 10, undefined], [-0.01, 10.1]],
  ['film from a volume', FilmFromVolumeInput, fromVolume, 'areaM2', [0.1], [0, -1, '6']],
  ['film from a volume', FilmFromVolumeInput, fromVolume, 'volumeL', [0.1], [0, -1, null]],
  ['film needed', FilmNeededInput, needed, 'coats', [1, 2, 20], [0, 21, 1.5]],
  ['film needed', FilmNeededInput, needed, 'dryUm', [1], [0, -1, undefined]],
  ['film needed', FilmNeededInput, needed, 'areaM2', [1], [0, undefined]],
  ['primer', PrimerMixInput, primer, 'waterParts', [0, 4, 20], [-1, 20.1]],
  ['primer', PrimerMixInput, primer, 'areaM2', [1], [0, undefined]],
  ['primer', PrimerMixInput, primer, 'coverageM2PerL', [1], [0, undefined]],
  ['dry spots', FilmSpotsInput, spots, 'minUm', [0, 500], [-1, undefined]],
  ['dry spots', FilmSpotsInput, spots, 'maxUm', [0, 1000], [-1, undefined]],
  [
    'dry spots',
    FilmSpotsInput,
    spots,
    'spots',
    [[[0, 0, 0]], [[1, 2, 3]], Array.from({ length: 2000 }, () => [1, 2, 3])],
    [[], [[1, 2]], [[]], [[-1, 2, 3]], [[1, -2, 3]], [[1, 2, -3]], Array.from({ length: 2001 }, () => [1, 2, 3])],
  ],
  ['a coat', FilmRecord, coat, 'coat', [1, 20], [0, 21, 1.5]],
  ['a coat', FilmRecord, coat, 'volumeL', [0.01, 500], [0, 501, -1]],
  ['a coat', FilmRecord, coat, 'waterL', [0, 500], [-0.1, 501]],
  ['a coat', FilmRecord, coat, 'zones', [['floor'], ['floor', 'walls']], [[], ['roof'], Array(10).fill('floor')]],
  ['a coat', FilmRecord, coat, 'doneAt', [AT], ['yesterday', undefined]],
  ['a wet reading', FilmRecord, wet, 'wettedUm', [0, 20_000], [-1, 20_001]],
  ['a wet reading', FilmRecord, wet, 'nextUm', [0, 20_000], [-1, 20_001]],
  ['a wet reading', FilmRecord, wet, 'coat', [1, 20], [0, 21]],
  ['a wet reading', FilmRecord, wet, 'zone', ['corners'], ['roof', undefined]],
  [
    'a dry spot',
    FilmRecord,
    dry,
    'spotUm',
    [
      [0, 0, 0],
      [20_000, 1, 1],
    ],
    [[], [1, 2], [1, 2, -3], [20_001, 1, 1]],
  ],
  ['a dry spot', FilmRecord, dry, 'by', ['ultrasonic'], ['magnet', undefined]],
  ['a record', FilmRecord, dry, 'of', ['dry'], ['paint', undefined]],
];

describe('what is told of a film is a figure that can be', () => {
  holdBounds(BOUNDS);
});
