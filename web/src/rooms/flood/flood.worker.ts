import { floodPlan } from '@careful-seam/core/water/floodPlan';
import { floodVerdict } from '@careful-seam/core/water/floodVerdict';
import { leakHeight } from '@careful-seam/core/water/leakHeight';
import { readLevels, readLoggerTable } from '@careful-seam/files/loggerCsv';
import { expose } from 'comlink';

/** Long arithmetic off the interface's thread: files, verdicts, plans. */
const work = { readLoggerTable, readLevels, floodVerdict, floodPlan, leakHeight };
/** What this worker can be asked. */
export type FloodWork = typeof work;

expose(work);
