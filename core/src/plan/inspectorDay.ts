import { type DayRoute, dayRoute } from './dayRoute';
import { type DayStop, type DayStops, dayStops } from './dayStops';
import type { PlannedShower } from './planOf';
import { type DayRouteInput, type RouteCost, STOPS_AT_MOST } from './routeCost';
import { travelTable, type Ways } from './travel';
import type { WorkTime } from './workCalendar';

/** What one thing costs against the others: a look too late, an hour of a crew, a minute on the road. */
export type RouteWeights = DayRouteInput['weights'];
/** No flood late, no layer covered; then idle crews; then the road [own choice; the firm sets its own]. */
export const FIRST_WEIGHTS: RouteWeights = { latePerStop: 1000, idlePerHour: 10, drivePerMinute: 0.1 };

/** What an inspector's day is worked out from. */
export interface DayAsked {
  planned: readonly PlannedShower[];
  /** The inspector's own hours. */
  work: WorkTime;
  /** Now, ms since 1970. */
  nowMs: number;
  /** Showers that the office set on one of these days. */
  visits: ReadonlySet<string>;
  /** The job where the inspector is; null: where the day begins. */
  at: string | null;
  ways: Ways;
  weights: RouteWeights;
  /** Stops that somebody set to a place in the order: shower → place, the first being 0. */
  pins: Readonly<Record<string, number>>;
  /** The order that those places are counted in; stops of it that are gone make room. Empty: the stops as they are now. */
  pinnedIn: readonly string[];
}

/** An inspector's way through a day and the next. */
export interface InspectorDay extends DayStops {
  route: DayRoute;
  /** By the ids of the route. */
  byId: ReadonlyMap<string, DayStop>;
  /** Some minutes on the road are assumed: nobody said where a job is. */
  assumedTravel: boolean;
  /** Stops beyond what a day can hold. */
  leftOut: number;
  /** What the way was worked out from, so that another order can be told. */
  asked: DayRouteInput;
}

/**
 * Pins that fit: each place once, none beyond the last stop; of two for one place the earlier one in the list. A place counts the stops before it that are
 * still to be gone to, so that a pinned stop moves up with the day.
 */
function fittingPins(
  stops: readonly DayStop[],
  pins: Readonly<Record<string, number>>,
  pinnedIn: readonly string[],
): Map<string, number> {
  const here = new Set(stops.map((s) => s.id));
  const gone = (place: number) => pinnedIn.slice(0, place).filter((id) => !here.has(id)).length;
  const taken = new Set<number>();
  const fitting = new Map<string, number>();
  for (const { id } of stops) {
    if (!Object.hasOwn(pins, id)) continue;
    const told = Math.floor(pins[id]!);
    const wanted = Math.min(Math.max(0, told - gone(told)), stops.length - 1);
    if (taken.has(wanted)) continue;
    taken.add(wanted);
    fitting.set(id, wanted);
  }
  return fitting;
}

/** An inspector's way: where to go first and when, with what can't be done; the same for the same facts. */
export function inspectorDay({
  planned,
  work,
  nowMs,
  visits,
  at,
  ways,
  weights,
  pins,
  pinnedIn,
}: DayAsked): InspectorDay {
  const day = dayStops(planned, work, nowMs, visits);
  // More than anybody can do: what closes first stays.
  const urgent = [...day.stops].sort(
    (a, b) => (a.closesMs ?? Infinity) - (b.closesMs ?? Infinity) || a.opensMs - b.opensMs,
  );
  const stops = urgent.slice(0, STOPS_AT_MOST);
  const travel = travelTable(
    at,
    stops.map((s) => s.job),
    ways,
  );
  const pinned = fittingPins(stops, pins, pinnedIn);
  const asked: DayRouteInput = {
    stops: stops.map(({ id, minutes, windows, readByMs, idlePerHour }) => ({
      id,
      minutes,
      windows,
      ...(readByMs === undefined ? {} : { readByMs }),
      ...(idlePerHour === undefined ? {} : { idlePerHour }),
      ...(pinned.has(id) ? { pinned: pinned.get(id)! } : {}),
    })),
    travelMinutes: travel.minutes,
    startMs: nowMs,
    weights,
  };
  const route = dayRoute(asked);
  if (!route.ok) throw new Error(`a day that was put together here is refused: ${route.problem.code}`);
  return {
    ...day,
    stops,
    route: route.value,
    byId: new Map(stops.map((s) => [s.id, s])),
    assumedTravel: travel.assumed,
    leftOut: day.stops.length - stops.length,
    asked,
  };
}

/** What it costs to go otherwise: more late looks, idle crew hours and minutes on the road; below zero where there is less. */
export interface Price {
  late: string[];
  idleHours: number;
  driveMinutes: number;
  /** Crews that stand longer, with the hours more. */
  crews: { crewId: string; hours: number }[];
}

/** Idle hours of each crew on a way. */
function idleByCrew(day: Pick<InspectorDay, 'byId'>, told: RouteCost): Map<string, number> {
  const hours = new Map<string, number>();
  for (const [k, id] of told.order.entries()) {
    const stop = day.byId.get(id)!;
    const opens = stop.windows[0]![0];
    const its = (Math.max(0, told.begins[k]! - opens) / 3_600_000) * (stop.idlePerHour ?? 1);
    hours.set(stop.crewId, (hours.get(stop.crewId) ?? 0) + its);
  }
  return hours;
}

/** What another way costs beyond one. */
export function priceOf(day: Pick<InspectorDay, 'byId'>, now: RouteCost, then: RouteCost): Price {
  const [before, after] = [idleByCrew(day, now), idleByCrew(day, then)];
  const crews = [...after].map(([crewId, hours]) => ({ crewId, hours: hours - (before.get(crewId) ?? 0) }));
  return {
    late: then.late.filter((id) => !now.late.includes(id)),
    idleHours: then.idleHours - now.idleHours,
    driveMinutes: then.driveMinutes - now.driveMinutes,
    crews: crews.filter((c) => c.hours > 1 / 120).sort((a, b) => b.hours - a.hours),
  };
}

/** The way with one stop at a place of its own, the others as they then are best, and what that costs. */
export function movedTo(day: InspectorDay, id: string, place: number): { route: DayRoute; price: Price } {
  const others = day.asked.stops.map(({ pinned, ...s }) => {
    if (s.id === id) return { ...s, pinned: place };
    return pinned === place ? s : { ...s, ...(pinned === undefined ? {} : { pinned }) };
  });
  const route = dayRoute({ ...day.asked, stops: others });
  if (!route.ok) throw new Error(`a day that was put together here is refused: ${route.problem.code}`);
  return { route: route.value, price: priceOf(day, day.route, route.value) };
}
