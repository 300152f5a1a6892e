import { INSTRUMENTS } from './gauge';
import { type LoggerRate, loggerRate } from './loggerRate';
import { markRate } from './markRate';
import type { Rate } from './rate';
import type { Segment } from './series';

/** Steps this many times a logger's own scatter hide it: its readings are then intervals, as marks are. */
const COARSE = 2.5;
/** Neighbouring intervals of a logger scatter together: as if each scattered by so much more [own calibration]. */
const COARSE_SCATTER = 1.7;

/** A rate of loss, whoever read it. */
export interface LossRate {
  rate: Rate;
  /** Wider, for a claim that must not be wrong. */
  cautious: Rate;
  /** The readings did not fit their step, which was widened. */
  widened: boolean;
  logger: LoggerRate | null;
}

/** True for a logger whose step is so coarse that its readings are intervals. */
export const isCoarse = (stepMm: number): boolean => stepMm > COARSE * INSTRUMENTS.logger.scatterMm;

/** The rate at which a level falls, mm per hour, by the kind of gauge; null with too few readings. */
export function lossRate(
  method: 'marks' | 'logger',
  segments: readonly Segment[],
  stepMm: number,
  eyeMm: number,
  filledHours: number,
): LossRate | null {
  if (method === 'logger' && !isCoarse(stepMm)) {
    const logger = loggerRate(segments, stepMm, filledHours);
    return logger && { rate: logger.rate, cautious: logger.cautious, widened: false, logger };
  }
  const found = markRate(segments, stepMm, method === 'marks' ? eyeMm : COARSE_SCATTER * INSTRUMENTS.logger.scatterMm);
  return found && { rate: found.rate, cautious: found.rate, widened: found.widened, logger: null };
}
