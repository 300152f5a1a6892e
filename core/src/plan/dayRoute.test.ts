import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { numbers } from '../units/randomNumbers';
import { type DayRoute, dayRoute, tellRoute } from './dayRoute';
import type { DayRouteInput } from './routeCost';

const START = Date.UTC(2026, 11, 1, 7);
const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const WEIGHTS = { latePerStop: 100, idlePerHour: 10, drivePerMinute: 0.5 };

/** A day drawn at random: places on a map, one or two windows, some to be read by an hour, some that keep nobody waiting. */
function anyDay(seed: number, n: number, pins = 0): DayRouteInput {
  const { uniform } = numbers(seed);
  const spots = Array.from({ length: n + 1 }, () => [uniform() * 40, uniform() * 40] as const);
  const stops = Array.from({ length: n }, (_, k) => {
    const from = START + Math.floor(uniform() * 8 * 4) * 15 * MINUTE;
    const first: [number, number] = [from, from + (1 + Math.floor(uniform() * 10)) * 30 * MINUTE];
    const second: [number, number] = [first[1] + HOUR, first[1] + 3 * HOUR];
    return {
      id: `s${k}`,
      minutes: 10 + Math.floor(uniform() * 40),
      windows: uniform() < 0.3 ? [second, first] : [first],
      ...(uniform() < 0.3 ? { readByMs: from + 2 * HOUR } : {}),
      ...(uniform() < 0.7 ? { idlePerHour: Math.floor(uniform() * 4) } : {}),
      ...(k < pins ? { pinned: (k * 3) % n } : {}),
    };
  });
  const travelMinutes = spots.map(([x, y]) => spots.map(([u, v]) => Math.round(Math.hypot(x - u, y - v))));
  return { stops, travelMinutes, startMs: START, weights: WEIGHTS };
}

/** Every order there is, the cheapest of them; written apart from the search, by the catalogue's words alone. */
function bruteForce({ stops, travelMinutes, startMs, weights }: DayRouteInput): number {
  let best = Infinity;
  const go = (at: number, last: number, cost: number, left: readonly number[], place: number): void => {
    if (left.length === 0) best = Math.min(best, cost);
    for (const k of left) {
      const { pinned } = stops[k]!;
      if (typeof pinned === 'number' && pinned !== place) continue;
      if (left.some((other) => stops[other]!.pinned === place) && pinned !== place) continue;
      const drive = travelMinutes[last]![k + 1]!;
      const arrive = at + drive * MINUTE;
      const open = stops[k]!.windows.map(([from, to]) => (arrive <= to ? Math.max(from, arrive) : Infinity));
      const soonest = Math.min(...open);
      const begin = Number.isFinite(soonest) ? soonest : arrive;
      const late = !Number.isFinite(soonest) || begin > (stops[k]!.readByMs ?? Infinity);
      const opens = Math.min(...stops[k]!.windows.map(([from]) => from));
      const idle = (Math.max(0, begin - opens) / HOUR) * (stops[k]!.idlePerHour ?? 1);
      const its = drive * weights.drivePerMinute + idle * weights.idlePerHour + (late ? weights.latePerStop : 0);
      go(
        begin + stops[k]!.minutes * MINUTE,
        k + 1,
        cost + its,
        left.filter((other) => other !== k),
        place + 1,
      );
    }
  };
  go(
    startMs,
    0,
    0,
    stops.map((_, k) => k),
    0,
  );
  return best;
}
const route = (input: DayRouteInput): DayRoute => {
  const told = dayRoute(input);
  if (!told.ok) throw new Error(JSON.stringify(told.problem));
  return told.value;
};

