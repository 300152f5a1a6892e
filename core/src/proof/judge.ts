import type { LookAnswer } from '../entries/entry';
import { drawnVariants } from '../rules/combineMethods';
import { type BuiltAs, findDisagreement, positionEffect } from '../rules/positions';
import { floodCheckOf, type MeasuredCheck, type NumberCheck, type PositionCheck } from '../rules/ruleBook';
import { standingDeviation } from './deviations';
import { filmFound } from './filmOfShower';
import { surveyFound } from './floorSurvey';
import { type Stretch, subtract, union } from './intervals';
import { beyond, judgeReadings, type Measured, plain, SLACK_MM } from './judgeReadings';
import { floodFound, judgeWait } from './judgeWater';
import type { Evidence, Judgement, Requirement, ShowerState } from './state';

const live = (e: Evidence): boolean => !e.voided && !e.lookAgain;

/** Answers by stretch, the latest look winning where two overlap. What waits for a manager stands apart. */
function paintLooks(looks: readonly Evidence[]): Record<LookAnswer | 'waits', Stretch[]> {
  const painted: Record<LookAnswer | 'waits', Stretch[]> = {
    ok: [],
    defect: [],
    'could-not-see': [],
    'not-applicable': [],
    waits: [],
  };
  let taken: Stretch[] = [];
  for (const look of [...looks].reverse()) {
    const here = subtract(subtract([look.stretch], look.voids), taken);
    painted[look.waitsForManager ? 'waits' : look.answer!].push(...here);
    taken = union([...taken, look.stretch]);
  }
  return painted;
}

function judgeLooks({ lengthMm }: Requirement, looks: readonly Evidence[]) {
  const painted = paintLooks(looks);
  const whole = [{ fromMm: 0, toMm: lengthMm }];
  const seen = union([...painted.ok, ...painted['not-applicable']]);
  const failed = union(painted.defect);
  const missing = subtract(whole, [...seen, ...failed]);
  return {
    seen,
    failed,
    missing,
    whole: missing.length === 0 && failed.length === 0,
    /** Not applicable over the whole element satisfies the check and stands in every record. */
    notApplicable: looks.length > 0 && subtract(whole, painted['not-applicable']).length === 0,
    waits: painted.waits.length > 0,
    /** All that is missing is a manager's word. */
    onlyWaits: missing.length > 0 && subtract(missing, painted.waits).length === 0,
  };
}
type Looked = ReturnType<typeof judgeLooks>;

function lookedVerdict(l: Looked): Measured['verdict'] {
  if (l.failed.length > 0) return 'fail';
  return l.missing.length > 0 ? 'unseen' : 'pass';
}

/** The last look of a requirement that still stands, or null. */
const lastLook = (looks: readonly Evidence[]): Evidence | null => looks.at(-1) ?? null;

/** A figure inside its limit passes; without a limit nothing can be decided. */
function numberFound(check: NumberCheck, looks: readonly Evidence[]): Measured {
  const look = lastLook(looks);
  if (look === null || look.number === null) return plain(look?.answer === 'defect' ? 'fail' : 'unseen');
  if (check.limit === null) return plain('undecided');
  const { atLeast, atMost } = check.limit;
  const worst = {
    ...(atLeast === undefined ? {} : { low: -look.number }),
    ...(atMost === undefined ? {} : { high: look.number }),
  };
  return plain(beyond({ least: atLeast, most: atMost }, look.number) > SLACK_MM ? 'fail' : 'pass', worst);
}

/** How a shower is built: as it was drawn and as was said when its rules were pinned. */
export function builtAs({ rules, geometry }: Pick<ShowerState, 'rules' | 'geometry'>): BuiltAs {
  const { method, variants = [] } = rules!.pinned;
  return { method, variants: [...(geometry ? drawnVariants(geometry.model.geometry) : []), ...variants] };
}

/** Until somebody says otherwise the firm's own position is taken; one that deviates fails, and may be accepted. */
function positionFound(state: ShowerState, check: PositionCheck, looks: readonly Evidence[]): Measured {
  const { book } = state.rules!;
  const question = findDisagreement(book, check.disagreement);
  const found = lastLook(looks)?.position ?? null;
  if (!question || found === null) return plain('pass');
  const effect = positionEffect(book, question, builtAs(state), found);
  // Another position than the accepted one is another finding: each letter is a direction of its own.
  return plain(effect === 'deviation' || effect === 'defect' ? 'fail' : 'pass', { [found]: 1 });
}

