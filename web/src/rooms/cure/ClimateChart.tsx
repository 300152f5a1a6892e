import type { ClimateLog } from '@careful-seam/core/cure/climateLog';
import type { Forecast } from '@careful-seam/core/cure/cureClock';
import type { SensorFault } from '@careful-seam/core/cure/sensorFaults';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';
import { useEchart } from '../../ui/useEchart';
import { climateOptions } from './climateOptions';

/** A log of the air, drawn from when it was laid to when it is ready. */
export interface ClimateChartProps {
  /** The air over time, °C and shares. */
  log: ClimateLog;
  /** Stretches at which the sensor can not have been right. */
  faults: readonly SensorFault[];
  /** The air as expected after the last reading. */
  expected: Forecast | null;
  /** When the slowest layer was laid and when it is ready, ms since 1970. */
  laidMs: number | null;
  /** When the slowest layer is ready, ms since 1970; null while that is not known. */
  readyMs: number | null;
  /** Time zone of the site, by its IANA name. */
  zone: string;
  /** What it shows, for whoever hears it. */
  words: string;
}

/** Temperature and humidity on site since the layer was laid, with what is wrong with the sensor. */
export function ClimateChart({ log, faults, expected, laidMs, readyMs, zone, words }: ClimateChartProps) {
  const { t } = useTranslation();
  const { unit, theme } = usePreferences();
  const box = useEchart(
    () => climateOptions({ t, log, faults, expected, laidMs, readyMs, zone, unit }),
    [t, log, faults, expected?.airC, laidMs, readyMs, zone, unit, theme],
  );
  return <div ref={box} className="h-full min-h-56 w-full" role="img" aria-label={words} data-testid="climate-chart" />;
}
