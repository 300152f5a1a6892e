import type { MeasuredCheck } from '../rules/ruleBook';
import { clip, subtract, union } from './intervals';
import { lapVerdict, spokenStretches } from './laps';
import { stretchOn } from './place';
import type { Evidence, Judgement, Requirement, ShowerState, Worst } from './state';

/** A reading typed as the limit meets it, whatever the last bit of the double says. */
export const SLACK_MM = 1e-6;

/** How far a value lies beyond a limit, in the limit's unit; 0 when it keeps it. */
export function beyond(limit: { least?: number | undefined; most?: number | undefined }, value: number): number {
  return Math.max(0, (limit.least ?? -Infinity) - value, value - (limit.most ?? Infinity));
}

const beyondMm = ({ limit }: MeasuredCheck, valueMm: number): number =>
  beyond({ least: limit.atLeastMm, most: limit.atMostMm }, valueMm);

/** True when a measured value is outside the check's limit. */
export function outsideLimit(check: MeasuredCheck, valueMm: number): boolean {
  return beyondMm(check, valueMm) > SLACK_MM;
}

/** What a requirement's evidence comes to by its kind of check. */
export type Measured = Pick<
  Judgement,
  'verdict' | 'lowestMm' | 'worstAtMm' | 'worst' | 'nextAtMm' | 'measured' | 'failed'
>;

/** The same of a check that has no places along its element. */
export const plain = (verdict: Measured['verdict'], worst: Worst = {}): Measured => ({
  verdict,
  lowestMm: null,
  worstAtMm: null,
  worst,
  nextAtMm: null,
  measured: [],
  failed: [],
});

interface Looked {
  whole: boolean;
  failed: Measured['failed'];
}

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
  looks: Looked,
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
