import {
  type CompareAnswer,
  HoldsAsk,
  type MonthReport,
  MonthsAsk,
  QuestionAsk,
  WrongAsk,
} from '@careful-seam/contract/api/crews';
import type { Person } from '@careful-seam/contract/api/messages';
import { ELEMENT_GROUPS } from '@careful-seam/core/crews/elementGroup';
import {
  compareSentences,
  crewVerdict,
  figureIn,
  holdsSentence,
  lookedWords,
  moneyIn,
  monthSentences,
  percentIn,
  slippedSentence,
  wrongSentence,
} from '@careful-seam/words/sentences/crewSentences';
import { monthWords } from '@careful-seam/words/sentences/moments';
import type { Language, Words } from '@careful-seam/words/texts/language';
import { makeWords } from '@careful-seam/words/texts/words';
import { DateTime } from 'luxon';
import type { DataSource } from 'typeorm';
import { countBehind } from '../facts/behind';
import { byMonth } from './byMonth';
import { compareCrews } from './compareCrews';
import { howLong } from './howLong';
import { type Names, namesIn } from './names';
import { slippedThrough } from './slippedThrough';
import { whatGoesWrong } from './whatGoesWrong';

/** One question of the report. */
type Section = MonthReport['sections'][number];
/** What each section is made from. */
interface Making {
  store: DataSource;
  names: Names;
  t: Words;
  language: Language;
  /** The month, such as 2026-10. */
  month: string;
  /** Its first and its last day, ISO 8601. */
  from: string;
  to: string;
  now: Date;
}
/** The report is a manager's: it sees all crews. */
const MANAGER: Person = { id: '', name: '', role: 'manager', crewId: null };
/** Lines of a table. */
const LINES = 10;
/** Months that one month is held against. */
const MONTHS = 24;

/** The month before the one that a moment lies in, by the clock of a zone. */
export const monthBefore = (now: Date, zone: string): string =>
  DateTime.fromJSDate(now, { zone }).startOf('month').minus({ months: 1 }).toFormat('yyyy-MM');

/** What is open now. */
async function openNow({ store, t }: Making): Promise<Section> {
  const rows: { severity: string; n: number }[] = await store.query(
    'SELECT severity, count(*)::int AS n FROM defect_fact WHERE closed_at IS NULL GROUP BY 1',
  );
  const of = (severity: string) => rows.find((r) => r.severity === severity)?.n ?? 0;
  const [stop, fix, note] = [of('stop'), of('fix'), of('note')];
  return {
    question: t('across.question.open'),
    says: [t('across.report.openNow', { count: stop + fix + note, stop, fix, note })],
    heads: [],
    rows: [],
  };
}

/** Crews over a year: one month is too little to tell anybody apart. */
async function crews({ store, names, t, language, month, to }: Making): Promise<Section> {
  const from = DateTime.fromISO(`${month}-01`).minus({ months: 11 }).toISODate()!;
  const asked = async (group: (typeof ELEMENT_GROUPS)[number] | '') =>
    compareCrews(store, MANAGER, QuestionAsk.parse({ group, from, to }), names);
  const all = await asked('');
  const named: string[] = [];
  for (const group of ELEMENT_GROUPS) {
    const one: CompareAnswer = await asked(group);
    if (one.crews.some((c) => c.discovery && c.ratio)) named.push(...compareSentences(t, language, one, group));
  }
  const whole = compareSentences(t, language, all, '');
  return {
    question: t('across.question.crews'),
    says: [...(named.length > 0 ? named : whole), t('across.report.year')],
    heads: [
      t('across.report.head.crew'),
      t('across.report.head.looked'),
      t('across.report.head.defects'),
      t('across.report.head.rate', { unit: t(`across.unit.${all.unit}`) }),
      t('across.report.head.says'),
    ],
    rows: all.crews.map((c) => [
      c.name,
      lookedWords(t, language, all.unit, c.exposure),
      c.count,
      c.rate === null ? '' : figureIn(language, c.rate),
      t(`across.verdict.${crewVerdict(c)}`),
    ]),
  };
}

