import type { LookAnswer } from '../entries/entry';
import { findDisagreement, positionEffect } from '../rules/positions';
import { floodCheckOf, type MeasuredCheck, type NumberCheck, type PositionCheck } from '../rules/ruleBook';
import { filmVerdict } from './filmOfShower';
import { surveyVerdict } from './floorSurvey';
import { clip, type Stretch, subtract, union } from './intervals';
import { floodCheckVerdict, judgeWait } from './judgeWater';
import { lapVerdict, spokenStretches } from './laps';
import type { Deviation, Evidence, Judgement, Requirement, ShowerState } from './state';

const SLACK_MM = 1e-6;

/** True when a measured value is outside the check's limit. */
export function outsideLimit(check: MeasuredCheck, valueMm: number): boolean {
  const { atLeastMm, atMostMm } = check.limit;
  if (atLeastMm !== undefined && valueMm < atLeastMm - SLACK_MM) return true;
  return atMostMm !== undefined && valueMm > atMostMm + SLACK_MM;
}

const live = (e: Evidence): boolean => !e.voided && !e.lookAgain;

/** Answers by stretch, the latest look winning where two overlap. */
function paintLooks(looks: readonly Evidence[]): Record<LookAnswer, Stretch[]> {
  const painted: Record<LookAnswer, Stretch[]> = { ok: [], defect: [], 'could-not-see': [], 'not-applicable': [] };
  let taken: Stretch[] = [];
  for (const look of [...looks].reverse()) {
    const here = subtract(subtract([look.stretch], look.voids), taken);
    painted[look.answer!].push(...here);
    taken = union([...taken, look.stretch]);
  }
  return painted;
}

function judgeLooks(requirement: Requirement, looks: readonly Evidence[]) {
  const painted = paintLooks(looks);
  const seen = union([...painted.ok, ...painted['not-applicable']]);
  const failed = union(painted.defect);
  const missing = subtract([{ fromMm: 0, toMm: requirement.lengthMm }], [...seen, ...failed]);
  return { seen, failed, missing, whole: missing.length === 0 && failed.length === 0, anyAnswer: looks.length > 0 };
}

function lookedVerdict(l: ReturnType<typeof judgeLooks>): Judgement['verdict'] {
  if (l.failed.length > 0) return 'fail';
  return l.missing.length > 0 ? 'unseen' : 'pass';
}

