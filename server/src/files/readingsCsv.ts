import { allEvidence, type ShowerState } from '@careful-seam/core/log/state';
import { lengthLimit } from '@careful-seam/core/rules/checks/check';
import { floodCheckOf } from '@careful-seam/core/rules/ruleBook';
import type { Language, Words } from '@careful-seam/words/texts/language';
import { elementName } from '@careful-seam/words/texts/names';
import { makeWords } from '@careful-seam/words/texts/words';
import { stringify } from 'csv-stringify/sync';

/** The columns, in their order; each has its heading in the reader's language. */
const COLUMNS = [
  'shower',
  'job',
  'stage',
  'check',
  'where',
  'side',
  'at',
  'value',
  'atLeast',
  'atMost',
  'counts',
  'by',
  'when',
] as const;

/** A moment so many hours after another, ISO 8601. */
const iso = (startMs: number, hours: number): string => new Date(startMs + hours * 3_600_000).toISOString();

/** Levels of all flood tests: read by hand and logged, of the water and of the pan. */
function floodRows(t: Words, state: ShowerState, shower: readonly string[]): unknown[][] {
  const tests = [...state.earlierFloods, ...(state.flood ? [state.flood] : [])];
  return tests.flatMap((test) => {
    const stage = state.rules && floodCheckOf(state.rules.method)?.stage.label;
    const row = (of: 'water' | 'pan', hours: number, levelMm: number, by: string, source: string) => [
      ...shower,
      stage ?? '',
      t(`csv.level.${of}`),
      source,
      '',
      '',
      levelMm,
      '',
      '',
      t('csv.does.counts'),
      by,
      iso(test.startMs, hours),
    ];
    return [
      ...test.levels.map((l) => row(l.of, l.atHours, l.levelMm, l.by, t('csv.mark'))),
      ...test.series.flatMap((s) => s.hours.map((h, i) => row(s.of, h, s.levelMm[i]!, s.by, s.file))),
    ];
  });
}

/** Every reading of a shower as CSV in a language, that opens in a spreadsheet; text that could be taken for a formula is escaped. */
export function readingsCsv(state: ShowerState, language: Language): string {
  const { t } = makeWords(language);
  const stages = new Map(state.rules?.method.stages.map((s) => [s.key, s.label] as const));
  const shower = [state.created?.body.name ?? '', state.created?.body.job ?? ''];
  const checks = new Map(state.rules?.method.stages.flatMap((s) => s.checks.map((c) => [c.id, c] as const)));
  const rows = allEvidence(state)
    .filter((e) => e.kind === 'reading')
    .map((e) => {
      const check = checks.get(e.check);
      const limit = check ? lengthLimit(check) : {};
      const where = state.geometry ? elementName(t, state.geometry.model, e.element) : e.element;
      const counts = t(`csv.does.${e.voided ? 'voided' : e.lookAgain ? 'lookAgain' : 'counts'}`);
      return [
        ...shower,
        stages.get(e.stage) ?? e.stage,
        check?.label ?? e.check,
        where,
        e.side ?? '',
        e.atMm,
        e.valueMm,
        limit.atLeastMm ?? '',
        limit.atMostMm ?? '',
        counts,
        e.author,
        e.observedAt,
      ];
    });
  return stringify([COLUMNS.map((column) => t(`csv.column.${column}`)), ...rows, ...floodRows(t, state, shower)], {
    escape_formulas: true,
  });
}
