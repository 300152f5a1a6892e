import type { FloodTest } from '@careful-seam/core/log/floodTest';
import type { LoggerSeries } from '@careful-seam/files/loggerCsv';
import { round, thinned } from '../../ui/thinned';

/** A level with its hour. */
type LevelAt = LoggerSeries['water'][number];

/** The series as an entry's body: levels shifted so that the first reading after the start stands at the water line. */
export function seriesBody(
  test: FloodTest,
  of: 'water' | 'pan',
  readings: readonly LevelAt[],
  file: string,
  resolutionMm: number,
) {
  const kept = thinned(readings);
  const first = kept.find((r) => r.atMs >= test.startMs) ?? kept[0]!;
  const shift = (of === 'water' ? test.filledToMm : 0) - first.levelMm;
  const levels = kept.map((r) => round(r.levelMm + shift, 3));
  return {
    levelMm: levels.reduce((low, l) => Math.min(low, l), levels[0]!),
    instrument: 'logger',
    of,
    resolutionMm,
    series: {
      startAt: new Date(kept[0]!.atMs).toISOString(),
      minutes: kept.map((r) => round((r.atMs - kept[0]!.atMs) / 60_000, 4)),
      levelMm: levels,
      file: file.slice(0, 200),
    },
  };
}
