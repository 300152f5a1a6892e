import { filmLimits, judgeShowerFilm } from '@careful-seam/core/checks/film';
import { showerHeadMm } from '@careful-seam/core/checks/raisedLimits';
import type { Because, Blocker, Judgement } from '@careful-seam/core/log/judgement';
import type { Check, CheckKind, CheckOf } from '@careful-seam/core/rules/checks/check';
import type { NumberCheck, NumberUnit } from '@careful-seam/core/rules/checks/figure';
import type { MeasuredCheck } from '@careful-seam/core/rules/checks/measured';
import type { PositionCheck } from '@careful-seam/core/rules/checks/position';
import type { SurveyCheck } from '@careful-seam/core/rules/checks/survey';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { showLength } from '@careful-seam/core/units/length';
import type { Words } from '../texts/language';
import { elementName, placesName } from '../texts/names';
import { filmLimitWords, filmSentence } from './filmWords';
import { momentWords } from './moments';

/** In what lengths are told. */
export type ShownUnit = 'in' | 'mm';

/** A single figure with its unit; lengths in the person's own. */
export function figureWords(t: Words, unit: NumberUnit, value: number, shown: ShownUnit): string {
  if (unit === 'mm') return showLength(value, shown, 32);
  return t(`figure.${unit}`, { value: Math.round(value * 100) / 100 });
}

/** The limit of a figure. */
function numberLimit(t: Words, check: NumberCheck, shown: ShownUnit): string {
  if (check.limit === null) return t('limit.none');
  const { atLeast, atMost } = check.limit;
  const say = (x: number | undefined) => (x === undefined ? '' : figureWords(t, check.unit, x, shown));
  if (atLeast !== undefined && atMost !== undefined)
    return t('limit.between', { least: say(atLeast), most: say(atMost) });
  return atLeast === undefined ? t('limit.atMost', { most: say(atMost) }) : t('limit.atLeast', { least: say(atLeast) });
}

/** How a figure came out. */
function numberSentence(t: Words, check: NumberCheck, j: Judgement, shown: ShownUnit): string {
  const limit = numberLimit(t, check, shown);
  if (j.number === null)
    return t(j.verdict === 'pass' ? 'sentence.notApplicable' : 'sentence.unseenMeasure', { check: check.label, limit });
  const value = figureWords(t, check.unit, j.number, shown);
  if (j.verdict === 'pass') return t('sentence.pass', { check: check.label, value });
  return t(j.verdict === 'fail' ? 'sentence.outside' : 'sentence.noLimit', { check: check.label, value, limit });
}

/** A fall in the person's unit: inches per foot, or percent. */
export function fallWords(t: Words, fall: number, unit: ShownUnit): string {
  return unit === 'in' ? t('perFoot', { value: (fall * 12).toFixed(2) }) : `${(fall * 100).toFixed(1)} %`;
}

/** The limit of a survey. */
function surveyLimit(t: Words, { measures }: SurveyCheck, unit: ShownUnit): string {
  if (measures.of === 'flat')
    return t('limit.flat', { gap: showLength(measures.gapMm, unit), edge: showLength(measures.straightedgeMm, unit) });
  const [least, most] = [measures.minFall, measures.maxFall].map((f) => fallWords(t, f, unit));
  return t('limit.falls', { least, most, pond: showLength(measures.pondMm, unit) });
}

/** The limit of a length. */
function measuredLimit(t: Words, { limit: { atLeastMm, atMostMm } }: MeasuredCheck, unit: ShownUnit): string {
  const least = atLeastMm === undefined ? '' : showLength(atLeastMm, unit);
  const most = atMostMm === undefined ? '' : showLength(atMostMm, unit);
  if (least && most) return t('limit.between', { least, most });
  return least ? t('limit.atLeast', { least }) : t('limit.atMost', { most });
}

/** How a look came out. */
function lookedSentence(t: Words, j: Judgement): string {
  const check = j.requirement.check.label;
  if (j.verdict === 'pass') return t('sentence.passLook', { check });
  if (j.verdict === 'undecided') return t('sentence.needsApproval', { check });
  return t(j.verdict === 'fail' ? 'sentence.defectSeen' : 'sentence.unseenLook', { check });
}

