import type { StageAhead } from './ahead';
import type { PlannedShower } from './planOf';
import type { RouteStop } from './routeCost';
import type { Shift, WorkTime } from './workCalendar';

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** Looks of the two days that a way is planned for. */
const DAYS = 2;

/** Why somebody goes there. */
export const STOP_REASONS = ['read-flood', 'asked', 'ready', 'waited', 'planned'] as const;
/** A flood to read, a look that a crew asked for, work that is done, a wait that is over, a day that the office set. */
export type StopReason = (typeof STOP_REASONS)[number];

/** What is lost if nobody comes in time. */
export const STOP_LOSSES = ['flood', 'covered', 'idle'] as const;
/** The test, what the next layer hides, crew hours; null: nothing. */
export type StopLoss = (typeof STOP_LOSSES)[number];

/** A place that an inspector can go to. */
export interface DayStop extends RouteStop {
  /** The shower; a stop has its id. */
  shower: string;
  name: string;
  job: string;
  stage: string;
  label: string;
  crewId: string;
  reason: StopReason;
  loss: StopLoss | null;
  /** When it opens first, ms since 1970, and when it must be done; null where nothing closes it. */
  opensMs: number;
  closesMs: number | null;
  /** It was released, and something speaks against that since. */
  contested: boolean;
  /** Places and questions that are open there. */
  open: number;
}

/** What can't be looked at on these days, and from when on it can. */
export interface NotToday {
  shower: string;
  name: string;
  job: string;
  stage: string;
  label: string;
  /** What it waits for. */
  waits: 'crew' | 'cure' | 'water' | 'put-right' | 'goods';
  /** When it likely can be looked at, ms since 1970. */
  fromMs: number;
  /** The shower with its plan, for what is told of it. */
  planned: PlannedShower;
}

/** An hour of a crew that has other work meanwhile counts so much of one that stands [own choice]. */
const BUSY_SHARE = 0.25;

/** Crews that have something to build or to put right, by how many of their showers. */
function workOf(showers: readonly PlannedShower[]): Map<string, number> {
  const work = new Map<string, number>();
  for (const planned of showers) {
    const { step, crewId } = firstOf(planned);
    if (planned.ahead.flood === null && step !== 'built') work.set(crewId, (work.get(crewId) ?? 0) + 1);
  }
  return work;
}

/** Shifts of the inspector: the one that now lies in or the next, and those after it. */
function shiftsFrom(work: WorkTime, nowMs: number): Shift[] {
  const shifts: Shift[] = [];
  for (let at = nowMs; shifts.length < DAYS; ) {
    const shift = work.shiftAt(at);
    if (!shift) break;
    shifts.push(shift);
    at = shift.toMs + 1;
  }
  return shifts;
}

/** A span of time cut to some shifts. */
const within = (shifts: readonly Shift[], fromMs: number, toMs: number): [number, number][] =>
  shifts.flatMap((s): [number, number][] => {
    const span: [number, number] = [Math.max(s.fromMs, fromMs), Math.min(s.toMs, toMs)];
    return span[1] > span[0] ? [span] : [];
  });

/** The stage that an inspector can look at first: the lowest, which is the one that everything waits for. */
const firstOf = (planned: PlannedShower): StageAhead => planned.ahead.stages[0]!;

/** What a stage ahead still waits for before anybody can look at it; null where it can be looked at. */
function waitsFor(planned: PlannedShower, nowMs: number): NotToday['waits'] | null {
  const { ahead, goods } = planned;
  const stage = firstOf(planned);
  if (ahead.flood) return ahead.flood.endMs > nowMs ? 'water' : null;
  if (stage.askedMs !== null) return (stage.wantedMs ?? 0) > nowMs ? 'crew' : null;
  if (stage.step === 'put-right') return 'put-right';
  if (stage.step === 'to-build') return goods[stage.key] ? 'goods' : 'crew';
  return stage.wait && stage.wait.likelyMs > nowMs ? 'cure' : null;
}

/** What an inspector is told that a shower asks on these days. */
interface Asked {
  reason: StopReason;
  loss: StopLoss | null;
  fromMs: number;
  closesMs: number | null;
  idlePerHour: number;
}

