import { WHOLE_SHOWER } from '@careful-seam/core/checks/requirements';
import type { FilmRecord } from '@careful-seam/core/membrane/film/filmRecords';
import { simulatedAir } from '@careful-seam/instruments/thermoHygrometer';
import { type DemoWriter, passStage, placeOf, release, workDone } from './writer';

/** A thousandth of an inch, µm. */
const MIL_UM = 25.4;
/** An hour, ms. */
const HOUR_MS = 3_600_000;

/** A film record as the inspector writes it down. */
function film(w: DemoWriter, record: FilmRecord, valueMm: number, typed: string): void {
  w.write('inspector', 'reading', {
    stage: 'membrane',
    check: 'film',
    place: placeOf(w.state(), WHOLE_SHOWER),
    atMm: 0,
    valueMm,
    typed,
    instrument: record.of === 'coat' ? 'bucket' : 'notch gauge',
    film: record,
  });
}

/**
 * A liquid shower that looks coated all over: two full coats on walls, floor, curb and niche, one thin one on the lower
 * walls. Its air was logged through a cold night. All figures are invented.
 */
export function coatThinly(w: DemoWriter, crew: 'heron' | 'otter' | 'wren', day: string, nowMs: () => number): void {
  for (const stage of ['boards', 'penetrations', 'curb', 'niche']) {
    passStage(w, 'inspector', stage);
    release(w, 'inspector', stage);
    w.wait(4);
  }
  workDone(w, crew, 'membrane', day);
  passStage(w, 'inspector', 'membrane', { skip: (r) => r.check.id === 'materials-used' });
  const laidMs = nowMs();
  const coat = (zones: Extract<FilmRecord, { of: 'coat' }>['zones'], number: number, volumeL: number, hours: number) =>
    film(
      w,
      {
        of: 'coat',
        zones,
        coat: number,
        volumeL,
        waterL: 0,
        doneAt: new Date(laidMs + hours * HOUR_MS - 5 * HOUR_MS).toISOString(),
      },
      0.5,
      `${volumeL} L`,
    );
  coat(['walls', 'niche'], 1, 3.8, 0);
  coat(['floor', 'curb'], 1, 1, 0.2);
  coat(['lower-walls'], 1, 0.8, 0.3);
  coat(['walls', 'niche'], 2, 3.8, 4);
  coat(['floor', 'curb'], 2, 1, 4.3);
  for (const [zone, coatNumber, mil] of [
    ['walls', 1, 22],
    ['walls', 2, 24],
    ['floor', 1, 24],
    ['floor', 2, 24],
    ['lower-walls', 1, 20],
  ] as const)
    film(
      w,
      { of: 'wet', zone, coat: coatNumber, wettedUm: mil * MIL_UM, nextUm: (mil + 2) * MIL_UM },
      (mil * MIL_UM) / 1000,
      `${mil} mil`,
    );
  const rows = simulatedAir({
    hours: 10,
    everyMinutes: 10,
    startHour: 17,
    dayC: 18,
    nightC: 9,
    relativeHumidity: 0.62,
    seed: 5,
  });
  const last = rows.at(-1)!;
  w.write('inspector', 'climate-reading', {
    airC: last.airC,
    relativeHumidity: last.relativeHumidity,
    readAt: new Date(laidMs - 5 * HOUR_MS + last.minutes * 60_000).toISOString(),
    instrument: 'logger',
    series: {
      startAt: new Date(laidMs - 5 * HOUR_MS).toISOString(),
      minutes: rows.map((r) => r.minutes),
      airC: rows.map((r) => r.airC),
      relativeHumidity: rows.map((r) => r.relativeHumidity),
      file: 'loft-east-air.csv',
    },
  });
}
