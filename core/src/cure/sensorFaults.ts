import type { ClimateLog } from './climateLog';

/** What can be wrong with a logger: it says the same for hours, leaps, is silent, or says what can’t be. */
export const SENSOR_FAULTS = ['stuck', 'jump', 'gap', 'range'] as const;
/** One of them. */
export type SensorFaultKind = (typeof SENSOR_FAULTS)[number];

/** A stretch of a log that nobody should trust unasked. */
export interface SensorFault {
  /** What is wrong. */
  kind: SensorFaultKind;
  /** Which of the two figures it concerns. */
  channel: 'temperature' | 'humidity' | 'both';
  /** Its first moment, ms since 1970. */
  fromMs: number;
  /** Its last moment, ms since 1970. */
  toMs: number;
  /** °C or share that it jumped by, or that it stood at; hours of a gap. */
  size: number;
}

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** A gap is this many times the usual step, and half an hour at least. */
const GAP_STEPS = 4;
/** The very same figure for this long means a dead sensor, hours; still air in a house moves by a tenth of a degree sooner. */
const STUCK_HOURS = 12;
/** As many equal readings in a row are a sensor that stands still [common practice, no source]. */
const STUCK_READINGS = 24;
/** A step this many times the usual one, and over these sizes, is a jump. */
const JUMP_TIMES = 12;
/** A step larger than this from one reading to the next may be a jump: °C, share. */
const JUMP_LEAST = { temperature: 2, humidity: 0.08 } as const;
/** What a sensor in a bathroom can say: °C, share. */
const RANGE = { temperature: [-40, 60], humidity: [0, 1] } as const;

/** The middle one of some values. */
function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted.length === 0 ? 0 : sorted[sorted.length >> 1]!;
}

/** Temperature or humidity. */
type Channel = 'temperature' | 'humidity';

/** Stretches in which a value never changes. */
function stuckIn(atMs: ArrayLike<number>, values: ArrayLike<number>, channel: Channel): SensorFault[] {
  const out: SensorFault[] = [];
  let from = 0;
  for (let i = 1; i <= values.length; i += 1) {
    if (i < values.length && values[i] === values[from]) continue;
    const hours = (atMs[i - 1]! - atMs[from]!) / HOUR_MS;
    if (hours >= STUCK_HOURS && i - from >= STUCK_READINGS)
      out.push({ kind: 'stuck', channel, fromMs: atMs[from]!, toMs: atMs[i - 1]!, size: values[from]! });
    from = i;
  }
  return out;
}

/** Steps far larger than the log's usual ones: a sensor taken along, breathed on, or splashed. */
function jumpsIn(atMs: ArrayLike<number>, values: ArrayLike<number>, channel: Channel): SensorFault[] {
  const steps = Array.from({ length: Math.max(0, values.length - 1) }, (_, i) => values[i + 1]! - values[i]!);
  const moving = steps.map(Math.abs).filter((s) => s > 0);
  const limit = Math.max(JUMP_LEAST[channel], JUMP_TIMES * median(moving));
  return steps.flatMap((size, i) =>
    Math.abs(size) > limit
      ? [{ kind: 'jump' as const, channel, fromMs: atMs[i]!, toMs: atMs[i + 1]!, size: Math.abs(size) }]
      : [],
  );
}

/** Stretches with values that can not be. */
function outOfRange(atMs: ArrayLike<number>, values: ArrayLike<number>, channel: Channel): SensorFault[] {
  const [least, most] = RANGE[channel];
  return Array.from(values).flatMap((v, i) =>
    v >= least && v <= most ? [] : [{ kind: 'range' as const, channel, fromMs: atMs[i]!, toMs: atMs[i]!, size: v }],
  );
}

/** Stretches without a reading. */
function gapsIn(atMs: ArrayLike<number>): SensorFault[] {
  const steps = Array.from({ length: Math.max(0, atMs.length - 1) }, (_, i) => atMs[i + 1]! - atMs[i]!);
  const limit = Math.max(HOUR_MS / 2, GAP_STEPS * median(steps));
  return steps.flatMap((ms, i) =>
    ms > limit
      ? [{ kind: 'gap' as const, channel: 'both' as const, fromMs: atMs[i]!, toMs: atMs[i + 1]!, size: ms / HOUR_MS }]
      : [],
  );
}

/** Jumps of one channel that follow each other within this are one event, ms. */
const TOGETHER_MS = 600_000;

/** Faults of both channels at the same time, as one. */
function joined(faults: readonly SensorFault[]): SensorFault[] {
  const out: SensorFault[] = [];
  for (const f of faults) {
    const before = out.at(-1);
    if (before && before.kind === f.kind && before.channel === f.channel && f.fromMs - before.toMs <= TOGETHER_MS)
      out[out.length - 1] = { ...before, toMs: f.toMs, size: Math.max(before.size, f.size) };
    else out.push(f);
  }
  return out;
}

/**
 * What is wrong with a log of temperature and humidity: figures that can't be, a sensor that stands still for half a
 * day, steps far over the usual, times without a reading. Nothing is left out of the log: it is shown and asked. [own
 * limits, common practice, no source]
 */
export function sensorFaults(log: ClimateLog): SensorFault[] {
  const channels = [
    ['temperature', log.airC],
    ['humidity', log.relativeHumidity],
  ] as const;
  const found = channels.flatMap(([channel, values]) => [
    ...joined(outOfRange(log.atMs, values, channel)),
    ...stuckIn(log.atMs, values, channel),
    ...joined(jumpsIn(log.atMs, values, channel)),
  ]);
  return [...found, ...gapsIn(log.atMs)].sort((a, b) => a.fromMs - b.fromMs);
}