/** A wait in words, in the site's own time. */
function waitSentence(t: Words, j: Judgement): string {
  const check = j.requirement.check.label;
  if (j.verdict === 'undecided' && j.readyAtMs === null) return t('sentence.wait.noEnd', { check });
  const at = j.readyAtMs === null ? '' : momentWords(j.readyAtMs, j.zone ?? undefined);
  return t(`sentence.wait.${j.verdict}`, { check, at });
}

/** What a length lacks. */
function undecidedSentence(t: Words, check: MeasuredCheck, j: Judgement, unit: ShownUnit): string {
  const { hasLength } = j.requirement;
  const count = t('sentence.readings', { count: j.readings.length });
  if (!hasLength && check.steps && j.readings.length >= check.pattern.readingsAtLeast)
    return t('sentence.figureFirst', {
      check: check.label,
      value: showLength(j.lowestMm ?? 0, unit),
      strict: showLength(Math.min(...check.steps.limits.map((s) => s.atMostMm)), unit),
      by: j.requirement.stage.checks.find((c) => c.id === check.steps!.by)?.label ?? check.steps.by,
    });
  if (!hasLength)
    return t('sentence.undecidedCount', { check: check.label, count, need: check.pattern.readingsAtLeast });
  if (j.nextAtMm === null) return t('sentence.undecidedLook', { check: check.label });
  return t('sentence.undecided', { check: check.label, count, at: showLength(j.nextAtMm, unit) });
}

/** How far a height stands over the highest shower head, in words; empty where there is none to compare with. */
function marginWords(t: Words, model: ShowerModel, check: MeasuredCheck, valueMm: number, unit: ShownUnit): string {
  if (check.comparedWith !== 'shower-head') return '';
  const headMm = showerHeadMm(model);
  if (headMm === null) return '';
  const marginMm = valueMm - headMm;
  const margin = showLength(Math.abs(marginMm), unit);
  return ` ${t(marginMm >= 0 ? 'sentence.overHead' : 'sentence.underHead', { margin })}`;
}

/** Why a limit stands higher on this drawing than in the rule book, in brackets after it; empty where it doesn't. */
export function raisedWords(t: Words, { raised }: Pick<Judgement['requirement'], 'raised'>): string {
  return raised ? ` (${t(`sentence.raised.${raised}`)})` : '';
}

/** How a length came out. */
function measuredSentence({ t, model, check, j, unit }: Spoken<MeasuredCheck>): string {
  const { element, hasLength } = j.requirement;
  const limit = measuredLimit(t, check, unit) + raisedWords(t, j.requirement);
  const seam = model.seams.find((s) => s.id === element);
  const end = t(seam && seam.highMm - seam.lowMm > seam.lengthMm * 0.7 ? 'sentence.lower' : 'sentence.left');
  switch (j.verdict) {
    case 'pass':
      return j.lowestMm === null
        ? t('sentence.notApplicable', { check: check.label })
        : t('sentence.pass', { check: check.label, value: showLength(j.lowestMm, unit) }) +
            marginWords(t, model, check, j.lowestMm, unit);
    case 'unseen':
      return t('sentence.unseenMeasure', { check: check.label, limit });
    case 'undecided':
      return undecidedSentence(t, check, j, unit);
    case 'fail': {
      const wrong = j.readings.find((r) => r.atMm === j.worstAtMm);
      if (!wrong) return t('sentence.defectSeen', { check: check.label });
      const value = showLength(wrong.valueMm!, unit);
      if (!hasLength)
        return (
          t('sentence.outside', { check: check.label, value, limit }) +
          marginWords(t, model, check, wrong.valueMm!, unit)
        );
      return t('sentence.short', {
        check: check.label.toLowerCase(),
        value,
        at: showLength(wrong.atMm, unit),
        end,
        limit,
      });
    }
  }
}

/** How a question of the trade was found. */
function positionSentence({ t, check, j }: Spoken<PositionCheck>): string {
  const found = j.verdict === 'fail' ? 'deviates' : 'found';
  const values = { check: check.label, position: j.position ?? '' };
  return t(j.position ? `sentence.position.${found}` : 'sentence.position.own', values);
}

/** What a judgement of one kind of check is spoken from. */
interface Spoken<C> {
  /** Words of the language that is spoken. */
  t: Words;
  /** The drawn shower, for the names of its parts. */
  model: ShowerModel;
  /** The check that was judged. */
  check: C;
  /** How it came out. */
  j: Judgement;
  /** In what lengths are told. */
  unit: ShownUnit;
}

