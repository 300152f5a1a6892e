import type { FloodEnd } from '../log/floodTest';
import type { Worst } from '../log/judgement';
import type { ShowerState } from '../log/state';
import type { FloodCheck } from '../rules/checks/flood';
import type { Judge } from './checkJudge';
import { floodEntries, isWetLook } from './floodReadings';
import { type Measured, plain } from './found';

/** How bad a flood's finding is: its bounds, and what it lacks of what the rule book asks. */
function worstFlood({ figures, short, verdict }: FloodEnd, isWet: boolean): Worst {
  const bound = (name: string, mm: number | null | undefined) => (typeof mm === 'number' ? [[name, mm] as const] : []);
  return Object.fromEntries([
    ...bound('high', figures?.highMmPerDay),
    ...(verdict === 'fail' ? bound('net', figures?.netLossMmPerDay) : []),
    ...(isWet ? [['wet', 1] as const] : []),
    ...(figures ? [] : [['nothing read', 1] as const]),
    ...short.map((s) => [`${s.kind} ${s.where ?? ''}`, s.by] as const),
  ]);
}

/** The flood as a check: unseen until a test has ended, and again when the basin that it tested is another one. */
export function floodFound(state: ShowerState): Measured {
  const test = state.flood;
  if (!test?.end || test.voided || test.end.verdict === 'aborted') return plain('unseen');
  return plain(test.end.verdict, worstFlood(test.end, test.looks.some(isWetLook)));
}

/** The flood test of the whole shower: judged by the test, whose entries are what the judgement stands on. */
export const floodJudge: Judge<FloodCheck> = {
  answeredBy: () => 'work',
  judge: ({ state }) => ({ measured: floodFound(state) }),
  standsOn: (state) => floodEntries(state.flood),
  isGone: (state) => state.flood?.voided != null,
};
