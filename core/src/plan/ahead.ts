import { climateOf, finishedAtMs, type LayerReady } from '../checks/cureOfShower';
import { plannedEndMs } from '../checks/floodReadings';
import { judgeStage } from '../checks/judge';
import { judgeOf } from '../checks/judges';
import { waitLayers } from '../checks/wait';
import { type AirAhead, airAhead, logWith } from '../cure/airAhead';
import type { ClimateReading } from '../cure/climateLog';
import { type CureLayer, type CureReady, cureReady, type Forecast } from '../cure/cureClock';
import { helped } from '../cure/siteAir';
import { instantOf, type ShowerState } from '../log/state';
import { defectStep, isOpen } from '../proof/holds/defectLife';
import { openLookRequests } from '../proof/holds/lookRequests';
import { isOf } from '../rules/checks/check';
import type { WaitCheck } from '../rules/checks/wait';
import { floodCheckOf, type Stage } from '../rules/ruleBook';
import { workHoursOf } from './usualHours';

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** A wait with no end in sight is told as lasting this long, days. */
const NO_END_DAYS = 30;

/** How far a stage has come for the plan: nobody said anything, defects are to be put right, the crew is done with it. */
export const STAGE_STEPS = ['to-build', 'put-right', 'built'] as const;
/** One of them. */
export type StageStep = (typeof STAGE_STEPS)[number];

/** A wait that runs: when it ends, and what would win hours. Moments in ms since 1970. */
export interface RunningWait {
  /** By its label: never sooner. */
  earliestMs: number;
  /** By the air as it was read and is expected. */
  likelyMs: number;
  /** By the coldest of the days before. */
  latestMs: number;
  /** What holds it up. */
  decides: CureReady['decides'];
  /** What hardens, and the element that it was laid on; null for the whole stage. */
  cures: WaitCheck['cures'] | null;
  element: string | null;
  /** In this air it never ends. */
  never: boolean;
  /** Hours that heating would win; 0 where it wins none. */
  heatWinsHours: number;
}

/** A stage that is not released yet, as far as the entries tell. */
export interface StageAhead {
  /** Its key and name in the rule book. */
  key: string;
  label: string;
  /** The next layer hides it. */
  holdPoint: boolean;
  /** It was released, and something speaks against that since. */
  contested: boolean;
  /** The crew that builds it. */
  crewId: string;
  /** How far it has come, and since when, ms since 1970. */
  step: StageStep;
  sinceMs: number;
  /** A look was asked for, ms since 1970: when, and from when on it is wanted; null without. */
  askedMs: number | null;
  wantedMs: number | null;
  /** Defects that nobody has put right yet. */
  defects: number;
  /** What is asked there and not answered. */
  open: number;
  /** A wait that runs; null for none. */
  wait: RunningWait | null;
  /** Hours of waits that have not begun, by the label and by the air as it is expected. */
  waitHours: number;
  likelyWaitHours: number;
}

/** Water that stands. Moments in ms since 1970. */
export interface FloodAhead {
  stage: string;
  startMs: number;
  endMs: number;
  readByMs: number;
}

/** What the plan needs to know of one shower. Made of plain values, so that it can be kept and sent. */
export interface ShowerAhead {
  id: string;
  name: string;
  job: string;
  crewId: string;
  timeZone: string;
  /** Stages that are not released, from the lowest up. */
  stages: StageAhead[];
  /** The running flood test; null without water. */
  flood: FloodAhead | null;
  /** What was read of it last, ms since 1970: what is not told later is planned from here. */
  toldMs: number;
}

/** The air as it is expected: what somebody typed, else what the logger's days before tell, else as it was read last. */
interface Air {
  forecast: Forecast | null;
  ahead: AirAhead | null;
}

/** What somebody expects of the air: one air from a moment on, or hour by hour out of a file. */
export interface ExpectedAir extends Forecast {
  hours?: readonly ClimateReading[] | undefined;
}

