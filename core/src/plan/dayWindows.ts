import { plannedEndMs } from '../checks/floodReadings';
import { judgeStage } from '../checks/judge';
import { judgeOf, waitingUntilMs } from '../checks/judges';
import type { ShowerState } from '../log/state';
import { currentStage } from '../proof/shown/seamLine';
import { floodCheckOf, type Stage } from '../rules/ruleBook';

/** An hour, ms. */
const MS_PER_HOUR = 3_600_000;

/** What a stretch of the day is for a shower: a crew builds, something cures, water stands, the inspector is waited for. */
export const WINDOW_KINDS = ['crew', 'cure', 'water', 'ready'] as const;
/** One of them. */
export type WindowKind = (typeof WINDOW_KINDS)[number];

/** A stretch of time in a shower's day, ms since 1970. `toMs` is null while nothing says when it ends. */
export interface DayWindow {
  /** What it is a window for. */
  kind: WindowKind;
  /** Key of the stage. */
  stage: string;
  /** When it opens, ms since 1970. */
  fromMs: number;
  /** When it closes, ms since 1970; null while that is not known. */
  toMs: number | null;
}

/** A shower on the day’s band of hours. */
export interface ShowerDay {
  /** In the order of the stages. */
  windows: DayWindow[];
  /** When a flood should be read at the latest, ms since 1970; null when no water stands. */
  readByMs: number | null;
  /** Since when the inspector is waited for, or from when on; null while it is not the inspector's turn. */
  readyFromMs: number | null;
}

/** When work on a stage was last told, ms since 1970; null before it. */
const workMs = (state: ShowerState, stage: string): number | null => {
  const said = (state.stages.get(stage)?.work ?? []).map((e) => Date.parse(e.observedAt));
  return said.length > 0 ? Math.max(...said) : null;
};

/** When a stage was released, ms since 1970; null while it is not. */
const releaseMs = (state: ShowerState, stage: string): number | null => {
  const release = state.stages.get(stage)?.release;
  return release ? Date.parse(release.observedAt) : null;
};

/** A stage that was built and released: the crew until it said done, then ready until the release. */
function pastWindows(
  state: ShowerState,
  stage: Stage,
  sinceMs: number,
  morningOf: (ms: number) => number,
): DayWindow[] {
  const [work, released] = [workMs(state, stage.key), releaseMs(state, stage.key)];
  if (work === null || released === null) return [];
  const crew: DayWindow = { kind: 'crew', stage: stage.key, fromMs: Math.max(sinceMs, morningOf(work)), toMs: work };
  return [crew, { kind: 'ready', stage: stage.key, fromMs: work, toMs: released }];
}

/** Water windows of all flood tests, the running one to its planned end. */
function waterWindows(state: ShowerState, stage: string): DayWindow[] {
  const tests = [...state.earlierFloods, ...(state.flood ? [state.flood] : [])];
  return tests.map((test) => ({
    kind: 'water',
    stage,
    fromMs: test.startMs,
    toMs: test.end ? Date.parse(test.end.at) : test.running ? plannedEndMs(test) : test.startMs,
  }));
}

/** What is open now, stage by stage. */
function presentWindows(
  state: ShowerState,
  stage: Stage,
  sinceMs: number,
  morningOf: (ms: number) => number,
): DayWindow[] {
  const { key } = stage;
  if (floodCheckOf(state.rules!.method)?.stage.key === key && state.flood?.running)
    return [{ kind: 'ready', stage: key, fromMs: plannedEndMs(state.flood), toMs: null }];
  if (floodCheckOf(state.rules!.method)?.stage.key === key && state.flood?.end)
    return [{ kind: 'ready', stage: key, fromMs: Date.parse(state.flood.end.at), toMs: null }];
  const readyAt = waitingUntilMs(judgeStage(state, stage.key));
  if (readyAt !== null)
    return [
      { kind: 'cure', stage: key, fromMs: sinceMs, toMs: readyAt },
      { kind: 'ready', stage: key, fromMs: readyAt, toMs: null },
    ];
  const work = workMs(state, key);
  const builds = stage.checks.some((c) => judgeOf(c).buildsOn);
  if (!builds) return [{ kind: 'ready', stage: key, fromMs: sinceMs, toMs: null }];
  if (work === null && !state.stages.get(key)?.begun)
    return [{ kind: 'crew', stage: key, fromMs: Math.max(sinceMs, morningOf(state.clockMs)), toMs: null }];
  const from = work ?? sinceMs;
  const crew: DayWindow[] =
    work === null ? [] : [{ kind: 'crew', stage: key, fromMs: Math.max(sinceMs, morningOf(work)), toMs: work }];
  return [...crew, { kind: 'ready', stage: key, fromMs: from, toMs: null }];
}

/**
 * A shower's windows as its entries tell them: the crew at work, curing, water in, ready for the inspector. `morningOf`
 * gives the hour at which a crew begins on the day of a moment: nobody works through the night.
 */
export function showerDay(state: ShowerState, morningOf: (ms: number) => number): ShowerDay {
  const found = state.rules && floodCheckOf(state.rules.method);
  const now = currentStage(state);
  const stages = [...(state.rules?.method.stages ?? [])]
    .filter((s) => s.checks.length > 0)
    .sort((a, b) => a.order - b.order);
  if (!state.rules || !now || !state.created) return { windows: [], readByMs: null, readyFromMs: null };
  let sinceMs = Date.parse(state.created.observedAt);
  const windows: DayWindow[] = found ? waterWindows(state, found.stage.key) : [];
  for (const stage of stages) {
    if (stage.key === now && state.stages.get(now)?.word !== 'released') {
      windows.push(...presentWindows(state, stage, sinceMs, morningOf));
      break;
    }
    windows.push(...pastWindows(state, stage, sinceMs, morningOf));
    sinceMs = releaseMs(state, stage.key) ?? sinceMs;
  }
  const open = windows.find((w) => w.kind === 'ready' && w.toMs === null) ?? null;
  const running = found && state.flood?.running ? state.flood : null;
  return {
    windows,
    readByMs: running ? plannedEndMs(running) + found!.check.readWithinHours * MS_PER_HOUR : null,
    readyFromMs: open?.fromMs ?? null,
  };
}