/** Kinds of the month, and what they cost. */
async function kinds({ store, names, t, language, from, to }: Making): Promise<Section> {
  const found = await whatGoesWrong(store, WrongAsk.parse({ from, to }), names, t);
  return {
    question: t('across.question.wrong'),
    says: [
      wrongSentence(t, language, found, 'count'),
      ...(found.total > 0 ? [wrongSentence(t, language, found, 'cost')] : []),
    ],
    heads: ['kind', 'defects', 'share', 'hours', 'cost'].map((key) => t(`across.report.head.${key}`)),
    rows: found.lines
      .slice(0, LINES)
      .map((l) => [
        l.name,
        l.count,
        percentIn(language, l.share),
        figureIn(language, l.hours),
        l.cost === null ? '' : moneyIn(language, found.currency, l.cost),
      ]),
  };
}

/** What of the month slipped through. */
async function slipped({ store, names, t, language, from, to }: Making): Promise<Section> {
  const found = await slippedThrough(store, QuestionAsk.parse({ from, to }), names);
  return {
    question: t('across.question.slipped'),
    says: [slippedSentence(t, language, found)],
    heads: ['kind', 'made', 'defects'].map((key) => t(`across.report.head.${key}`)),
    rows: found.slipped.slice(0, LINES).map((s) => [s.name, names.stage(s.made), s.count]),
  };
}

/** The month among those before it. */
async function months({ store, t, language, month, to }: Making): Promise<Section> {
  const from = DateTime.fromISO(`${month}-01`)
    .minus({ months: MONTHS - 1 })
    .toISODate()!;
  const found = await byMonth(store, MonthsAsk.parse({ from, to }));
  return {
    question: t('across.question.months'),
    says: monthSentences(t, language, found),
    heads: [
      t('across.report.head.month'),
      t('across.report.head.defects'),
      t('across.report.head.looked'),
      t('across.report.head.rate', { unit: t(`across.unit.${found.unit}`) }),
    ],
    rows: found.months
      .slice(-12)
      .map((m) => [
        monthWords(m.month, language),
        m.count,
        lookedWords(t, language, found.unit, m.exposure),
        m.rate === null ? '' : figureIn(language, m.rate),
      ]),
  };
}

/** How long holds of the month stood. */
async function holds({ store, names, t, language, from, to, now }: Making): Promise<Section> {
  const found = await howLong(store, HoldsAsk.parse({ from, to }), names, t, now);
  return { question: t('across.question.holds'), says: [holdsSentence(t, language, found)], heads: [], rows: [] };
}

/** How long looking took, from the entries' own times. */
async function minutes({ store, names, t, language, from, to }: Making): Promise<Section> {
  const rows: { stage: string; minutes: number; showers: number }[] = await store.query(
    `SELECT stage, sum(minutes)::float8 AS minutes, count(DISTINCT shower_id)::int AS showers FROM minutes_fact
    WHERE day BETWEEN $1 AND $2 GROUP BY 1 HAVING sum(minutes) >= 1 ORDER BY 2 DESC`,
    [from, to],
  );
  const all = rows.reduce((sum, r) => sum + r.minutes, 0);
  return {
    question: t('across.question.minutes'),
    says: [
      rows.length === 0
        ? t('across.say.minutesNone')
        : t('across.say.minutes', {
            hours: figureIn(language, all / 60),
            stage: rows[0]!.stage === '' ? '–' : names.stage(rows[0]!.stage),
          }),
    ],
    heads: ['stage', 'showers', 'minutes'].map((key) => t(`across.report.head.${key}`)),
    rows: rows
      .slice(0, LINES)
      .map((r) => [
        r.stage === '' ? '–' : names.stage(r.stage),
        r.showers,
        figureIn(language, r.minutes / r.showers, 0),
      ]),
  };
}

/** How a month was: each question with its answer in words, in a language. Days are those of the sites. */
export async function monthReport(
  store: DataSource,
  month: string,
  language: Language,
  now: Date,
): Promise<MonthReport> {
  const { t } = makeWords(language);
  const first = DateTime.fromISO(`${month}-01`);
  const making: Making = {
    store,
    names: await namesIn(store, language),
    t,
    language,
    month,
    from: first.toISODate()!,
    to: first.endOf('month').toISODate()!,
    now,
  };
  const sections: Section[] = [];
  for (const make of [openNow, months, crews, kinds, slipped, holds, minutes]) sections.push(await make(making));
  return {
    month,
    title: t('across.report.title', { month: monthWords(month, language) }),
    sections,
    fair: t('across.fair'),
    behind: await countBehind(store),
  };
}
