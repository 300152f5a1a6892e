import type { QuestionAsk } from '@careful-seam/contract/api/crews';
import type { DefectFilter } from '@careful-seam/contract/api/defects';
import { COUNTED_GROUPS } from '@careful-seam/core/crews/elementGroup';
import { ofCrew } from '../showers/showerRows';

/** A condition of a statement with the values that it names. */
export interface Where {
  /** Follows WHERE; TRUE where nothing is asked. */
  sql: string;
  /** In the order of their numbers. */
  values: unknown[];
}

/** Collects conditions, each with its value. */
export function conditions(values: unknown[] = []) {
  const parts: string[] = [];
  return {
    /** A condition in which `?` is the value; nothing where the value is empty. */
    add(sql: string, value: unknown): void {
      if (value === '' || value === null || value === undefined) return;
      values.push(value);
      parts.push(sql.replaceAll('?', `$${values.length}`));
    },
    /** A condition without a value. */
    always(sql: string): void {
      parts.push(sql);
    },
    where: (): Where => ({ sql: parts.length === 0 ? 'TRUE' : parts.join(' AND '), values }),
  };
}

/** The first day after a month such as 2026-04. */
const afterMonth = (month: string): string => {
  const [year, number] = month.split('-').map(Number) as [number, number];
  return new Date(Date.UTC(year, number, 1)).toISOString().slice(0, 10);
};

/** Words in which `%` and `_` mean themselves. */
const plain = (text: string): string => text.replaceAll(/[\\%_]/g, (c) => `\\${c}`);

/** The job of a defect: its shower's, or as an old table says. */
export const JOB = 'coalesce(f.old_job, s.job)';

/** Defects that a filter lets through; `f` is `known_defect`, `s` is its `shower`, if it has one. `onlyCrew`: whoever asks may see no other crew's. */
export function defectsWhere(filter: DefectFilter, onlyCrew: string | null): Where {
  const c = conditions();
  c.add('f.crew = ?', onlyCrew);
  c.add(`(s.id IS NULL OR ${ofCrew('?')})`, onlyCrew);
  c.add('f.crew = ?', filter.crew);
  c.add(`${JOB} = ?`, filter.job);
  c.add('f.stage_found = ?', filter.stage);
  c.add('f.stage_made = ?', filter.made);
  c.add('f.kind = ?', filter.kind);
  // Nobody said counts as not known: both are the same lack.
  if (filter.cause === 'unknown') c.always(`f.cause IN ('', 'unknown')`);
  else c.add('f.cause = ?', filter.cause);
  if (filter.escape === 'unknown') c.always(`f.escape IN ('', 'unknown')`);
  else c.add('f.escape = ?', filter.escape);
  c.add('f.severity = ?', filter.severity);
  if (filter.state === 'open') c.always("f.step <> 'closed'");
  else if (filter.state === 'closed') c.always("f.step = 'closed'");
  else c.add('f.step = ?', filter.state);
  c.add('f.found_on >= ?', filter.month && `${filter.month}-01`);
  c.add('f.found_on < ?', filter.month && afterMonth(filter.month));
  c.add('f.found_on >= ?', filter.from);
  c.add('f.found_on <= ?', filter.to);
  c.add('f.inspector = ?', filter.inspector);
  c.add('f.element_group = ?', filter.group);
  c.add('f.method = ?', filter.method);
  c.add(
    `(coalesce(f.old_shower, s.name) ILIKE ? OR ${JOB} ILIKE ? OR f.words ILIKE ?)`,
    filter.q.trim() && `%${plain(filter.q.trim())}%`,
  );
  return c.where();
}

/** What a question is asked of, as conditions on the defects and on what was looked at; the same values for both. */
export function questionWhere(ask: QuestionAsk): { defects: Where; inspected: Where } {
  const both = [conditions(), conditions()] as const;
  const [defects, inspected] = both;
  for (const c of both) {
    c.add('f.element_group = ?', ask.group);
    c.add('f.method = ?', ask.method);
  }
  defects.add('f.stage_found = ?', ask.stage);
  inspected.add('f.stage = ?', ask.stage);
  defects.add('f.found_on >= ?', ask.from);
  inspected.add('f.day >= ?', ask.from);
  defects.add('f.found_on <= ?', ask.to);
  inspected.add('f.day <= ?', ask.to);
  return { defects: defects.where(), inspected: inspected.where() };
}

/** mm in 100 ft. */
const HUNDRED_FEET_MM = 30_480;

/** In what the work on a group is counted, and the SQL of that sum over `inspected_fact f`. */
export function exposureOf(group: QuestionAsk['group']): { unit: 'hundred-feet' | 'hundred'; sql: string } {
  return group !== '' && COUNTED_GROUPS.includes(group)
    ? { unit: 'hundred', sql: 'sum(f.points) / 100.0' }
    : { unit: 'hundred-feet', sql: `sum(f.mm) / ${HUNDRED_FEET_MM}.0` };
}

/** The conditions of one statement with those of another behind them, their values numbered on. */
export function numberedOn(where: Where, before: number): string {
  return where.sql.replaceAll(/\$(\d+)/g, (_, n: string) => `$${Number(n) + before}`);
}