/** When and why a shower is to be looked at; the first of the reasons that holds. */
function askedOf(planned: PlannedShower, work: WorkTime, visitOn: boolean, busy: boolean): Asked | null {
  const { ahead, plan } = planned;
  const [stage, first] = [firstOf(planned), plan.stages[0]!];
  if (ahead.flood)
    return {
      reason: 'read-flood',
      loss: 'flood',
      fromMs: ahead.flood.endMs,
      closesMs: ahead.flood.readByMs,
      idlePerHour: 0,
    };
  const fromMs = Math.max(stage.sinceMs, stage.wantedMs ?? 0, stage.wait?.likelyMs ?? 0);
  // The crew stands where the next layer must not come before the look; elsewhere it goes on the next morning and hides what was not seen.
  const standing = busy ? BUSY_SHARE : 1;
  const idlePerHour = stage.holdPoint ? standing : 0;
  const nextShift = work.shiftAt((work.shiftAt(fromMs)?.toMs ?? fromMs) + 1);
  const coveredMs = stage.holdPoint || !nextShift ? null : nextShift.fromMs + HOUR_MS;
  const common = {
    fromMs,
    closesMs: coveredMs,
    idlePerHour,
    loss: coveredMs === null ? (busy ? null : ('idle' as const)) : ('covered' as const),
  };
  if (stage.askedMs !== null) return { ...common, reason: 'asked', idlePerHour: standing };
  if (stage.wait) return { ...common, reason: 'waited' };
  if (stage.step === 'built')
    return { ...common, reason: 'ready', loss: idlePerHour > 0 || coveredMs !== null ? common.loss : null };
  if (visitOn)
    return { ...common, reason: 'planned', fromMs: first.lookMs, closesMs: null, idlePerHour: 0, loss: null };
  return null;
}

/** When somebody can go there: water is read at any hour, all else within the hours of the inspector. */
function windowsOf({ reason, fromMs, closesMs }: Asked, shifts: readonly Shift[], nowMs: number): [number, number][] {
  if (reason !== 'read-flood' || closesMs === null || closesMs <= nowMs) return within(shifts, fromMs, Infinity);
  return [[fromMs, closesMs], ...within(shifts, closesMs, Infinity)];
}

/** What a day holds for an inspector: where one can go, and what can't be done. */
export interface DayStops {
  stops: DayStop[];
  notToday: NotToday[];
  /** The inspector's hours on the two days. */
  shifts: Shift[];
}

/**
 * Where an inspector can go from now to the end of the next day of work, and what can't be looked at by then. `visits` are showers that the
 * office set on one of these days. Moments in ms since 1970.
 */
export function dayStops(
  showers: readonly PlannedShower[],
  work: WorkTime,
  nowMs: number,
  visits: ReadonlySet<string>,
): DayStops {
  const shifts = shiftsFrom(work, nowMs);
  const untilMs = shifts.at(-1)?.toMs ?? nowMs;
  const stops: DayStop[] = [];
  const notToday: NotToday[] = [];
  const crews = workOf(showers);
  for (const planned of showers) {
    const { ahead, plan } = planned;
    const [stage, first] = [firstOf(planned), plan.stages[0]!];
    const about = { shower: ahead.id, name: ahead.name, job: ahead.job, stage: stage.key, label: stage.label };
    const asked = askedOf(planned, work, visits.has(ahead.id), (crews.get(stage.crewId) ?? 0) > 0);
    // What closed already is still gone to; a crew that stands, or a layer that may be open yet, makes it sooner.
    const windows = asked ? windowsOf(asked, shifts, nowMs) : [];
    if (!asked || windows.length === 0 || asked.fromMs > untilMs) {
      notToday.push({
        ...about,
        waits: waitsFor(planned, nowMs) ?? 'crew',
        fromMs: Math.max(first.lookMs, asked?.fromMs ?? 0),
        planned,
      });
      continue;
    }
    stops.push({
      ...about,
      id: ahead.id,
      crewId: stage.crewId,
      minutes: Math.round((first.endMs - first.lookMs) / 60_000) || 1,
      windows,
      ...(asked.closesMs === null ? {} : { readByMs: asked.closesMs }),
      idlePerHour: asked.idlePerHour,
      reason: asked.reason,
      loss: asked.loss,
      opensMs: asked.fromMs,
      closesMs: asked.closesMs,
      contested: stage.contested,
      open: stage.open,
    });
  }
  return { stops, notToday: notToday.sort((a, b) => a.fromMs - b.fromMs), shifts };
}
