import type { FloodVerdictInput } from './floodVerdictInput';

interface Now {
  net: number;
  low: number;
  high: number;
  /** The bound for a fail, also where it lies below zero: from there it has to come up. */
  fail: number;
  hoursRun: number;
  /** Half-width that time does not shrink, mm per day. */
  systematic: number;
  evaporationKnown: boolean;
  input: FloodVerdictInput;
}

/** Longer than this nobody leaves water standing: a decision beyond it counts as none. */
const LONGEST_HOURS = 14 * 24;

/** How fast the uncertainty of the slope shrinks with time: rounded marks as 1/T, a logger's scatter as 1/T to the power 3/2. */
const powerOf = (method: FloodVerdictInput['method']): number => (method === 'marks' ? 1 : 1.5);

/** Hours after which a half-width that shrinks from `half` leaves no more than `room`, beside one that stays. */
function hoursUntil(room: number, half: number, stays: number, hoursRun: number, power: number): number | null {
  if (room <= stays) return null;
  if (half <= 0) return hoursRun;
  const share = Math.sqrt(room ** 2 - stays ** 2) / half;
  return share >= 1 ? hoursRun : hoursRun / share ** (1 / power);
}

/**
 * Hours more until a decision may be expected if the loss goes on as it is: the sooner of a pass (the interval shrinks
 * below the smallest leak, and the planned time is run) and a fail (its lower bound rises above zero). Null when time
 * alone brings neither.
 */
export function hoursStillNeeded({
  net,
  high,
  fail,
  hoursRun,
  systematic,
  evaporationKnown,
  input,
}: Now): number | null {
  const power = powerOf(input.method);
  const smallest = input.smallestLeakMmPerDay;
  const moving = (half: number, stays: number) => Math.sqrt(Math.max(0, half ** 2 - stays ** 2));
  const toPass =
    smallest === null ? null : hoursUntil(smallest - net, moving(high - net, systematic), systematic, hoursRun, power);
  const failStays = systematic * (2.576 / 1.96);
  const toFail = evaporationKnown ? hoursUntil(net, moving(net - fail, failStays), failStays, hoursRun, power) : null;
  const passAt = toPass === null ? null : Math.max(toPass, input.plannedHours);
  const soonest = Math.min(passAt ?? Infinity, toFail ?? Infinity);
  return soonest <= LONGEST_HOURS ? Math.max(0, soonest - hoursRun) : null;
}
