import { z } from 'zod';
import { anyMm, minutesAfter } from '../units/bounded';
import { instant } from './places';

/** A logger's readings as one entry: minutes after the first of them, levels in mm above the drain rim. */
export const LevelSeries = z
  .object({
    startAt: instant,
    minutes: z.array(minutesAfter).min(1).max(25_000),
    levelMm: z.array(anyMm).min(1).max(25_000),
    file: z.string().max(200),
  })
  .refine((s) => s.minutes.length === s.levelMm.length, {
    path: ['levelMm'],
    message: 'levels-miscounted',
  });
/** A logger's temperature and humidity as one entry: minutes after the first reading, °C, shares. */
export const ClimateSeries = z
  .object({
    startAt: instant,
    minutes: z.array(minutesAfter).min(1).max(25_000),
    airC: z.array(z.number().min(-40).max(60)).min(1).max(25_000),
    relativeHumidity: z.array(z.number().min(0).max(1)).min(1).max(25_000),
    file: z.string().max(200),
  })
  .refine((s) => s.minutes.length === s.airC.length && s.minutes.length === s.relativeHumidity.length, {
    path: ['airC'],
    message: 'air-miscounted',
  });
/** What the calculation said when a test was ended, mm per day; null where it could not be told. */
export const FloodFigures = z.object({
  netLossMmPerDay: anyMm.nullable(),
  lowMmPerDay: anyMm.nullable(),
  highMmPerDay: anyMm.nullable(),
  failBoundMmPerDay: anyMm.nullable(),
  reasons: z.array(z.string().max(60)).max(40),
});
