import { floodShortfalls, wholeVerdict } from '../../checks/floodNeeds';
import { isWetLook, lowestRead, verdictInput } from '../../checks/floodReadings';
import { WHOLE_SHOWER } from '../../checks/requirements';
import { FLOOD_MARGIN_MM } from '../../checks/waterProof';
import type { EntryOf } from '../../log/entry';
import type { FloodEnd, FloodFigures, FloodTest, Voided } from '../../log/floodTest';
import { instantOf, type ShowerState, typedInstant } from '../../log/state';
import { ruleOf } from '../../rules/checks/check';
import type { FloodCheck } from '../../rules/checks/flood';
import { floodCheckOf } from '../../rules/ruleBook';
import { kindOfFailure } from '../../rules/tools';
import { openDefect } from '../fold/foldDefects';
import { beginStage, takeReleaseBack } from '../fold/stageState';
import { judgedReadings } from './rememberedFloods';

/** An hour, ms. */
const MS_PER_HOUR = 3_600_000;
/** The full step of a mark on tape, a sixteenth of an inch [common practice, no source]. */
export const MARK_STEP_MM = 25.4 / 16;
/** The full step of a level logger where nothing else is said [common practice, no source]. */
export const LOGGER_STEP_MM = 0.1;

type FloodEntry =
  | EntryOf<'flood-started'>
  | EntryOf<'flood-reading'>
  | EntryOf<'flood-event'>
  | EntryOf<'moisture-look'>
  | EntryOf<'flood-ended'>;

const floodAsked = (state: ShowerState) => (state.rules ? floodCheckOf(state.rules.method) : null);

/** Stages that must be there before water tests them: hold points below the flood that ask for more than a wait. */
function layersMissing(state: ShowerState, floodOrder: number): string[] {
  return state
    .rules!.method.stages.filter(
      (s) => s.order < floodOrder && s.holdPoint && s.checks.some((c) => ruleOf(c).isOfWork && c.severity !== 'note'),
    )
    .map((s) => s.key)
    .filter((key) => (state.stages.get(key)?.release ?? null) === null);
}

/** What the basin is tested by is void: it shows nothing any more, and the stage that rested on it goes back. */
export function voidFlood(state: ShowerState, voided: Voided): void {
  const test = state.flood;
  if (!test || test.voided) return;
  test.voided = voided;
  test.running = false;
  test.provedBelowMm = null;
  if (test.stage !== null) takeReleaseBack(state, test.stage, 'flood-voided', voided.entry);
}

/** True for a stage that the last flood tests, or the flood's own. */
export function isUnderFlood(state: ShowerState, stageKey: string): boolean {
  const orderOf = (key: string | null | undefined) => state.rules?.method.stages.find((s) => s.key === key)?.order;
  const [flood, order] = [orderOf(state.flood?.stage), orderOf(stageKey)];
  return flood !== undefined && order !== undefined && order <= flood;
}

/** Work on what a test stands on that was done when the water was in already, though it was written down before the test. */
function workedSince(state: ShowerState, startMs: number): Voided | null {
  const works = [...state.stages].flatMap(([key, s]) => (isUnderFlood(state, key) ? s.work : []));
  const late = works.find((e) => instantOf(state, e) >= startMs);
  return late ? { cause: 'work', entry: late.id, at: late.observedAt } : null;
}

function start(state: ShowerState, e: EntryOf<'flood-started'>): void {
  const found = floodAsked(state);
  if (!found && state.rules) {
    // Rules that ask for no flood have no stage that it could prove; one that stands is not replaced by it.
    state.orphans.push({ entry: e.id, why: 'rules-unknown' });
    return;
  }
  if (state.flood) state.earlierFloods.push(state.flood);
  if (found) beginStage(state, found.stage.key);
  const startMs = typedInstant(state, e, e.body.startedAt);
  const method = e.body.method ?? 'marks';
  state.flood = {
    entry: e.id,
    stage: found?.stage.key ?? null,
    startedAt: new Date(startMs).toISOString(),
    startMs,
    by: e.author.name,
    running: true,
    waterLineMm: e.body.waterLineMm,
    filledToMm: e.body.waterLineMm,
    plannedHours: Math.max(e.body.plannedHours, found?.check.plannedHours ?? 0),
    method,
    resolutionMm: e.body.resolutionMm ?? (method === 'marks' ? MARK_STEP_MM : LOGGER_STEP_MM),
    panResolutionMm: e.body.panResolutionMm ?? null,
    smallestLeakMmPerDay: found?.check.smallestLeakMmPerDay ?? null,
    prepared: e.body.prepared ?? [],
    levels: [],
    series: [],
    events: [],
    climate: [],
    looks: [],
    inputs: [e.id],
    end: null,
    voided: null,
    layersMissing: found ? layersMissing(state, found.stage.order) : [],
    provedBelowMm: null,
  };
  const late = workedSince(state, startMs);
  if (late) voidFlood(state, late);
}

const hoursSince = (test: FloodTest, ms: number): number => (ms - test.startMs) / MS_PER_HOUR;

function read(state: ShowerState, test: FloodTest, e: EntryOf<'flood-reading'>): void {
  const of = e.body.of ?? 'water';
  const { series } = e.body;
  if (series) {
    const first = hoursSince(test, Date.parse(series.startAt));
    test.series.push({
      entry: e.id,
      of,
      resolutionMm: e.body.resolutionMm ?? LOGGER_STEP_MM,
      file: series.file,
      hours: series.minutes.map((m) => first + m / 60),
      levelMm: series.levelMm,
      by: e.author.name,
    });
  } else {
    const atHours = hoursSince(test, typedInstant(state, e, e.body.readAt));
    test.levels.push({ entry: e.id, of, atHours, levelMm: e.body.levelMm, by: e.author.name });
  }
  test.waterLineMm = lowestRead(test);
}