/** What each kind of check says: its limit, empty where it has none in words, and what was found. A new kind does not compile until it speaks. */
const WORDS: {
  readonly [K in CheckKind]: {
    limit: (t: Words, check: CheckOf<K>, unit: ShownUnit) => string;
    found: (spoken: Spoken<CheckOf<K>>) => string;
  };
} = {
  measured: { limit: measuredLimit, found: measuredSentence },
  looked: { limit: () => '', found: ({ t, j }) => lookedSentence(t, j) },
  number: { limit: numberLimit, found: ({ t, check, j, unit }) => numberSentence(t, check, j, unit) },
  position: { limit: () => '', found: positionSentence },
  flood: { limit: () => '', found: ({ t, j }) => t(`sentence.flood.${j.verdict}`) },
  wait: { limit: () => '', found: ({ t, j }) => waitSentence(t, j) },
  survey: {
    limit: surveyLimit,
    found: ({ t, check, j, unit }) =>
      t(`sentence.survey.${j.verdict}`, { check: check.label, limit: surveyLimit(t, check, unit) }),
  },
  film: {
    limit: (t, check, unit) => filmLimitWords(t, filmLimits(check), unit),
    found: ({ t, model, check, j, unit }) =>
      filmSentence(t, judgeShowerFilm(model, check, j.readings), filmLimits(check), unit),
  },
};
/** What can be said of a kind of check. */
type WordsOf<C extends Check> = {
  /** Its limit; empty for none. */
  limit: (t: Words, check: C, unit: ShownUnit) => string;
  /** How it came out. */
  found: (s: Spoken<C>) => string;
};
/** What can be said of this check. */
const wordsOf = <C extends Check>(check: C): WordsOf<C> => WORDS[check.kind] as unknown as WordsOf<C>;

/** A limit in words, in the person's unit; empty for a check that is looked at. */
export const limitWords = (t: Words, check: Check, unit: ShownUnit): string => wordsOf(check).limit(t, check, unit);

/** A verdict as a sentence with its number and its reason. `upright` seams are measured from their lower end. */
export function verdictSentence(t: Words, model: ShowerModel, j: Judgement, unit: ShownUnit): string {
  const { check } = j.requirement;
  const answer = j.deviation?.decision;
  if (answer) return t('sentence.accepted', { check: check.label, by: answer.by, reason: answer.reason });
  if (j.waitsForManager) return t('sentence.waitsForManager', { check: check.label });
  return wordsOf(check).found({ t, model, check, j, unit });
}

/** A kind of defect in words; of one without a kind, its check. */
export function defectKindLabel(book: RuleBook, kind: string | null, check: string | null): string {
  const named = book.defectKinds.find((k) => k.id === kind)?.label;
  if (named) return named;
  const checks = book.methods.flatMap((m) => m.stages.flatMap((s) => s.checks));
  return checks.find((c) => c.id === check)?.label ?? '';
}

/** One thing that keeps a stage, in words, with its place. */
export function blockerSentence(
  t: Words,
  model: ShowerModel,
  book: RuleBook,
  blocker: Blocker,
  unit: ShownUnit,
): string {
  switch (blocker.kind) {
    case 'check':
      return verdictSentence(t, model, blocker.judgement, unit);
    case 'defect': {
      const where = placesName(t, model, blocker.defect.places, 3);
      return t('blocker.defect', { where, kind: defectKindLabel(book, blocker.defect.kind, blocker.defect.check) });
    }
    case 'deviation-pending':
      return t('blocker.deviationPending', { where: elementName(t, model, blocker.deviation.asked.place.element) });
    case 'lower-stage': {
      const stage = book.methods.flatMap((m) => m.stages).find((s) => s.key === blocker.lower)?.label ?? blocker.lower;
      return t('blocker.lowerStage', { stage });
    }
    case 'look-again':
      return t('blocker.lookAgain', { count: blocker.count });
  }
}

/** Why a stage that was released once is held or contested, in words; empty where there is nothing to tell. */
export function becauseSentence(t: Words, because: Because | null): string {
  return because ? t(`because.${because.cause}`) : '';
}

/** What today's calculation says of a check that a release passed by an older one. */
export function besideSentence(t: Words, model: ShowerModel, judgement: Judgement, unit: ShownUnit): string {
  return t('beside.line', { sentence: verdictSentence(t, model, judgement, unit) });
}
