import type { Requirement, Worst } from '../log/judgement';
import type { Evidence, ShowerState } from '../log/state';
import { lapVerdict, spokenStretches } from '../membrane/laps';
import { type Check, isOf } from '../rules/checks/check';
import type { MeasuredCheck } from '../rules/checks/measured';
import { clip, subtract, union } from '../shower/seams/intervals';
import type { Judge } from './checkJudge';
import { beyond, type Measured, SLACK_MM } from './found';
import { type Looked, live } from './looks';
import { stretchOn } from './place';

/** How far a value lies outside its limit, mm; below zero within it. */
export const beyondMm = ({ limit }: MeasuredCheck, valueMm: number): number =>
  beyond({ least: limit.atLeastMm, most: limit.atMostMm }, valueMm);

/** True when a measured value is outside the check's limit. */
export function outsideLimit(check: MeasuredCheck, valueMm: number): boolean {
  return beyondMm(check, valueMm) > SLACK_MM;
}

/** True for a value that fails the check it was read for; a check of another kind has no readings that could. */
export const readingFails = (check: Check, valueMm: number): check is MeasuredCheck =>
  isOf(check, 'measured') && outsideLimit(check, valueMm);

/** Whether enough was read, at the right places, and where the next reading is most useful. */
function patternOutcome(
  requirement: Requirement,
  check: MeasuredCheck,
  readings: readonly Evidence[],
  lookOnWhole: boolean,
) {
  if (!requirement.hasLength) {
    const enough = readings.length >= check.pattern.readingsAtLeast;
    return { complete: enough && (check.pattern.lookOnWhole ? lookOnWhole : true), nextAtMm: enough ? null : 0 };
  }
  const outcome = lapVerdict({
    lengthMm: requirement.lengthMm,
    limitMm: 0,
    readings: readings.map((r) => ({ atMm: Math.min(r.atMm, requirement.lengthMm), lapMm: r.valueMm! })),
    ...check.pattern,
    lookOnWhole: check.pattern.lookOnWhole ? lookOnWhole : undefined,
  });
  if (!outcome.ok) return { complete: false, nextAtMm: null };
  return { complete: outcome.value.verdict === 'pass', nextAtMm: outcome.value.nextAtMm };
}

/** A redone stretch shorter than this asks for a reading within as much, mm: nobody sets a tape finer. */
const LEAST_STRETCH_MM = 50;

/** The middle of a redone stretch that no reading was taken on since, or null. */
function unreadRedo(state: ShowerState, requirement: Requirement, readings: readonly Evidence[]): number | null {
  const seam = state.seamById.get(requirement.element);
  if (!seam) return null;
  for (const { place, stageOrder, seq } of state.redone.get(requirement.element) ?? []) {
    const stretch = stageOrder <= requirement.stage.order ? stretchOn(seam, place) : null;
    if (!stretch) continue;
    const middle = (stretch.fromMm + stretch.toMm) / 2;
    const half = Math.max(LEAST_STRETCH_MM, stretch.toMm - stretch.fromMm) / 2;
    if (!readings.some((r) => r.seq > seq && Math.abs(r.atMm - middle) <= half + SLACK_MM)) return middle;
  }
  return null;
}

/** How bad readings are in each direction that the check limits: higher is worse. */
function worstOf(check: MeasuredCheck, readings: readonly Evidence[]): Worst {
  if (readings.length === 0) return {};
  const values = readings.map((r) => r.valueMm!);
  return {
    ...(check.limit.atLeastMm === undefined ? {} : { low: -Math.min(...values) }),
    ...(check.limit.atMostMm === undefined ? {} : { high: Math.max(...values) }),
  };
}

/**
 * Judges measured readings: one outside the limit fails what it speaks for; a pass also needs the pattern that the check
 * asks for, and a reading since on every stretch built again.
 */
