import type { AgreementLine } from '@careful-seam/contract/api/blind';
import type {
  CompareAnswer,
  CrewLine,
  HoldsAnswer,
  LookAnswer,
  MonthsAnswer,
  QuestionAsk,
  SlippedAnswer,
  WrongAnswer,
} from '@careful-seam/contract/api/crews';
import type { Words } from '../texts/language';
import { monthWords } from './moments';

/** Fewer defects than this in all say nothing of anybody [common practice, no source]. */
const LEAST = 5;

/** A figure as people of a language write it. */
export const figureIn = (language: string, value: number, digits = 1): string =>
  new Intl.NumberFormat(language, {
    maximumFractionDigits: digits,
    minimumFractionDigits: 0,
    // Nothing is less than zero that is written as zero.
    signDisplay: 'negative',
  }).format(value);

/** A share as a percentage without its sign; never 0 or 100 where it is not. */
export function percentIn(language: string, share: number): string {
  const percent = share * 100;
  if (percent > 0 && percent < 1) return `< ${figureIn(language, 1)}`;
  return percent < 100 && percent > 99 ? `> ${figureIn(language, 99)}` : figureIn(language, percent, 0);
}

/** Money of a currency. */
export const moneyIn = (language: string, currency: string, value: number): string =>
  new Intl.NumberFormat(language, { style: 'currency', currency, maximumFractionDigits: 0 }).format(value);

/** A ratio: one digit more where it is small. */
const ratioIn = (language: string, ratio: number | null, t: Words): string =>
  ratio === null ? t('across.say.more') : figureIn(language, ratio, ratio < 1 ? 2 : 1);

/** Where a question was asked of; nothing for all. */
const atWords = (t: Words, group: QuestionAsk['group']): string =>
  group === '' ? '' : t('across.at.group', { group: t(`elementGroup.${group}`) });

/** How much was looked at. */
export const lookedWords = (t: Words, language: string, unit: CompareAnswer['unit'], exposure: number): string =>
  t(`across.looked.${unit}`, { amount: figureIn(language, exposure * 100, 0) });

/** How a crew stands: a key of the words for it. */
export function crewVerdict(c: Pick<CrewLine, 'rate' | 'discovery' | 'side' | 'outside'>): string {
  if (c.rate === null) return 'nothing';
  if (c.discovery) return c.side === 'above' ? 'above' : 'below';
  return c.outside ? 'outside' : 'inside';
}

/** Is a crew really different? One sentence for each crew that may be named, else one for all. `own`: the reader sees one crew alone. */
export function compareSentences(
  t: Words,
  language: string,
  answer: CompareAnswer,
  group: QuestionAsk['group'],
  own = false,
): string[] {
  const at = atWords(t, group);
  const { firm, crews, compared, unit } = answer;
  const looked = lookedWords(t, language, unit, firm?.exposure ?? 0);
  if (!firm || firm.count < LEAST) return [t('across.say.compareLittle', { at, count: firm?.count ?? 0, looked })];
  const level = {
    rate: figureIn(language, firm.rate),
    low: figureIn(language, firm.low),
    high: figureIn(language, firm.high),
    unit: t(`across.unit.${unit}`),
  };
  const [mine] = crews;
  if (own) {
    if (!mine || mine.rate === null)
      return [t('across.say.compareLittle', { at, count: 0, looked: lookedWords(t, language, unit, 0) })];
    const verdict = mine.discovery ? (mine.side === 'above' ? 'ownAbove' : 'ownBelow') : 'ownInside';
    return [
      t('across.say.compareOwn', {
        ...level,
        at,
        own: figureIn(language, mine.rate),
        verdict: t(`across.say.${verdict}`),
      }),
    ];
  }
  if (compared < 2) return [t('across.say.compareOne', level)];
  const named = crews.filter((c) => c.discovery && c.ratio);
  if (named.length === 0) return [t('across.say.compareNone', { ...level, at, count: compared })];
  return named.map((c) =>
    t(c.side === 'above' ? 'across.say.compareAbove' : 'across.say.compareBelow', {
      crew: c.name,
      at,
      ratio: ratioIn(language, c.ratio!.ratio, t),
      low: ratioIn(language, c.ratio!.low, t),
      high: ratioIn(language, c.ratio!.high, t),
    }),
  );
}

/** What goes wrong, by how often or by what it costs. */
export function wrongSentence(t: Words, language: string, answer: WrongAnswer, by: 'count' | 'cost'): string {
  const [most] = answer.lines;
  if (!most) return t('across.say.wrongNone');
  if (by === 'count')
    return t('across.say.wrongCount', {
      name: most.name,
      share: percentIn(language, most.share),
      total: answer.total,
      low: percentIn(language, most.low),
      high: percentIn(language, most.high),
    });
  if (answer.hourRate === null) return t('across.say.noRate');
  const money = (value: number) => moneyIn(language, answer.currency, value);
  const dearest = answer.lines.reduce((a, b) => ((b.cost ?? 0) > (a.cost ?? 0) ? b : a));
  const all = answer.lines.reduce((sum, l) => sum + (l.cost ?? 0), 0);
  return t('across.say.wrongCost', { name: dearest.name, cost: money(dearest.cost ?? 0), all: money(all) });
}

