import { numbers } from '@careful-seam/core/units/randomNumbers';

/** What can be wrong with a level logger. */
export const LEVEL_FAULTS = ['drift', 'stuck', 'noise', 'gaps', 'battery', 'wrong-clock'] as const;
/** One of them. */
export type LevelFault = (typeof LEVEL_FAULTS)[number];

/** A flooded shower with a hole at a height, and the logger that stands in it. Lengths in mm. */
export interface LevelRun {
  seed: number;
  hours: number;
  everyMinutes: number;
  startMm: number;
  /** Height of the hole over the drain's rim; null for a tight shower. */
  holeMm: number | null;
  /** mm an hour that run out under one mm of head, times its square root. */
  leaks: number;
  evaporationMmPerHour: number;
  /** Of one reading, mm, and the step that it is shown in. */
  scatterMm: number;
  resolutionMm: number;
  faults?: readonly LevelFault[];
}

/** One reading of the two channels: the floor, and the control pan. */
export interface LevelReading {
  atHours: number;
  levelMm: number;
  panMm: number;
  batteryPercent: number;
}

/** Steps of the equation in a minute. */
const STEPS = 4;
/** Which hours of a run are left out, stuck, or without power, as shares of it. */
const FROM_TO = { gaps: [0.3, 0.38], stuck: [0.5, 0.6], battery: [0.85, 1] } as const;

/** What a logger reads: dh/dt = −k·√(h − h₀) − e, by small steps, with what is wrong with it. */
export function levelReadings(run: LevelRun): LevelReading[] {
  const { normal } = numbers(run.seed);
  const has = (fault: LevelFault) => run.faults?.includes(fault) ?? false;
  const shown = (mm: number) => Math.round(mm / run.resolutionMm) * run.resolutionMm;
  const readings: LevelReading[] = [];
  let [level, pan, last] = [run.startMm, 0, 0];
  const minutes = run.hours * 60;
  for (let minute = 0; minute <= minutes; minute += 1) {
    if (minute % run.everyMinutes === 0) {
      const share = minute / minutes;
      const within = (what: keyof typeof FROM_TO) =>
        has(what) && share >= FROM_TO[what][0] && share <= FROM_TO[what][1];
      const scatter = (has('noise') ? 10 : 1) * run.scatterMm;
      const drift = has('drift') ? 0.02 * (minute / 60) : 0;
      const read = within('stuck') ? last : shown(level + drift + scatter * normal());
      last = read;
      if (!within('gaps') && !within('battery'))
        readings.push({
          atHours: minute / 60,
          levelMm: read,
          panMm: shown(pan + drift + scatter * normal()),
          batteryPercent: has('battery') ? Math.round(100 * (1 - share)) : 90,
        });
    }
    for (let step = 0; step < STEPS; step += 1) {
      const dt = 1 / 60 / STEPS;
      const head = run.holeMm === null ? 0 : Math.max(0, level - run.holeMm);
      level -= (run.leaks * Math.sqrt(head) + run.evaporationMmPerHour) * dt;
      pan -= run.evaporationMmPerHour * dt;
    }
  }
  return readings;
}

/** How far a clock that was never set is off, s: it counts from its maker's first day. */
const NEVER_SET_S = -18 * 365 * 86_400;

/** Readings as a SenML pack [RFC 8428]; the base name says that nobody should take it for a real one. */
export function levelPack(
  readings: readonly LevelReading[],
  startMs: number,
  faults: readonly LevelFault[] = [],
): string {
  const offS = faults.includes('wrong-clock') ? NEVER_SET_S : 0;
  const base = startMs / 1000 + offS;
  return JSON.stringify(
    readings.flatMap((r, k) => [
      {
        ...(k === 0 ? { bn: 'simulated:', bt: base } : {}),
        n: 'level',
        u: 'm',
        t: r.atHours * 3600,
        v: r.levelMm / 1000,
      },
      { n: 'pan', u: 'm', t: r.atHours * 3600, v: r.panMm / 1000 },
      { n: 'battery', u: '%EL', t: r.atHours * 3600, v: r.batteryPercent },
    ]),
  );
}

/** Where packs go, and how many readings each holds. */
export interface Sending {
  /** The address with the code of the instrument. */
  to: string;
  startMs: number;
  perPack: number;
  faults?: readonly LevelFault[];
  /** Waits between packs, and before a pack is sent again, ms. */
  everyMs: number;
  againMs: number;
  /** Told after each pack that was taken. */
  onSent?: (sent: number) => void;
  /** Ends it. */
  signal?: AbortSignal;
}

const wait = (ms: number) => new Promise<void>((done) => setTimeout(done, ms));

/**
 * Sends readings pack by pack. What was not taken stays in the buffer and is sent again, the pack before it too: a break on either side
 * loses nothing, and what comes twice is known. Gives how many readings were taken, by the server's own count.
 */
export async function sendReadings(readings: readonly LevelReading[], sending: Sending): Promise<number> {
  const { to, startMs, perPack, faults, everyMs, againMs, onSent, signal } = sending;
  let [stored, at, again] = [0, 0, 0];
  while (at < readings.length && !signal?.aborted) {
    const from = Math.max(0, at - again);
    const some = readings.slice(from, at + perPack);
    try {
      const answer = await fetch(to, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'x-careful-seam': '1' },
        body: levelPack(some, startMs, faults ?? []),
      });
      if (!answer.ok) throw new Error(`${answer.status}`);
      stored += ((await answer.json()) as { stored: number }).stored;
      at = Math.min(readings.length, at + perPack);
      again = 0;
      onSent?.(at);
      await wait(everyMs);
    } catch {
      // Nobody knows whether the last pack arrived: it goes again, with the one before.
      again = perPack;
      await wait(againMs);
    }
  }
  return stored;
}
