import { type SimulatedFlood, simulateFlood } from '@careful-seam/core/water/simulateFlood';

export interface LoggerRun {
  flood: SimulatedFlood;
  /** Water added on the way: at which hour, by how many mm. */
  refills?: { atHours: number; byMm: number }[];
}

export interface LoggerRow {
  hours: number;
  waterMm: number;
  panMm: number;
}

/** Readings of a simulated two-channel level logger: the flooded floor and the control pan in it, from a seed. */
export function simulatedLogger({ flood, refills = [] }: LoggerRun): LoggerRow[] {
  const { readings, pan } = simulateFlood(flood);
  const rounded = (mm: number) => Math.round(mm / flood.resolutionMm) * flood.resolutionMm;
  return readings.map((r, i) => {
    const added = refills.filter((f) => r.atHours >= f.atHours).reduce((sum, f) => sum + f.byMm, 0);
    return { hours: r.atHours, waterMm: rounded(r.levelMm + added), panMm: rounded(pan!.readings[i]!.levelMm) };
  });
}

/** How a logger writes its file: loggers differ, and so do the countries they are set up for. */
export interface LoggerFile {
  separator: ',' | ';' | '\t';
  decimalComma: boolean;
  byteOrderMark: boolean;
  unit: 'mm' | 'cm' | 'in';
  /** Lines above the column names. */
  preamble: string[];
  elapsed: 'min' | 'h';
}

const MM = { mm: 1, cm: 10, in: 25.4 };
const PLACES = { mm: 1, cm: 2, in: 3 };

/** The readings as a logger's CSV file with elapsed time. */
export function loggerFile(rows: readonly LoggerRow[], file: LoggerFile): string {
  const { separator, decimalComma, byteOrderMark, unit, preamble, elapsed } = file;
  const number = (value: number, places: number) => {
    const text = value.toFixed(places);
    return decimalComma ? text.replace('.', ',') : text;
  };
  const time = (hours: number) => (elapsed === 'min' ? number(hours * 60, 0) : number(hours, 3));
  const lines = rows.map((r) =>
    [time(r.hours), number(r.waterMm / MM[unit], PLACES[unit]), number(r.panMm / MM[unit], PLACES[unit])].join(
      separator,
    ),
  );
  const head = [`Elapsed (${elapsed})`, `Water level (${unit})`, `Control pan (${unit})`].join(separator);
  return `${byteOrderMark ? '\uFEFF' : ''}${[...preamble, head, ...lines].join('\n')}\n`;
}