/** The figure that a check's limit goes by, as it was last told of this element; null while it was not. */
function figureBy(state: ShowerState, { stage, check, element }: Requirement): number | null {
  if (check.kind !== 'measured' || !check.steps) return null;
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
function byFigure(state: ShowerState, requirement: Requirement): Requirement {
  const figure = figureBy(state, requirement);
  if (figure === null) return requirement;
  return { ...requirement, check: stepAt(requirement.check as MeasuredCheck, figure) };
}

function judgeByKind(
  state: ShowerState,
  requirement: Requirement,
  readings: readonly Evidence[],
  looks: readonly Evidence[],
  looked: Looked,
): { measured: Measured; readyAtMs: number | null } {
  const { check, stage } = requirement;
  const found = (measured: Measured) => ({ measured, readyAtMs: null });
  switch (check.kind) {
    case 'measured': {
      const measured = judgeReadings(state, requirement, check, readings, looked);
      // While the figure that the limit goes by is not known, only what keeps the strictest limit passes.
      const open = measured.verdict === 'pass' && check.steps && figureBy(state, requirement) === null;
      const strict = open && judgeReadings(state, requirement, stepAt(check, -Infinity), readings, looked);
      return found(strict && strict.verdict !== 'pass' ? { ...measured, verdict: 'undecided' } : measured);
    }
    case 'looked': {
      const verdict = lookedVerdict(looked);
      const settled = verdict === 'pass' && check.needsApproval ? 'undecided' : verdict;
      return found({ ...plain(settled), failed: looked.failed });
    }
    case 'number':
      return found(numberFound(check, looks));
    case 'position':
      return found(positionFound(state, check, looks));
    case 'survey':
      return found(surveyFound(state.geometry!.model, check, readings));
    case 'film':
      return found(filmFound(state.geometry!.model, check, readings));
    case 'flood':
      return found(floodFound(state));
    case 'wait': {
      const floodOrder = state.rules && floodCheckOf(state.rules.method)?.stage.order;
      const { verdict, readyAtMs } = judgeWait(
        state,
        check,
        typeof floodOrder === 'number' && stage.order < floodOrder,
      );
      return { measured: plain(verdict, { ready: readyAtMs ?? Infinity }), readyAtMs };
    }
  }
}

/** True for what nothing has to be shown of yet: a survey that nobody began and the rule book does not demand. */
export function isLeftOpen({ requirement: { check }, verdict }: Pick<Judgement, 'requirement' | 'verdict'>): boolean {
  return check.kind === 'survey' && !check.required && verdict === 'unseen';
}

/** What failed stays failed; else "not applicable" passes, or waits for a manager. */
function withNotApplicable(verdict: Measured['verdict'], looked: Looked): Measured['verdict'] {
  if (verdict === 'fail') return 'fail';
  if (looked.notApplicable) return 'pass';
  return looked.onlyWaits && looked.waits ? 'undecided' : verdict;
}

/** The verdict on one requirement from the evidence that stands, with the stretches behind it. */
export function judge(state: ShowerState, asked: Requirement): Judgement {
  const requirement = byFigure(state, asked);
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
  const verdict = withNotApplicable(measured.verdict, looked);
  const found = { ...measured, verdict, missing: looked.missing };
  const deviation = verdict === 'pass' ? null : standingDeviation(state, requirement, found);
  return {
    requirement,
    ...found,
    satisfied: verdict === 'pass' || deviation !== null,
    deviation,
    waitsForManager: verdict !== 'pass' && looked.waits,
    seen: looked.seen,
    readings,
    number: lastLook(looks)?.number ?? null,
    position: lastLook(looks)?.position ?? null,
    readyAtMs,
  };
}

/** Judgements of a stage. */
export function judgeStage(state: ShowerState, stageKey: string): Judgement[] {
  return state.requirements.filter((r) => r.stage.key === stageKey).map((r) => judge(state, r));
}
