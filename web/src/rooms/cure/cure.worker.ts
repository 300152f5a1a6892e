import { climateLog } from '@careful-seam/core/cure/climateLog';
import { type SensorFault, sensorFaults } from '@careful-seam/core/cure/sensorFaults';
import type { Outcome } from '@careful-seam/core/outcome/outcome';
import { type ClimateMapping, type ClimateSeries, readClimate } from '@careful-seam/files/climateCsv';
import { type LoggerTable, readLoggerTable } from '@careful-seam/files/loggerCsv';
import { expose } from 'comlink';

/** A file of the air read as its columns are meant, with what is wrong with its sensor. */
export interface ReadAir extends ClimateSeries {
  /** Stretches at which the sensor can not have been right. */
  faults: SensorFault[];
}

/** A logger file as a log of the air, with what is odd about it. */
function readAir(table: LoggerTable, mapping: ClimateMapping): Outcome<ReadAir> {
  const read = readClimate(table, mapping);
  if (!read.ok) return read;
  return { ok: true, value: { ...read.value, faults: sensorFaults(climateLog(read.value.readings)) } };
}

/** A year of minutes is read off the interface's thread. */
const work = { readLoggerTable, readAir };
/** What this worker can be asked. */
export type CureWork = typeof work;

expose(work);