/** The air of the days ahead: out of a file as far as it lies ahead, else as it was typed, else from the logger’s days before. */
function airOf(state: ShowerState, expected: ExpectedAir | null): Air {
  const hours = (expected?.hours ?? []).filter((r) => r.atMs > state.clockMs);
  if (hours.length > 0) return { forecast: null, ahead: { likely: hours, coldest: hours, warmest: hours } };
  // A file that has run out foretells nothing any more.
  if (expected && expected.hours === undefined) return { forecast: expected, ahead: null };
  return { forecast: null, ahead: airAhead(climateOf(state), state.clockMs) };
}

/** A layer anew, with the air as it is likely, or as warm or cold as it may be. */
function readyIn(state: ShowerState, layer: CureLayer, { forecast, ahead }: Air, which: keyof AirAhead): CureReady {
  const log = climateOf(state);
  if (forecast || !ahead) return cureReady(layer, log, forecast);
  return cureReady(layer, logWith(log, ahead[which]), null);
}

const asLayer = (check: WaitCheck, laid: Pick<LayerReady, 'laidAtMs' | 'filmRatio'>): CureLayer => ({
  kind: check.cures ?? 'sealant',
  laidAtMs: laid.laidAtMs,
  labelHours: check.hours,
  model: check.model ?? 'arrhenius',
  filmRatio: laid.filmRatio,
});

/** What heating from now on would win, hours; 0 where the air is not known or it wins nothing. */
function heatWins(state: ShowerState, layer: CureLayer, air: Air, readyMs: number | null): number {
  const log = climateOf(state);
  const last = log.atMs.length - 1;
  if (layer.kind === 'sealant' || last < 0) return 0;
  const now: Forecast = air.forecast ?? {
    airC: air.ahead?.likely[0]?.airC ?? log.airC[last]!,
    relativeHumidity: log.relativeHumidity[last]!,
  };
  const warm = cureReady(layer, log, { ...helped(now, 'heat'), fromMs: state.clockMs }).readyAtMs;
  return warm === null || readyMs === null ? 0 : Math.max(0, (readyMs - warm) / HOUR_MS);
}

/** The wait of a stage that ends last, of those that run; null where none does. */
function runningWait(state: ShowerState, checks: readonly WaitCheck[], air: Air): RunningWait | null {
  const waits = checks.flatMap((check): RunningWait[] => {
    const layers = waitLayers(state, check) ?? [];
    return layers.flatMap((laid): RunningWait[] => {
      const layer = asLayer(check, laid);
      const likely = readyIn(state, layer, air, 'likely');
      const labelMs = laid.laidAtMs + check.hours * HOUR_MS;
      const noEndMs = state.clockMs + NO_END_DAYS * 24 * HOUR_MS;
      const likelyMs = likely.readyAtMs ?? noEndMs;
      if (likelyMs <= state.clockMs) return [];
      const latestMs = Math.max(likelyMs, readyIn(state, layer, air, 'coldest').readyAtMs ?? noEndMs);
      const soonMs = readyIn(state, layer, air, 'warmest').readyAtMs ?? likelyMs;
      return [
        {
          earliestMs: Math.max(labelMs, Math.min(soonMs, likelyMs)),
          likelyMs,
          latestMs,
          decides: likely.decides,
          cures: check.cures ?? null,
          element: laid.element,
          never: likely.readyAtMs === null,
          heatWinsHours: likely.decides === 'label' ? 0 : heatWins(state, layer, air, likely.readyAtMs),
        },
      ];
    });
  });
  return waits.length === 0 ? null : waits.reduce((a, b) => (b.likelyMs > a.likelyMs ? b : a));
}

/** Hours of the waits of a stage whose layers are not all laid: by the label, and in the air as it is expected from now on. */
function waitToCome(state: ShowerState, checks: readonly WaitCheck[], air: Air): { least: number; likely: number } {
  const open = checks.filter((check) => waitLayers(state, check) === null);
  const likely = open.map((check) => {
    const layer = asLayer(check, { laidAtMs: state.clockMs, filmRatio: 1 });
    const { readyAtMs } = readyIn(state, layer, air, 'likely');
    return readyAtMs === null ? NO_END_DAYS * 24 : (readyAtMs - state.clockMs) / HOUR_MS;
  });
  return { least: Math.max(0, ...open.map((c) => c.hours)), likely: Math.max(0, ...likely) };
}

