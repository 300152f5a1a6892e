import { MM_PER_INCH } from './length';

/** The least and the most that a value may be, in its own unit. */
export interface LimitOfKeys {
  /** The least, where there is one. */
  atLeast?: number | undefined;
  /** The most, where there is one. */
  atMost?: number | undefined;
}

/** So many values stand on one row of keys. */
const KEYS = 6;

/** How finely a gauge for values about this limit is read, mm [common practice, no source]: a feeler by 1/64 or 1/32 in, a rule by 1/16, a tape by 1/8, a height by 1/2. */
const IN_STEPS: readonly { upTo: number; step: number }[] = [
  { upTo: 1 / 32, step: 1 / 64 },
  { upTo: 1 / 4, step: 1 / 32 },
  { upTo: 1, step: 1 / 16 },
  { upTo: 12, step: 1 / 8 },
  { upTo: Infinity, step: 1 / 2 },
];
/** The same of metric gauges, mm [common practice, no source]. */
const MM_STEPS: readonly { upTo: number; step: number }[] = [
  { upTo: 25, step: 1 },
  { upTo: 300, step: 5 },
  { upTo: Infinity, step: 10 },
];

/** The limit that a value is first measured against, in its unit; 0 where there is none. */
const sizeOf = ({ atLeast, atMost }: LimitOfKeys): number => Math.max(Math.abs(atLeast ?? 0), Math.abs(atMost ?? 0));

/** How finely values about a limit are read, mm: the step of the gauge that measures such lengths. */
export function gaugeStepMm(limitMm: LimitOfKeys, unit: 'in' | 'mm'): number {
  const stepAt = (steps: typeof IN_STEPS, size: number) => steps.find((s) => size <= s.upTo + 1e-9)!.step;
  return unit === 'in'
    ? stepAt(IN_STEPS, sizeOf(limitMm) / MM_PER_INCH) * MM_PER_INCH
    : stepAt(MM_STEPS, sizeOf(limitMm));
}

/** So coarsely plain figures are told, by how large their limit is [common practice, no source]; pieces are counted whole. */
const PLAIN_STEPS: readonly { upTo: number; step: number }[] = [
  { upTo: 1, step: 0.1 },
  { upTo: 10, step: 0.5 },
  { upTo: Infinity, step: 1 },
];

/** How finely a figure about this limit is told, in its own unit `of`: lengths, `mm`, as their gauge is read, a `count` in pieces. */
export function figureStep(limit: LimitOfKeys, of: string, unit: 'in' | 'mm'): number {
  if (of === 'mm') return gaugeStepMm(limit, unit);
  return of === 'count' ? 1 : PLAIN_STEPS.find((s) => sizeOf(limit) <= s.upTo)!.step;
}

/**
 * The values that lie around a limit, lowest first: one that fails, the limit itself, and marks of the gauge that keep it, a step
 * apart. They stand for keys and never change while the limit does not. None is below zero unless the limit is. Empty without a
 * limit. [own arithmetic]
 */
export function keysAround({ atLeast, atMost }: LimitOfKeys, step: number): number[] {
  const floor = (atLeast ?? 0) < 0 || (atMost ?? 0) < 0 ? -Infinity : 0;
  const tidy = (values: number[]) =>
    [...new Set(values.map((v) => Math.round(v * 1e9) / 1e9))].filter((v) => v >= floor - 1e-9);
  /** Marks next above a value, lowest first, and next below it, highest first. */
  const above = (value: number, count: number) =>
    Array.from({ length: count }, (_, k) => (Math.floor(value / step + 1e-9) + 1 + k) * step);
  const below = (value: number, count: number) =>
    Array.from({ length: count }, (_, k) => (Math.ceil(value / step - 1e-9) - 1 - k) * step);
  if (atLeast !== undefined && atMost !== undefined) {
    const inside = above(atLeast, KEYS).filter((v) => v < atMost - 1e-9);
    const thirds = [1, 2].map((k) => Math.round((atLeast + ((atMost - atLeast) * k) / 3) / step) * step);
    const between = inside.length <= KEYS - 3 ? inside : thirds;
    return tidy([...below(atLeast, 1), atLeast, ...between, atMost, ...above(atMost, 1)]);
  }
  if (atLeast !== undefined) return tidy([...below(atLeast, 1), atLeast, ...above(atLeast, KEYS - 2)]);
  if (atMost !== undefined) return tidy([...below(atMost, KEYS - 2).reverse(), atMost, ...above(atMost, 1)]);
  return [];
}
