import { type ShowerAhead, showerAhead } from '@careful-seam/core/plan/ahead';
import { dayRoute } from '@careful-seam/core/plan/dayRoute';
import { FIRST_WEIGHTS } from '@careful-seam/core/plan/inspectorDay';
import { NOTHING_SET, planShowers } from '@careful-seam/core/plan/planOf';
import { WorkCalendar } from '@careful-seam/core/plan/workCalendar';
import { begun, climb, fold, STAGES } from '@careful-seam/core/tests/sampleTablet';
import { numbers } from '@careful-seam/core/units/randomNumbers';

/** Open showers of a firm, and stops of a day. */
const [SHOWERS, STOPS] = [200, 12];

/** So many open showers, each as far as a ladder can be: what a firm plans after one entry. */
export function firmPlans(): () => unknown {
  const some = STAGES.map((stage) => {
    const t = begun();
    climb(t, stage);
    return showerAhead(fold(t.entries), 'x')!;
  });
  const showers = Array.from({ length: SHOWERS }, (_, k): ShowerAhead => ({ ...some[k % some.length]!, id: `s${k}` }));
  const ways = { calendar: WorkCalendar.parse({}), stageHours: {}, looked: {} };
  const nowMs = Date.UTC(2026, 11, 1, 8);
  return () => planShowers(showers, ways, () => NOTHING_SET, nowMs);
}

/** A day of twelve stops, another one each time. */
export function dayOfTwelve(): () => unknown {
  const { uniform } = numbers(5);
  return () => {
    const spots = Array.from({ length: STOPS + 1 }, () => [uniform() * 40, uniform() * 40] as const);
    const stops = Array.from({ length: STOPS }, (_, k) => {
      const from = Math.floor(uniform() * 32) * 15 * 60_000;
      return {
        id: `s${k}`,
        minutes: 20,
        windows: [[from, from + 4 * 3_600_000]] as [number, number][],
        ...(uniform() < 0.3 ? { readByMs: from + 7_200_000 } : {}),
      };
    });
    const travelMinutes = spots.map(([x, y]) => spots.map(([u, v]) => Math.round(Math.hypot(x - u, y - v))));
    return dayRoute({ stops, travelMinutes, startMs: 0, weights: FIRST_WEIGHTS });
  };
}