/** Not applicable over the whole element satisfies the check and stands in every record. */
function notApplicable(requirement: Requirement, looks: readonly Evidence[]): boolean {
  const painted = paintLooks(looks)['not-applicable'];
  return painted.length > 0 && subtract([{ fromMm: 0, toMm: requirement.lengthMm }], painted).length === 0;
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

type Measured = Pick<Judgement, 'verdict' | 'lowestMm' | 'worstAtMm' | 'nextAtMm' | 'measured' | 'failed'>;

/** The middle of a redone stretch that no reading was taken on since, or null. */
function unreadRedo(state: ShowerState, requirement: Requirement, readings: readonly Evidence[]): number | null {
  const stretch = (state.redone.get(requirement.element) ?? []).find(
    (s) => s.stageOrder <= requirement.stage.order && !readings.some((r) => r.atMm >= s.fromMm && r.atMm <= s.toMm),
  );
  return stretch ? Math.min((stretch.fromMm + stretch.toMm) / 2, requirement.lengthMm) : null;
}

function judgeReadings(
  state: ShowerState,
  requirement: Requirement,
  check: MeasuredCheck,
  readings: readonly Evidence[],
  looks: ReturnType<typeof judgeLooks>,
): Measured {
  const { lengthMm } = requirement;
  const wrong = readings.filter((r) => outsideLimit(check, r.valueMm!));
  const spoken = requirement.hasLength
    ? spokenStretches(
        readings.map((r) => r.atMm),
        check.pattern.speaksForMm,
        lengthMm,
      ).flatMap((s, i) => subtract([clip(s, lengthMm)], readings[i]!.voids))
    : readings.length > 0
      ? [{ fromMm: 0, toMm: 1 }]
      : [];
  const failedByReading = wrong.flatMap((r) =>
    requirement.hasLength
      ? [
          clip(
            { fromMm: r.atMm - check.pattern.speaksForMm / 2, toMm: r.atMm + check.pattern.speaksForMm / 2 },
            lengthMm,
          ),
        ]
      : [{ fromMm: 0, toMm: 1 }],
  );
  const lowest = readings.reduce<Evidence | null>(
    (low, r) => (low === null || r.valueMm! < low.valueMm! ? r : low),
    null,
  );
  const redoneAt = unreadRedo(state, requirement, readings);
  const pattern = patternOutcome(requirement, check, readings, looks.whole);
  const complete = pattern.complete && redoneAt === null;
  const failed = union([...failedByReading, ...looks.failed]);
  const verdict = failed.length > 0 ? 'fail' : readings.length === 0 ? 'unseen' : complete ? 'pass' : 'undecided';
  return {
    verdict,
    lowestMm: lowest?.valueMm ?? null,
    worstAtMm: (wrong[0] ?? lowest)?.atMm ?? null,
    nextAtMm: redoneAt ?? pattern.nextAtMm,
    measured: union(spoken),
    failed,
  };
}

function standingDeviation(
  state: ShowerState,
  requirement: Requirement,
  found: Pick<Judgement, 'verdict' | 'lowestMm'>,
): Deviation | null {
  for (const deviation of state.deviations.values()) {
    const { asked } = deviation;
    const same =
      asked.stage === requirement.stage.key &&
      asked.check === requirement.check.id &&
      asked.place.element === requirement.element &&
      (asked.place.side ?? null) === requirement.side;
    if (!same || deviation.ended || !deviation.decision?.accepted) continue;
    if (asked.geometryVersion !== state.geometry?.version || asked.ruleVersion !== state.rules?.book.version) continue;
    const worse =
      deviation.lowestMm !== null && found.lowestMm !== null && found.lowestMm < deviation.lowestMm - SLACK_MM;
    if (asked.verdict === found.verdict && !worse) return deviation;
  }
  return null;
}

/** The last look of a requirement that still stands, or null. */
const lastLook = (looks: readonly Evidence[]): Evidence | null => looks.at(-1) ?? null;

/** A figure inside its limit passes; without a limit nothing can be decided. */
function numberVerdict(check: NumberCheck, looks: readonly Evidence[]): Measured['verdict'] {
  const look = lastLook(looks);
  if (look === null || look.number === null) return look?.answer === 'defect' ? 'fail' : 'unseen';
  if (check.limit === null) return 'undecided';
  const { atLeast, atMost } = check.limit;
  const under = atLeast !== undefined && look.number < atLeast - SLACK_MM;
  const over = atMost !== undefined && look.number > atMost + SLACK_MM;
  return under || over ? 'fail' : 'pass';
}

/** Until somebody says otherwise the firm's own position is taken; one that deviates fails, and may be accepted. */
function positionVerdict(state: ShowerState, check: PositionCheck, looks: readonly Evidence[]): Measured['verdict'] {
  const { book, pinned } = state.rules!;
  const question = findDisagreement(book, check.disagreement);
  const found = lastLook(looks)?.position ?? null;
  if (!question || found === null) return 'pass';
  const effect = positionEffect(book, question, pinned.method, found);
  return effect === 'deviation' || effect === 'defect' ? 'fail' : 'pass';
}

function judgeByKind(
  state: ShowerState,
  requirement: Requirement,
  readings: readonly Evidence[],
  looks: readonly Evidence[],
  looked: ReturnType<typeof judgeLooks>,
): { measured: Measured; readyAtMs: number | null } {
  const { check, stage } = requirement;
  if (check.kind === 'measured')
    return { measured: judgeReadings(state, requirement, check, readings, looked), readyAtMs: null };
  const answer = (verdict: Measured['verdict']): Measured => ({
    verdict,
    lowestMm: null,
    worstAtMm: null,
    nextAtMm: null,
    measured: [],
    failed: check.kind === 'looked' ? looked.failed : [],
  });
  if (check.kind === 'looked') {
    const verdict = lookedVerdict(looked);
    return { measured: answer(verdict === 'pass' && check.needsApproval ? 'undecided' : verdict), readyAtMs: null };
  }
  if (check.kind === 'number') return { measured: answer(numberVerdict(check, looks)), readyAtMs: null };
  if (check.kind === 'position') return { measured: answer(positionVerdict(state, check, looks)), readyAtMs: null };
  if (check.kind === 'survey')
    return { measured: answer(surveyVerdict(state.geometry!.model, check, readings)), readyAtMs: null };
  if (check.kind === 'film')
    return { measured: answer(filmVerdict(state.geometry!.model, check, readings)), readyAtMs: null };
  if (check.kind === 'flood') return { measured: answer(floodCheckVerdict(state)), readyAtMs: null };
  const floodOrder = state.rules && floodCheckOf(state.rules.method)?.stage.order;
  const found = judgeWait(state, check, typeof floodOrder === 'number' && stage.order < floodOrder);
  return { measured: answer(found.verdict), readyAtMs: found.readyAtMs };
}

/** True for what nothing has to be shown of yet: a survey that nobody began and the rule book does not demand. */
export function isLeftOpen({ requirement: { check }, verdict }: Pick<Judgement, 'requirement' | 'verdict'>): boolean {
  return check.kind === 'survey' && !check.required && verdict === 'unseen';
}

/** The verdict on one requirement from the evidence that stands, with the stretches behind it. */
export function judge(state: ShowerState, requirement: Requirement): Judgement {
  const mine = (state.evidence.get(requirement.element) ?? []).filter(
    (e) =>
      live(e) &&
      e.stage === requirement.stage.key &&
      e.check === requirement.check.id &&
      (e.side === requirement.side || (e.kind === 'look' && e.side === null)),
  );
  const looks = mine.filter((e) => e.kind === 'look');
  const readings = mine.filter((e) => e.kind === 'reading');
  const looked = judgeLooks(requirement, looks);
  const { measured, readyAtMs } = judgeByKind(state, requirement, readings, looks, looked);
  const verdict = notApplicable(requirement, looks) ? 'pass' : measured.verdict;
  const deviation =
    verdict === 'pass' ? null : standingDeviation(state, requirement, { verdict, lowestMm: measured.lowestMm });
  return {
    requirement,
    ...measured,
    verdict,
    satisfied: verdict === 'pass' || deviation !== null,
    deviation,
    seen: looked.seen,
    missing: looked.missing,
    readings,
    number: lastLook(looks)?.number ?? null,
    position: lastLook(looks)?.position ?? null,
    readyAtMs,
  };
}

/** Judgements of a stage (or of all stages up to and with `order`). */
export function judgeStage(state: ShowerState, stageKey: string): Judgement[] {
  return state.requirements.filter((r) => r.stage.key === stageKey).map((r) => judge(state, r));
}