describe('the way through a day', () => {
  it('costs what the cheapest of all orders costs, six stops, windows and pins', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1_000_000 }), fc.integer({ min: 0, max: 2 }), (seed, pins) => {
        const day = anyDay(seed, 6, pins);
        const told = route(day);
        expect(told.exact).toBe(true);
        expect(told.cost).toBeCloseTo(bruteForce(day), 6);
      }),
      { numRuns: 60 },
    );
  });

  it('costs the same with eight stops', () => {
    for (let seed = 1; seed <= 8; seed += 1) {
      const day = anyDay(seed, 8);
      expect(route(day).cost).toBeCloseTo(bruteForce(day), 6);
    }
  });

  it('tells of the order what it comes to, and that no order that somebody chooses is cheaper', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1_000_000 }), (seed) => {
        const day = anyDay(seed, 7);
        const told = route(day);
        const again = tellRoute(day, told.order);
        expect(again).toMatchObject({ ok: true, value: { cost: told.cost, late: told.late } });
        const other = tellRoute(day, [...told.order].reverse());
        expect(other.ok && other.value.cost).toBeGreaterThanOrEqual(told.cost - 1e-9);
      }),
    );
  });

  it('keeps a pinned stop at its place, by its number or as it stands in the list', () => {
    const day = anyDay(3, 9);
    day.stops[4]!.pinned = 0;
    day.stops[7]!.pinned = true;
    const { order } = route(day);
    expect([order[0], order[7]]).toEqual(['s4', 's7']);
    const long = anyDay(4, 30);
    long.stops[20]!.pinned = 2;
    expect(route(long).order[2]).toBe('s20');
  });

  it('is never late where a day can be done in time, and says who is where it can not', () => {
    const reading = {
      id: 'flood',
      minutes: 10,
      windows: [[START, START + 9 * HOUR]] as [number, number][],
      readByMs: START + HOUR,
    };
    const far = { id: 'far', minutes: 60, windows: [[START, START + 9 * HOUR]] as [number, number][] };
    const day = {
      stops: [far, reading],
      travelMinutes: [
        [0, 5, 30],
        [5, 0, 30],
        [30, 30, 0],
      ],
      startMs: START,
      weights: WEIGHTS,
    };
    expect(route(day)).toMatchObject({ order: ['flood', 'far'], late: [] });
    const tooLate = route({ ...day, startMs: START + 2 * HOUR });
    expect(tooLate.late).toEqual(['flood']);
  });

  it.each([
    [
      'route-stop-twice',
      'stops.1.id',
      (d: DayRouteInput) => {
        d.stops[1]!.id = 's0';
      },
    ],
    [
      'route-window-reversed',
      'stops.0.windows.0',
      (d: DayRouteInput) => {
        d.stops[0]!.windows = [[2, 1]];
      },
    ],
    [
      'route-pin-outside',
      'stops.2.pinned',
      (d: DayRouteInput) => {
        d.stops[2]!.pinned = 3;
      },
    ],
    [
      'route-pin-twice',
      'stops.1.pinned',
      (d: DayRouteInput) => {
        d.stops[0]!.pinned = 2;
        d.stops[1]!.pinned = 2;
      },
    ],
    [
      'route-travel-rows',
      'travelMinutes',
      (d: DayRouteInput) => {
        d.travelMinutes.pop();
      },
    ],
    [
      'route-travel-rows',
      'travelMinutes.1',
      (d: DayRouteInput) => {
        d.travelMinutes[1]!.pop();
      },
    ],
  ] as [string, string, (d: DayRouteInput) => void][])('refuses %s and names %s', (code, field, spoil) => {
    const day = anyDay(1, 3);
    spoil(day);
    expect(dayRoute(day)).toMatchObject({ ok: false, problem: { code, field } });
  });

  it('of no stops is an empty day', () => {
    const none = { stops: [], travelMinutes: [[0]], startMs: START, weights: WEIGHTS };
    expect(route(none)).toEqual({
      order: [],
      arrivals: [],
      begins: [],
      late: [],
      idleHours: 0,
      driveMinutes: 0,
      cost: 0,
      exact: true,
    });
  });
});