/** Moisture found after a test had ended takes its verdict back. */
function wetAfterEnd(state: ShowerState, test: FloodTest, e: EntryOf<'moisture-look'>): void {
  if (!test.end || test.end.verdict === 'aborted' || test.end.verdict === 'fail') return;
  test.end = { ...test.end, verdict: 'fail', figures: null };
  test.provedBelowMm = null;
  openLeak(state, test, e);
}

const isWet = (e: EntryOf<'moisture-look'>): boolean =>
  e.body.moment !== 'start' && (e.body.answer ?? (e.body.found ? 'wet' : 'dry')) === 'wet';

function onLook(state: ShowerState, test: FloodTest, e: EntryOf<'moisture-look'>): void {
  if (isWet(e)) wetAfterEnd(state, test, e);
  test.looks.push({
    entry: e.id,
    where: e.body.where,
    answer: e.body.answer ?? (e.body.found ? 'wet' : 'dry'),
    moment: e.body.moment ?? null,
    words: e.body.words ?? '',
    at: e.observedAt,
    atMs: instantOf(state, e),
    by: e.author.name,
  });
}

/** The test as its own readings and looks judge it by the rule book; null figures where nothing was read. */
function judgedFlood(
  state: ShowerState,
  test: FloodTest,
  check: FloodCheck,
): Pick<FloodEnd, 'verdict' | 'short' | 'figures'> {
  const input = verdictInput(test, check);
  const judged = input && judgedReadings(input);
  const short = state.geometry ? floodShortfalls(test, check, state.geometry.model, judged) : [];
  const figures: FloodFigures | null = judged && {
    netLossMmPerDay: judged.netLossMmPerDay,
    lowMmPerDay: judged.lowMmPerDay,
    highMmPerDay: judged.highMmPerDay,
    failBoundMmPerDay: judged.failBoundMmPerDay,
    reasons: judged.reasons,
  };
  return { verdict: wholeVerdict(judged, test.looks.some(isWetLook), short), short, figures };
}

/**
 * The end of a test. What its entry states is kept and never believed: the verdict that counts is worked out from the
 * readings. Broken off it says nothing, whoever states what.
 */
function endOf(state: ShowerState, test: FloodTest, check: FloodCheck | null, e: EntryOf<'flood-ended'>): FloodEnd {
  const { verdict: stated, words } = e.body;
  const isWet = test.looks.some(isWetLook);
  const judged =
    stated === 'aborted' && !isWet
      ? { verdict: 'aborted' as const, short: [], figures: null }
      : check && state.geometry
        ? judgedFlood(state, test, check)
        : // Rules that ask for no flood can not judge one; water that was seen below is a leak whatever they ask.
          { verdict: isWet ? ('fail' as const) : ('undecided' as const), short: [], figures: null };
  return {
    entry: e.id,
    at: e.observedAt,
    by: e.author.name,
    stated,
    calculation: e.body.calculation ?? null,
    words: words ?? '',
    ...judged,
  };
}

function end(state: ShowerState, test: FloodTest, e: EntryOf<'flood-ended'>): void {
  const found = floodAsked(state);
  test.running = false;
  test.waterLineMm = Math.min(test.waterLineMm, e.body.lowestLevelMm);
  test.end = endOf(state, test, found?.check ?? null, e);
  if (test.end.verdict === 'pass') {
    test.provedBelowMm = test.waterLineMm - FLOOD_MARGIN_MM;
    for (const d of state.defects.values())
      if (d.check === found?.check.id && d.closedAt === null) d.closedAt = e.observedAt;
  }
  if (test.end.verdict === 'fail') openLeak(state, test, e);
}

/** A leak is a defect of the flood's stage, and stops what lies above it, also where the rules that are pinned now ask for no flood. */
function openLeak(state: ShowerState, test: FloodTest, e: FloodEntry): void {
  const found = floodAsked(state);
  const stage = found?.stage.key ?? test.stage;
  if (stage === null) return;
  openDefect(state, e, {
    stage,
    check: found?.check.id ?? null,
    places: [{ element: WHOLE_SHOWER }],
    kind: found ? kindOfFailure(found.check) : null,
    severity: found?.check.severity ?? 'stop',
    words: '',
    photos: [],
    valueMm: null,
  });
}

/** A flood test as it runs: started, read, disturbed, looked at, ended. What comes without a running test is left out. */
export function onFlood(state: ShowerState, e: FloodEntry): void {
  if (e.kind === 'flood-started') return start(state, e);
  const test = state.flood;
  if (!test || test.voided || !(test.running || e.kind === 'moisture-look')) return;
  if (e.kind === 'flood-ended') return end(state, test, e);
  if (test.running) test.inputs.push(e.id);
  if (e.kind === 'flood-reading') read(state, test, e);
  else if (e.kind === 'moisture-look') onLook(state, test, e);
  else
    test.events.push({
      entry: e.id,
      kind: e.body.event,
      of: e.body.of ?? 'water',
      atHours: hoursSince(test, typedInstant(state, e, e.body.at)),
      words: e.body.words ?? '',
    });
}

/** Air and water temperatures taken while the water stands belong to the test. */
export function onClimate(state: ShowerState, e: EntryOf<'climate-reading'>): void {
  const test = state.flood;
  if (!test?.running || e.body.waterC === undefined) return;
  const { waterC, airC, relativeHumidity } = e.body;
  test.climate.push({ entry: e.id, atHours: hoursSince(test, instantOf(state, e)), waterC, airC, relativeHumidity });
  test.inputs.push(e.id);
}