export function judgeReadings(
  state: ShowerState,
  requirement: Requirement,
  check: MeasuredCheck,
  readings: readonly Evidence[],
  looks: Pick<Looked, 'whole' | 'failed'>,
): Measured {
  const { lengthMm, hasLength } = requirement;
  const ats = readings.map((r) => r.atMm);
  const spoken = hasLength
    ? spokenStretches(ats, check.pattern.speaksForMm, lengthMm).map((s) => clip(s, lengthMm))
    : readings.map(() => ({ fromMm: 0, toMm: 1 }));
  const measured = readings.flatMap((r, i) => subtract([spoken[i]!], hasLength ? r.voids : []));
  const failedByReading = readings.flatMap((r, i) => (outsideLimit(check, r.valueMm!) ? [spoken[i]!] : []));
  const lowest = readings.reduce<Evidence | null>((low, r) => (low && low.valueMm! <= r.valueMm! ? low : r), null);
  const worst = readings.reduce<Evidence | null>(
    (bad, r) => (bad && beyondMm(check, bad.valueMm!) >= beyondMm(check, r.valueMm!) ? bad : r),
    null,
  );
  const isOut = worst !== null && outsideLimit(check, worst.valueMm!);
  const redoneAt = unreadRedo(state, requirement, readings);
  const pattern = patternOutcome(requirement, check, readings, looks.whole);
  const complete = pattern.complete && redoneAt === null;
  const failed = union([...failedByReading, ...looks.failed]);
  return {
    verdict: failed.length > 0 ? 'fail' : readings.length === 0 ? 'unseen' : complete ? 'pass' : 'undecided',
    lowestMm: lowest?.valueMm ?? null,
    worstAtMm: (isOut ? worst : lowest)?.atMm ?? null,
    worst: worstOf(check, readings),
    nextAtMm: redoneAt ?? pattern.nextAtMm,
    measured: union(measured),
    failed,
  };
}

/** The figure that a check's limit goes by, as it was last told of this element; null while it was not. */
function figureBy(state: ShowerState, { stage, check, element }: Requirement): number | null {
  if (!isOf(check, 'measured') || !check.steps) return null;
  const { by } = check.steps;
  const told = (state.evidence.get(element) ?? []).filter(
    (e) => live(e) && e.stage === stage.key && e.check === by && e.kind === 'look' && e.number !== null,
  );
  return told.at(-1)?.number ?? null;
}

/** A check with the limit of a figure: that of the highest step which the figure reaches, the strictest below all of them. */
function stepAt(check: MeasuredCheck, figure: number): MeasuredCheck {
  const steps = [...check.steps!.limits].sort((a, b) => a.from - b.from);
  const step = steps.filter((s) => s.from <= figure).at(-1) ?? steps[0]!;
  return { ...check, limit: { ...check.limit, atMostMm: step.atMostMm } };
}

/** The requirement with its limit by the figure that was told, where it goes by one. */
export function byFigure(state: ShowerState, requirement: Requirement): Requirement {
  const figure = figureBy(state, requirement);
  if (figure === null) return requirement;
  return { ...requirement, check: stepAt(requirement.check as MeasuredCheck, figure) };
}

/** A length at places: judged by the limit of its figure, by its pattern, and by looks over the whole. */
export const measuredJudge: Judge<MeasuredCheck> = {
  answeredBy: () => 'reading',
  judge: ({ state, requirement, readings, looked }) => {
    const { check } = requirement;
    const measured = judgeReadings(state, requirement, check, readings, looked);
    // While the figure that the limit goes by is not known, only what keeps the strictest limit passes.
    const open = measured.verdict === 'pass' && check.steps && figureBy(state, requirement) === null;
    const strict = open && judgeReadings(state, requirement, stepAt(check, -Infinity), readings, looked);
    return { measured: strict && strict.verdict !== 'pass' ? { ...measured, verdict: 'undecided' } : measured };
  },
  measuresPlaces: true,
  wantsLook: (check) => check.pattern.lookOnWhole === true,
  buildsOn: true,
};
