import { numbers } from '@careful-seam/core/units/randomNumbers';

export interface AirRow {
  minutes: number;
  airC: number;
  relativeHumidity: number;
}

export interface SimulatedAir {
  hours: number;
  everyMinutes: number;
  /** Hour of the day at which it begins. */
  startHour: number;
  dayC: number;
  nightC: number;
  relativeHumidity: number;
  seed: number;
}

/** Air of a house whose heating is off at night: warmest at three in the afternoon, coldest at three in the morning, with a sensor's scatter. */
export function simulatedAir({
  hours,
  everyMinutes,
  startHour,
  dayC,
  nightC,
  relativeHumidity,
  seed,
}: SimulatedAir): AirRow[] {
  const { normal } = numbers(seed);
  const steps = Math.floor((hours * 60) / everyMinutes);
  return Array.from({ length: steps + 1 }, (_, k) => {
    const minutes = k * everyMinutes;
    const hour = startHour + minutes / 60;
    const swing = Math.cos(((hour - 15) / 12) * Math.PI);
    const airC = (dayC + nightC) / 2 + (swing * (dayC - nightC)) / 2 + 0.08 * normal();
    const humidity = relativeHumidity - 0.06 * swing + 0.004 * normal();
    return {
      minutes,
      airC: Math.round(airC * 10) / 10,
      relativeHumidity: Math.round(Math.min(0.99, Math.max(0.05, humidity)) * 1000) / 1000,
    };
  });
}

/** The rows as a thermo-hygrometer writes its file: a column of clock times in the site's own time, degrees and percent. */
export function airFile(
  rows: readonly AirRow[],
  clockAt: (minutes: number) => string,
  degrees: 'C' | 'F' = 'C',
): string {
  const lines = rows.map((r) => {
    const warm = degrees === 'F' ? r.airC * 1.8 + 32 : r.airC;
    return `${clockAt(r.minutes)},${warm.toFixed(1)},${(r.relativeHumidity * 100).toFixed(1)}`;
  });
  return `${[`Date time,Temperature (${degrees}),Humidity (%RH)`, ...lines].join('\n')}\n`;
}

/** A reading as a SenML pack [RFC 8428]; the base name says that nobody should take it for a real one. */
export function airPack({ airC, relativeHumidity }: Pick<AirRow, 'airC' | 'relativeHumidity'>, atMs: number): string {
  return JSON.stringify([
    { bn: 'urn:dev:simulated:thermo-hygrometer:', bt: Math.round(atMs / 1000), n: 'simulated', vb: true },
    { n: 'temperature', u: 'Cel', v: airC },
    { n: 'humidity', u: '%RH', v: Math.round(relativeHumidity * 1000) / 10 },
  ]);
}
