import { done, type Outcome } from '../outcome/outcome';
import { exactOrder } from './exactRoute';
import { costOf, type DayRouteInput, type RouteCost, readRound, tellOrder } from './routeCost';
import { goodOrder } from './routeSearch';

/** A day with so many stops or fewer is solved exactly. */
export const EXACT_STOPS = 12;

/** A way through a day, and whether there can be none better. */
export interface DayRoute extends RouteCost {
  /** No order costs less. */
  exact: boolean;
}

/**
 * The order in which an inspector goes to a day's stops: what costs least by late looks, idle crew hours and driving, in the weights
 * given. Exact up to 12 stops, searched beyond. Pinned stops keep their places. No way home is counted.
 */
export function dayRoute(input: DayRouteInput): Outcome<DayRoute> {
  const read = readRound(input);
  if (!read.ok) return read;
  const round = read.value;
  const good = goodOrder(round);
  if (round.stops.length > EXACT_STOPS) return done({ ...tellOrder(round, good), exact: round.stops.length < 2 });
  const { order, complete } = exactOrder(round, costOf(round, good));
  return done({ ...tellOrder(round, order ?? good), exact: complete });
}

/** What an order that somebody chose comes to, in ids; stops that it leaves out come last as they stand in the list. */
export function tellRoute(input: DayRouteInput, order: readonly string[]): Outcome<RouteCost> {
  const read = readRound(input);
  if (!read.ok) return read;
  const places = new Map(input.stops.map((s, k) => [s.id, k]));
  const chosen = [...new Set(order)].flatMap((id) => places.get(id) ?? []);
  const left = input.stops.map((_, k) => k).filter((k) => !chosen.includes(k));
  return done(tellOrder(read.value, [...chosen, ...left]));
}
