import { beginAt, type Round, stopCost } from './routeCost';

/** A minute, ms. */
const MINUTE_MS = 60_000;
/** Ways to the same stops that are kept at once at most; a day that has more is not solved exactly. */
const WAYS_AT_MOST = 400_000;
/** Costs nearer than this are the same. */
const SAME = 1e-9;

/** A way to some stops that ends at one of them. */
interface Way {
  /** When one leaves the last stop, ms since 1970. */
  leaveMs: number;
  /** What it cost so far. */
  cost: number;
  /** The stop that it ends at, and the way before it. */
  stop: number;
  before: Way | null;
}

/**
 * The least that the stops left can still cost, were each the next one: whoever comes later can't begin earlier, so that this
 * never lies over what any order makes of them.
 */
function leastLeft(round: Round, atMs: number, left: number, nearestMs: readonly number[]): number {
  let least = 0;
  for (let stop = 0; stop < round.stops.length; stop += 1) {
    if ((left & (1 << stop)) === 0) continue;
    const { beginMs, late } = beginAt(round, stop, atMs + nearestMs[stop]!);
    least += (nearestMs[stop]! / MINUTE_MS) * round.weights.drivePerMinute + stopCost(round, stop, beginMs, late);
  }
  return least;
}

/**
 * The best order of all, by dynamic programming over sets of stops (Held and Karp 1962) with ways that neither leave later nor cost
 * more than another kept alone: a look that is arrived at earlier never begins later, so nothing better is lost. `most` is the
 * cost of an order that is known. Null where none is cheaper, and where there are too many ways.
 */
export function exactOrder(round: Round, most: number): { order: number[] | null; complete: boolean } {
  const { stops, travelMs, startMs, weights, pinnedAt, isPinned } = round;
  const n = stops.length;
  const nearestMs = stops.map((_, stop) =>
    Math.min(...travelMs.map((row, from) => (from === stop + 1 ? Infinity : row[stop + 1]!))),
  );
  const all = 2 ** n - 1;
  let layer = new Map<number, Way[]>([[0, [{ leaveMs: startMs, cost: 0, stop: -1, before: null }]]]);
  let bound = most - SAME;
  for (let place = 0; place < n; place += 1) {
    const next = new Map<number, Way[]>();
    let kept = 0;
    for (const [set, ways] of layer)
      for (let stop = 0; stop < n; stop += 1) {
        if ((set & (1 << stop)) !== 0) continue;
        const pin = pinnedAt[place]!;
        if (pin === -1 ? isPinned[stop] : pin !== stop) continue;
        const reached = set | (1 << stop);
        const found = next.get(reached) ?? [];
        if (!next.has(reached)) next.set(reached, found);
        for (const way of ways) {
          const driveMs = travelMs[way.stop + 1]![stop + 1]!;
          const { beginMs, late } = beginAt(round, stop, way.leaveMs + driveMs);
          const cost = way.cost + (driveMs / MINUTE_MS) * weights.drivePerMinute + stopCost(round, stop, beginMs, late);
          const leaveMs = beginMs + stops[stop]!.minutes * MINUTE_MS;
          if (cost + leastLeft(round, leaveMs, all & ~reached, nearestMs) > bound) continue;
          if (found.some((w) => w.stop === stop && w.leaveMs <= leaveMs && w.cost <= cost)) continue;
          for (let k = found.length - 1; k >= 0; k -= 1) {
            const other = found[k]!;
            if (other.stop === stop && other.leaveMs >= leaveMs && other.cost >= cost) {
              found.splice(k, 1);
              kept -= 1;
            }
          }
          found.push({ leaveMs, cost, stop, before: way });
          kept += 1;
        }
      }
    if (kept > WAYS_AT_MOST) return { order: null, complete: false };
    layer = next;
  }
  let best: Way | null = null;
  for (const way of layer.get(all) ?? [])
    if (way.cost <= bound) {
      bound = way.cost;
      best = way;
    }
  const order: number[] = [];
  for (let way = best; way && way.stop >= 0; way = way.before) order.unshift(way.stop);
  return { order: best ? order : null, complete: true };
}
