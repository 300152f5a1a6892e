import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';

/** A minute, ms. */
const MINUTE_MS = 60_000;
/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** Stops that a day can have; more than anybody reaches. */
export const STOPS_AT_MOST = 80;

/** A moment, ms since 1970. */
const momentMs = z
  .number()
  .min(0)
  .max(Date.UTC(2200, 0, 1));
/** What one thing costs against the others. */
const weight = z.number().min(0).max(1_000_000);

/** A place to go to. */
export const RouteStop = z.object({
  id: z.string().min(1).max(120),
  /** How long one stays. */
  minutes: z.number().min(0).max(1440),
  /** When it can be looked at, ms since 1970: from, to; both belong to it. */
  windows: z
    .array(z.tuple([momentMs, momentMs]))
    .min(1)
    .max(40),
  /** Begun after this it is late, ms since 1970. */
  readByMs: momentMs.optional(),
  /** Crew hours that stand idle for each hour from the first window’s opening on; 1 without it. */
  idlePerHour: z.number().min(0).max(1000).optional(),
  /** Its place in the order, the first being 0; `true`: the place at which it stands in the list. */
  pinned: z.union([z.boolean(), z.number().int().min(0).max(STOPS_AT_MOST)]).optional(),
});
/** A place to go to. */
export type RouteStop = z.infer<typeof RouteStop>;

/** What a way through a day is worked out from. */
export const DayRouteInput = z.object({
  stops: z.array(RouteStop).max(STOPS_AT_MOST),
  /** Minutes from one to the other: row and column 0 where the day begins, then the stops in their order. */
  travelMinutes: z.array(z.array(z.number().min(0).max(10_000)).max(STOPS_AT_MOST + 1)).max(STOPS_AT_MOST + 1),
  startMs: momentMs,
  weights: z.object({ latePerStop: weight, idlePerHour: weight, drivePerMinute: weight }),
});
/** What a way through a day is worked out from. */
export type DayRouteInput = z.infer<typeof DayRouteInput>;

/** What an order comes to. */
export interface RouteCost {
  /** Ids in the order in which one goes. */
  order: string[];
  /** When one arrives and when the look begins, ms since 1970, in that order. */
  arrivals: number[];
  begins: number[];
  /** Those that are begun too late. */
  late: string[];
  /** Crew hours that stand idle. */
  idleHours: number;
  /** Minutes on the road. */
  driveMinutes: number;
  /** All of it by the weights. */
  cost: number;
}

/** Stops as the search uses them: windows in their order, pins as places. */
export interface Round {
  stops: readonly RouteStop[];
  /** Windows of each stop, by their begin. */
  windows: readonly (readonly (readonly [number, number])[])[];
  /** Which stop must stand at each place, −1 for whichever; and whether a stop is pinned. */
  pinnedAt: readonly number[];
  isPinned: readonly boolean[];
  travelMs: readonly (readonly number[])[];
  startMs: number;
  weights: DayRouteInput['weights'];
}

/** Reads a day: each stop once, travel between all, one pin a place. Refuses with the field that is wrong. */
export function readRound({ stops, travelMinutes, startMs, weights }: DayRouteInput): Outcome<Round> {
  const n = stops.length;
  const seen = new Map<string, number>();
  const pinnedAt = new Array<number>(n).fill(-1);
  for (const [k, { id, windows, pinned }] of stops.entries()) {
    if (seen.has(id)) return refuse('route-stop-twice', `stops.${k}.id`, { stop: id });
    seen.set(id, k);
    const wrong = windows.findIndex(([from, to]) => to < from);
    if (wrong >= 0) return refuse('route-window-reversed', `stops.${k}.windows.${wrong}`, { stop: id });
    if (pinned === undefined || pinned === false) continue;
    const place = pinned === true ? k : pinned;
    if (place >= n) return refuse('route-pin-outside', `stops.${k}.pinned`, { stop: id, stops: n });
    if (pinnedAt[place] !== -1)
      return refuse('route-pin-twice', `stops.${k}.pinned`, { stop: id, other: stops[pinnedAt[place]!]!.id });
    pinnedAt[place] = k;
  }
  if (travelMinutes.length !== n + 1) return refuse('route-travel-rows', 'travelMinutes', { rows: n + 1 });
  const short = travelMinutes.findIndex((row) => row.length !== n + 1);
  if (short >= 0) return refuse('route-travel-rows', `travelMinutes.${short}`, { rows: n + 1 });
  return done({
    stops,
    windows: stops.map((s) => [...s.windows].sort((a, b) => a[0] - b[0])),
    pinnedAt,
    isPinned: stops.map((_, k) => pinnedAt.includes(k)),
    travelMs: travelMinutes.map((row) => row.map((minutes) => minutes * MINUTE_MS)),
    startMs,
    weights,
  });
}

