import type { EntryOf } from '../entries/entry';
import { FLOOD_CALCULATION, floodVerdict } from '../flood/floodVerdict';
import { type FloodCheck, floodCheckOf } from '../rules/ruleBook';
import { type FloodEnd, type FloodTest, inputOf, lowestRead, verdictInput } from './floodTest';
import { openDefect } from './foldDefects';
import { WHOLE_SHOWER } from './requirements';
import { begin } from './stageState';
import type { ShowerState } from './state';
import { FLOOD_MARGIN_MM } from './waterProof';

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

const asked = (state: ShowerState) => (state.rules ? floodCheckOf(state.rules.method) : null);

function start(state: ShowerState, e: EntryOf<'flood-started'>): void {
  if (state.flood) state.earlierFloods.push(state.flood);
  const stage = asked(state)?.stage;
  if (stage) begin(state, stage.key);
  const startedAt = e.body.startedAt ?? e.observedAt;
  const method = e.body.method ?? 'marks';
  state.flood = {
    entry: e.id,
    startedAt,
    startMs: Date.parse(startedAt),
    by: e.author.name,
    running: true,
    waterLineMm: e.body.waterLineMm,
    filledToMm: e.body.waterLineMm,
    plannedHours: e.body.plannedHours,
    method,
    resolutionMm: e.body.resolutionMm ?? (method === 'marks' ? MARK_STEP_MM : LOGGER_STEP_MM),
    panResolutionMm: e.body.panResolutionMm ?? null,
    smallestLeakMmPerDay: e.body.smallestLeakMmPerDay ?? null,
    prepared: e.body.prepared ?? [],
    levels: [],
    series: [],
    events: [],
    climate: [],
    looks: [],
    inputs: [e.id],
    end: null,
    endedByRedo: false,
    provedBelowMm: null,
    voids: new Map(),
  };
}

const hoursSince = (test: FloodTest, at: string): number => (Date.parse(at) - test.startMs) / MS_PER_HOUR;

function read(test: FloodTest, e: EntryOf<'flood-reading'>): void {
  const of = e.body.of ?? 'water';
  const { series } = e.body;
  if (series) {
    const first = hoursSince(test, series.startAt);
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
    const atHours = hoursSince(test, e.body.readAt ?? e.observedAt);
    test.levels.push({ entry: e.id, of, atHours, levelMm: e.body.levelMm, by: e.author.name });
  }
  test.waterLineMm = lowestRead(test);
}

/** Moisture found after a test had ended takes its verdict back. */
function wetAfterEnd(state: ShowerState, test: FloodTest, e: EntryOf<'moisture-look'>): void {
  if (!test.end || test.end.verdict === 'aborted' || test.end.verdict === 'fail') return;
  test.end = { ...test.end, verdict: 'fail' };
  test.provedBelowMm = null;
  openLeak(state, e);
}

function onLook(state: ShowerState, test: FloodTest, e: EntryOf<'moisture-look'>): void {
  if (isWet(e)) wetAfterEnd(state, test, e);
  test.looks.push({
    entry: e.id,
    where: e.body.where,
    answer: e.body.answer ?? (e.body.found ? 'wet' : 'dry'),
    moment: e.body.moment ?? null,
    words: e.body.words ?? '',
    at: e.observedAt,
    by: e.author.name,
  });
}

const same = (a: readonly string[], b: readonly string[]): boolean =>
  a.length === b.length && new Set([...a, ...b]).size === a.length;