/** Where it slipped through. */
export function slippedSentence(t: Words, language: string, { escaped, total }: SlippedAnswer): string {
  if (!escaped) return t('across.say.slippedNone');
  return t('across.say.slipped', {
    share: percentIn(language, escaped.share),
    total,
    low: percentIn(language, escaped.low),
    high: percentIn(language, escaped.high),
  });
}

/** Whether a month stands out; every one that does, the newest first. */
export function monthSentences(t: Words, language: string, answer: MonthsAnswer): string[] {
  if (answer.centre === null) return [t('across.say.monthLittle')];
  const unit = t(`across.unit.${answer.unit}`);
  const beyond = answer.months
    .filter((m) => m.signal === 'beyond')
    .reverse()
    .map((m) =>
      t(m.rate! > answer.centre! ? 'across.say.monthAbove' : 'across.say.monthBelow', {
        month: monthWords(m.month, language),
        rate: figureIn(language, m.rate!),
        low: figureIn(language, m.low!),
        high: figureIn(language, m.high!),
        unit,
      }),
    );
  const run = answer.months.filter((m) => m.signal === 'run').at(-1);
  const said = [...beyond, ...(run ? [t('across.say.monthRun', { month: monthWords(run.month, language) })] : [])];
  return said.length > 0 ? said : [t('across.say.monthNone', { rate: figureIn(language, answer.centre), unit })];
}

/** What came of a change, and what such a comparison can not tell. */
export function changeSentences(t: Words, language: string, { change, marks }: MonthsAnswer, asked: string): string[] {
  const mark = marks.find((m) => m.id === asked)?.words;
  if (mark === undefined) return [];
  if (!change) return [t('across.say.changeNone', { mark })];
  const { ratio, low, high, warning } = change;
  const verdict = high !== null && high < 1 ? 'changeBetter' : low > 1 ? 'changeWorse' : 'changeUnsure';
  const said = t(`across.say.${verdict}`, {
    mark,
    ratio: ratioIn(language, ratio, t),
    low: ratioIn(language, low, t),
    high: ratioIn(language, high, t),
  });
  if (warning === 'regression-to-the-mean') return [said, t('across.say.regression')];
  return warning === 'too-little' ? [said, t('across.say.few')] : [said];
}

/** How long holds stand. */
export function holdsSentence(t: Words, language: string, { all }: HoldsAnswer): string {
  if (!all) return t('across.say.holdsNone');
  if (all.medianDays === null) return t('across.say.holdsMost', { count: all.count });
  const days = (value: number | null) => (value === null ? t('across.say.never') : figureIn(language, value));
  return t('across.say.holds', {
    days: days(all.medianDays),
    low: days(all.lowDays),
    high: days(all.highDays),
    open: all.open,
    count: all.count,
  });
}

/** Where to look harder. */
export function lookSentence(t: Words, language: string, answer: LookAnswer): string {
  const [most] = answer.cells;
  if (!most || answer.riskLeft === null) return t('across.say.lookNone');
  return t('across.say.look', {
    group: t(`elementGroup.${most.group}`),
    crew: most.name,
    measured: percentIn(language, most.measured),
    readings: answer.cells.reduce((n, c) => n + c.readings, 0),
    risk: percentIn(language, answer.riskLeft),
  });
}

/** Fewer places than this in all say nothing of how two see [common practice, no source]. */
const LEAST_PLACES = 10;

/** How far two see the same, in some words; what chance or a handful of places would give is not called agreement. */
export function agreementWords(t: Words, language: string, line: AgreementLine): string {
  const { places, same, kappa, low, high, sameAtLeast } = line;
  if (kappa === null || low === null || high === null) return t('across.say.kappaAlike');
  if (places < LEAST_PLACES) return t('across.say.kappaFew');
  // Where two never differed the interval has no width, however few the places were.
  if (same === places) return t('across.say.kappaAlways', { share: percentIn(language, sameAtLeast) });
  const two = (x: number) => figureIn(language, x, 2);
  return t('across.say.kappa', { kappa: two(kappa), low: two(low), high: two(high) });
}

/** Do inspectors see the same? */
export function eyesSentences(t: Words, language: string, all: AgreementLine): string[] {
  const { places, same, kappa, low } = all;
  if (places === 0) return [t('across.say.eyesNone')];
  const told = { places, same, kappa: agreementWords(t, language, all) };
  if (kappa === null || low === null) return [t('across.say.eyesAlike', told)];
  const little = places < LEAST_PLACES || low <= 0;
  const differ = places - same;
  return [
    t(little ? 'across.say.eyesLittle' : 'across.say.eyes', told),
    ...(differ > 0 ? [t('across.say.eyesDiffer', { count: differ })] : []),
  ];
}