/**
 * When a look begins that is arrived at at a moment: at the first moment from then on that lies in a window, at arrival where
 * none is left. Ms since 1970.
 */
export function beginAt({ windows, stops }: Round, stop: number, arriveMs: number): { beginMs: number; late: boolean } {
  let beginMs = Infinity;
  for (const [from, to] of windows[stop]!)
    if (to >= arriveMs) {
      const at = Math.max(from, arriveMs);
      if (at < beginMs) beginMs = at;
    }
  const { readByMs } = stops[stop]!;
  if (beginMs === Infinity) return { beginMs: arriveMs, late: true };
  return { beginMs, late: readByMs !== undefined && beginMs > readByMs };
}

/** Idle crew hours of a stop that is begun at a moment. */
export function idleAt({ windows, stops }: Round, stop: number, beginMs: number): number {
  const opensMs = windows[stop]![0]![0];
  return (Math.max(0, beginMs - opensMs) / HOUR_MS) * (stops[stop]!.idlePerHour ?? 1);
}

/** What a stop costs that is begun at a moment. */
export function stopCost(round: Round, stop: number, beginMs: number, late: boolean): number {
  const { latePerStop, idlePerHour } = round.weights;
  return (late ? latePerStop : 0) + idlePerHour * idleAt(round, stop, beginMs);
}

/** Cost of an order of places in the list, and nothing else of it: what a search asks thousands of times. */
export function costOf(round: Round, order: ArrayLike<number>): number {
  const { travelMs, startMs, stops, weights } = round;
  let [atMs, from, cost] = [startMs, 0, 0];
  for (let k = 0; k < order.length; k += 1) {
    const stop = order[k]!;
    const driveMs = travelMs[from]![stop + 1]!;
    const { beginMs, late } = beginAt(round, stop, atMs + driveMs);
    cost += (driveMs / MINUTE_MS) * weights.drivePerMinute + stopCost(round, stop, beginMs, late);
    atMs = beginMs + stops[stop]!.minutes * MINUTE_MS;
    from = stop + 1;
  }
  return cost;
}

/** What an order of places in the list comes to. */
export function tellOrder(round: Round, order: readonly number[]): RouteCost {
  const told: RouteCost = { order: [], arrivals: [], begins: [], late: [], idleHours: 0, driveMinutes: 0, cost: 0 };
  let [atMs, from] = [round.startMs, 0];
  for (const stop of order) {
    const { id, minutes } = round.stops[stop]!;
    const driveMs = round.travelMs[from]![stop + 1]!;
    const { beginMs, late } = beginAt(round, stop, atMs + driveMs);
    told.order.push(id);
    told.arrivals.push(atMs + driveMs);
    told.begins.push(beginMs);
    if (late) told.late.push(id);
    told.idleHours += idleAt(round, stop, beginMs);
    told.driveMinutes += driveMs / MINUTE_MS;
    atMs = beginMs + minutes * MINUTE_MS;
    from = stop + 1;
  }
  const { latePerStop, idlePerHour, drivePerMinute } = round.weights;
  told.cost = latePerStop * told.late.length + idlePerHour * told.idleHours + drivePerMinute * told.driveMinutes;
  return told;
}
