/**
 * Hours that a crew of two works on a stage of an ordinary shower, by the ids of the shipped rule book. A firm sets its own.
 * [common practice, no source]
 */
const USUAL_HOURS: Readonly<Record<string, number>> = {
  'strip-out': 8,
  framing: 6,
  subfloor: 4,
  'drain-rough-in': 3,
  base: 5,
  boards: 7,
  penetrations: 2,
  curb: 2,
  niche: 2,
  bench: 3,
  membrane: 7,
  'drain-tie-in': 2,
  cure: 0,
  'flood-test': 0,
  protection: 1,
  tile: 20,
  'hand-over': 2,
  'call-back': 1,
};
/** Hours of a stage that nobody knows: half a day [common practice, no source]. */
const OTHER_HOURS = 4;
/** Minutes that a look takes while the firm has no looks of its own [common practice, no source]. */
export const USUAL_LOOK_MINUTES = 20;
/** How many looks of the firm's own weigh as much as the usual one [own choice]. */
const USUAL_WEIGHS = 4;
/** Hours that putting one defect right takes [common practice, no source], and a day's work at most. */
const REPAIR_HOURS = 1;
const REPAIR_AT_MOST = 8;

/** Hours of crew work on a stage: the firm's own figure, else the usual one. */
export const workHoursOf = (stage: string, own: Readonly<Record<string, number>>): number =>
  Object.hasOwn(own, stage) ? own[stage]! : (USUAL_HOURS[stage] ?? OTHER_HOURS);

/** Hours that putting right takes, for so many defects. */
export const repairHours = (defects: number): number => Math.min(REPAIR_AT_MOST, defects * REPAIR_HOURS);

/** Minutes of looks at a stage, as the firm's own entries tell: how many days somebody looked at it, and how long in all. */
export interface LookedAt {
  days: number;
  minutes: number;
}

/** Minutes that a look at a stage takes: the usual ones, drawn to the firm's own the more of them there are. */
export const lookMinutesOf = (stage: string, learned: Readonly<Record<string, LookedAt>>): number => {
  const { days, minutes } = Object.hasOwn(learned, stage) ? learned[stage]! : { days: 0, minutes: 0 };
  return (USUAL_LOOK_MINUTES * USUAL_WEIGHS + minutes) / (USUAL_WEIGHS + days);
};
