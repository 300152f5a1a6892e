import { numbers } from '../units/randomNumbers';
import { costOf, type Round } from './routeCost';

/** Gains smaller than this are none. */
const GAIN = 1e-9;
/** Of a long day a stop is tried no further away than this: what is hours off is found step by step. */
const NEAR = 10;
const isNear = (n: number, a: number, b: number): boolean => n <= 24 || Math.abs(a - b) <= NEAR;
/** Times that a way is shaken and mended anew: fewer for long days, whose mending takes longer. */
const SHAKES = (n: number): number => (n <= 12 ? 12 : Math.round(900 / n));

/** Stops in an order of some figure, those that are pinned at their places. */
function byFigure(round: Round, figure: (stop: number) => number): number[] {
  const { stops, pinnedAt, isPinned } = round;
  const free = stops
    .map((_, k) => k)
    .filter((k) => !isPinned[k])
    .sort((a, b) => figure(a) - figure(b) || a - b);
  return pinnedAt.map((pin) => (pin >= 0 ? pin : free.shift()!));
}

/** Each time the nearest one. */
function byNearest(round: Round): number[] {
  const { stops, travelMs, pinnedAt, isPinned } = round;
  const left = new Set(stops.map((_, k) => k).filter((k) => !isPinned[k]));
  const order: number[] = [];
  let from = 0;
  for (const pin of pinnedAt) {
    const next =
      pin >= 0 ? pin : [...left].reduce((a, b) => (travelMs[from]![b + 1]! < travelMs[from]![a + 1]! ? b : a));
    left.delete(next);
    order.push(next);
    from = next + 1;
  }
  return order;
}

/** Takes the stop at one free place and puts it at another; those between move up or down among the free places. */
function moved(order: readonly number[], free: readonly number[], a: number, b: number): number[] {
  const list = free.map((place) => order[place]!);
  const [stop] = list.splice(a, 1);
  list.splice(b, 0, stop!);
  const next = [...order];
  free.forEach((place, k) => {
    next[place] = list[k]!;
  });
  return next;
}

/** Turns round a stretch between two free places. */
function turned(order: readonly number[], free: readonly number[], a: number, b: number): number[] {
  const next = [...order];
  for (let k = a; k <= b; k += 1) next[free[k]!] = order[free[a + b - k]!]!;
  return next;
}

/** Exchanges two stops. */
function exchanged(order: readonly number[], free: readonly number[], a: number, b: number): number[] {
  const next = [...order];
  [next[free[a]!], next[free[b]!]] = [order[free[b]!]!, order[free[a]!]!];
  return next;
}

/** Moves one stop, turns a stretch or exchanges two as long as it is the better for it. */
function mended(round: Round, begin: readonly number[], free: readonly number[]): { order: number[]; cost: number } {
  let order = [...begin];
  let cost = costOf(round, order);
  for (let better = true; better; ) {
    better = false;
    for (let a = 0; a < free.length; a += 1)
      for (let b = 0; b < free.length; b += 1) {
        if (a === b || !isNear(free.length, a, b)) continue;
        const tried = [moved(order, free, a, b)];
        if (a < b) tried.push(turned(order, free, a, b), exchanged(order, free, a, b));
        for (const next of tried) {
          const its = costOf(round, next);
          if (its < cost - GAIN) [order, cost, better] = [next, its, true];
        }
      }
  }
  return { order, cost };
}

/**
 * A good order: the better of several plain ones (what closes first, what opens first, the nearest), mended, then shaken and mended
 * again a fixed number of times by seeded numbers, so that the same day has the same way. Pinned stops keep their places.
 */
export function goodOrder(round: Round, seed = 1): number[] {
  const { stops, windows, isPinned, pinnedAt } = round;
  const closes = (k: number) => Math.min(stops[k]!.readByMs ?? Infinity, windows[k]!.at(-1)![1]);
  const opens = (k: number) => windows[k]![0]![0];
  const urge = (k: number) => -(stops[k]!.idlePerHour ?? 1) / (1 + stops[k]!.minutes);
  const free = pinnedAt.flatMap((pin, place) => (pin === -1 ? [place] : []));
  const firsts = [byFigure(round, closes), byFigure(round, opens), byFigure(round, urge), byNearest(round)];
  let best = firsts.map((f) => mended(round, f, free)).reduce((a, b) => (b.cost < a.cost ? b : a));
  if (free.length < 3 || isPinned.every((p) => p)) return best.order;
  const { uniform } = numbers(seed);
  const any = (below: number) => Math.min(below - 1, Math.floor(uniform() * below));
  for (let shake = 0; shake < SHAKES(stops.length); shake += 1) {
    let order = best.order;
    for (let k = 0; k < 3; k += 1) order = moved(order, free, any(free.length), any(free.length));
    const next = mended(round, order, free);
    if (next.cost < best.cost - GAIN) best = next;
  }
  return best.order;
}
