import { allEvidence, type ShowerState } from '@careful-seam/core/log/state';
import { elementName } from '@careful-seam/words/texts/names';
import { makeWords } from '@careful-seam/words/texts/words';
import { stringify } from 'csv-stringify/sync';

const HEAD = [
  'shower',
  'job',
  'stage',
  'check',
  'where',
  'side',
  'at_mm',
  'value_mm',
  'limit_at_least_mm',
  'limit_at_most_mm',
  'counts',
  'by',
  'at',
];

const iso = (startMs: number, hours: number): string => new Date(startMs + hours * 3_600_000).toISOString();

/** Levels of all flood tests: read by hand and logged, of the water and of the pan. */
function floodRows(state: ShowerState, shower: readonly string[]): unknown[][] {
  const tests = [...state.earlierFloods, ...(state.flood ? [state.flood] : [])];
  return tests.flatMap((test) => {
    const row = (of: string, hours: number, levelMm: number, by: string, source: string) => [
      ...shower,
      'flood-test',
      `level of the ${of}`,
      source,
      '',
      '',
      levelMm,
      '',
      '',
      'counts',
      by,
      iso(test.startMs, hours),
    ];
    return [
      ...test.levels.map((l) => row(l.of, l.atHours, l.levelMm, l.by, 'mark')),
      ...test.series.flatMap((s) => s.hours.map((h, i) => row(s.of, h, s.levelMm[i]!, s.by, s.file))),
    ];
  });
}

/** Every reading of a shower as CSV that opens in a spreadsheet; text that could be taken for a formula is escaped. */
export function readingsCsv(state: ShowerState): string {
  const { t } = makeWords('en');
  const shower = [state.created?.body.name ?? '', state.created?.body.job ?? ''];
  const checks = new Map(state.rules?.method.stages.flatMap((s) => s.checks.map((c) => [c.id, c] as const)));
  const rows = allEvidence(state)
    .filter((e) => e.kind === 'reading')
    .map((e) => {
      const check = checks.get(e.check);
      const limit = check?.kind === 'measured' ? check.limit : {};
      const where = state.geometry ? elementName(t, state.geometry.model, e.element) : e.element;
      const counts = e.voided ? 'redone since' : e.lookAgain ? 'look again' : 'counts';
      return [
        ...shower,
        e.stage,
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
  return stringify([HEAD, ...rows, ...floodRows(state, shower)], { escape_formulas: true });
}