/** How far a stage has come, and since when. */
function stepOf(
  state: ShowerState,
  stage: Stage,
  sinceMs: number,
  defects: number,
): { step: StageStep; sinceMs: number } {
  const told = state.stages.get(stage.key);
  const work = (told?.work ?? []).map((e) => finishedAtMs(state, e));
  if (defects > 0) return { step: 'put-right', sinceMs: Math.max(sinceMs, ...work) };
  const builds = workHoursOf(stage.key, {}) > 0 && stage.checks.some((c) => judgeOf(c).buildsOn);
  if (work.length > 0) return { step: 'built', sinceMs: Math.max(...work) };
  // Whoever looks at a stage sees that it is there; and where nothing is built there is nothing to wait for.
  return { step: !builds || told?.begun ? 'built' : 'to-build', sinceMs };
}

/**
 * What the plan needs of a shower, at the moment that its state is judged at: stages that are not released with how far each has
 * come, waits that run and waits to come in the air as it is expected, water that stands. `expected` is what somebody typed or read from a file; without
 * it the logger's days before tell the air. Null for a shower without a drawing or rules.
 */
export function showerAhead(state: ShowerState, id: string, expected: ExpectedAir | null = null): ShowerAhead | null {
  const { created, rules } = state;
  if (!created || !rules) return null;
  const air = airOf(state, expected);
  const flood = floodCheckOf(rules.method);
  const asked = openLookRequests(state);
  const open = [...state.defects.values()].filter((d) => isOpen(d) && d.severity !== 'note');
  const isToFix = (d: (typeof open)[number]) => !['answered', 'redone'].includes(defectStep(d));
  let sinceMs = instantOf(state, created);
  const stages: StageAhead[] = [];
  for (const stage of [...rules.method.stages].sort((a, b) => a.order - b.order)) {
    if (stage.checks.length === 0 || stage.notInspected) continue;
    const told = state.stages.get(stage.key);
    if (told?.word === 'released') {
      sinceMs = Math.max(sinceMs, told.release?.atMs ?? 0);
      continue;
    }
    const defects = open.filter((d) => d.stage === stage.key && isToFix(d)).length;
    const waits = stage.checks.filter((c) => isOf(c, 'wait'));
    const toCome = waitToCome(state, waits, air);
    const planned =
      flood?.stage.key === stage.key && !state.flood?.running && !state.flood?.end ? flood.check.plannedHours : 0;
    const request = asked.find((r) => r.body.stage === stage.key);
    stages.push({
      key: stage.key,
      label: stage.label,
      holdPoint: stage.holdPoint,
      contested: told?.word === 'contested',
      crewId: created.body.stageCrews?.[stage.key] ?? created.body.crewId,
      ...stepOf(state, stage, sinceMs, defects),
      askedMs: request ? instantOf(state, request) : null,
      wantedMs: request ? Math.max(instantOf(state, request), Date.parse(request.body.readyAt ?? '') || 0) : null,
      defects,
      open: judgeStage(state, stage.key).filter((j) => !j.satisfied).length,
      wait: runningWait(state, waits, air),
      waitHours: Math.max(toCome.least, planned),
      likelyWaitHours: Math.max(toCome.likely, planned),
    });
  }
  const running = flood && state.flood?.running ? state.flood : null;
  return {
    id,
    name: created.body.name,
    job: created.body.job,
    crewId: created.body.crewId,
    timeZone: created.body.timeZone,
    stages,
    flood: running && {
      stage: flood!.stage.key,
      startMs: running.startMs,
      endMs: plannedEndMs(running),
      readByMs: plannedEndMs(running) + flood!.check.readWithinHours * HOUR_MS,
    },
    toldMs: state.clockMs,
  };
}