/** The verdict that counts: as stated when it was judged by just these entries, else judged anew by all there are. */
function endOf(test: FloodTest, check: FloodCheck | null, e: EntryOf<'flood-ended'>): FloodEnd {
  const { verdict: stated, inputs, figures, words } = e.body;
  const end: FloodEnd = {
    entry: e.id,
    at: e.observedAt,
    by: e.author.name,
    verdict: stated,
    stated,
    calculation: e.body.calculation ?? null,
    figures: figures ?? null,
    words: words ?? '',
  };
  if (stated === 'aborted' || inputs === undefined || same(inputs, test.inputs)) return end;
  const input = verdictInput(test, check?.places.map((p) => p.id) ?? []);
  const judged = input && floodVerdict(input);
  if (!judged?.ok) return { ...end, verdict: 'undecided' };
  const { verdict, netLossMmPerDay, lowMmPerDay, highMmPerDay, failBoundMmPerDay, reasons } = judged.value;
  return { ...end, verdict, figures: { netLossMmPerDay, lowMmPerDay, highMmPerDay, failBoundMmPerDay, reasons } };
}

/**
 * The verdict of an ended test computed again from its own entries, to hold against the stated one; null when there is
 * nothing to compare: broken off, of the first version, judged by another calculation, or already judged anew.
 */
export function judgedAnew(state: ShowerState, test: FloodTest): FloodEnd['verdict'] | null {
  const check = asked(state)?.check;
  if (!check || !test.end || test.end.stated === 'aborted' || test.end.calculation !== FLOOD_CALCULATION) return null;
  if (test.end.stated !== test.end.verdict) return null;
  const input = inputOf(test, check, true);
  const judged = input && floodVerdict(input);
  return judged?.ok ? judged.value.verdict : 'undecided';
}

function end(state: ShowerState, test: FloodTest, e: EntryOf<'flood-ended'>): void {
  const found = asked(state);
  test.running = false;
  test.waterLineMm = Math.min(test.waterLineMm, e.body.lowestLevelMm);
  test.end = endOf(test, found?.check ?? null, e);
  if (test.end.verdict === 'pass') {
    test.provedBelowMm = test.waterLineMm - FLOOD_MARGIN_MM;
    for (const d of state.defects.values())
      if (d.check === found?.check.id && d.closedAt === null) d.closedAt = e.observedAt;
  }
  if (test.end.verdict === 'fail') openLeak(state, e);
}

const isWet = (e: EntryOf<'moisture-look'>): boolean =>
  e.body.moment !== 'start' && (e.body.answer ?? (e.body.found ? 'wet' : 'dry')) === 'wet';

function openLeak(state: ShowerState, e: FloodEntry): void {
  const found = asked(state);
  if (!found) return;
  openDefect(state, e, {
    stage: found.stage.key,
    check: found.check.id,
    places: [{ element: WHOLE_SHOWER }],
    kind: null,
    severity: found.check.severity,
    words: '',
    photos: [],
    valueMm: null,
  });
}

/** A flood test as it runs: started, read, disturbed, looked at, ended. What comes without a running test is left out. */
export function onFlood(state: ShowerState, e: FloodEntry): void {
  if (e.kind === 'flood-started') return start(state, e);
  const test = state.flood;
  if (!test || !(test.running || (e.kind === 'moisture-look' && !test.endedByRedo))) return;
  if (e.kind === 'flood-ended') return end(state, test, e);
  if (test.running) test.inputs.push(e.id);
  if (e.kind === 'flood-reading') read(test, e);
  else if (e.kind === 'moisture-look') onLook(state, test, e);
  else
    test.events.push({
      entry: e.id,
      kind: e.body.event,
      of: e.body.of ?? 'water',
      atHours: hoursSince(test, e.body.at ?? e.observedAt),
      words: e.body.words ?? '',
    });
}

/** Air and water temperatures taken while the water stands belong to the test. */
export function onClimate(state: ShowerState, e: EntryOf<'climate-reading'>): void {
  const test = state.flood;
  if (!test?.running || e.body.waterC === undefined) return;
  const { waterC, airC, relativeHumidity } = e.body;
  test.climate.push({ entry: e.id, atHours: hoursSince(test, e.observedAt), waterC, airC, relativeHumidity });
  test.inputs.push(e.id);
}
