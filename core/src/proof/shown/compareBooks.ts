import type { ShowerState } from '../../log/state';
import type { Check } from '../../rules/checks/check';
import { combineMethods, drawnVariants } from '../../rules/combineMethods';
import type { ProductLine } from '../../rules/productLine';
import { findMethod, type Method, type RuleBook } from '../../rules/ruleBook';

/** One check that two books ask differently. `before` or `after` is null where only one of them has it. */
export interface CheckDifference {
  method: string;
  /** Key of the stage. */
  stage: string;
  stageLabel: string;
  before: Check | null;
  after: Check | null;
}

/** A question that the firm answers otherwise; null: as the method. */
export interface ChoiceDifference {
  question: string;
  before: string | null;
  after: string | null;
}

/** A product line that was entered, changed or taken out. */
export interface LineDifference {
  before: ProductLine | null;
  after: ProductLine | null;
}

/** All that two books ask differently. */
export interface BookDifference {
  checks: CheckDifference[];
  choices: ChoiceDifference[];
  lines: LineDifference[];
  /** Kinds of defects, causes and escapes that are called otherwise, retired, merged or new, by their words now. */
  families: string[];
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Kinds, causes and escapes that are not as they were. */
function changedFamilies(before: RuleBook, after: RuleBook): string[] {
  return (['defectKinds', 'causes', 'escapes'] as const).flatMap((list) => {
    const was = new Map<string, unknown>(before[list].map((x) => [x.id, x]));
    const gone = before[list].filter((x) => !after[list].some((y) => y.id === x.id));
    return [...after[list].filter((x) => !same(was.get(x.id), x)), ...gone].map((x) => x.label);
  });
}

function differencesOf(before: Method | null, after: Method | null): CheckDifference[] {
  const stages = new Map([...(after?.stages ?? []), ...(before?.stages ?? [])].map((s) => [s.key, s]));
  return [...stages.values()].flatMap((stage) => {
    const of = (m: Method | null) => m?.stages.find((s) => s.key === stage.key)?.checks ?? [];
    const ids = [...new Set([...of(before), ...of(after)].map((c) => c.id))];
    return ids.flatMap((id) => {
      const pair = [of(before), of(after)].map((list) => list.find((c) => c.id === id) ?? null);
      const [was, is] = [pair[0]!, pair[1]!];
      const method = (after ?? before)!.key;
      return same(was, is) ? [] : [{ method, stage: stage.key, stageLabel: stage.label, before: was, after: is }];
    });
  });
}

/** What the second book asks otherwise than the first: checks by method and stage, the firm's own choices, and product lines. */
export function compareBooks(before: RuleBook, after: RuleBook): BookDifference {
  const methods = [...new Set([...before.methods, ...after.methods].map((m) => m.key))];
  const questions = [...new Set([...Object.keys(before.choices), ...Object.keys(after.choices)])];
  const lines = [...new Set([...before.productLines, ...after.productLines].map((l) => l.id))];
  return {
    checks: methods.flatMap((key) => differencesOf(findMethod(before, key), findMethod(after, key))),
    choices: questions
      .map((question) => ({
        question,
        before: before.choices[question] ?? null,
        after: after.choices[question] ?? null,
      }))
      .filter((c) => c.before !== c.after),
    lines: lines
      .map((id) => {
        const [was, is] = [before, after].map((book) => book.productLines.find((l) => l.id === id) ?? null);
        return { before: was!, after: is! };
      })
      .filter((l) => !same(l.before, l.after)),
    families: changedFamilies(before, after),
  };
}

/**
 * What a later book would change for one shower: differing checks of stages that are not released. Empty when nothing
 * does, when it is signed, or when it knows no such book: a shower that is built keeps the version it was judged by.
 */
export function changesFor(state: ShowerState, later: RuleBook): CheckDifference[] {
  const { rules, geometry } = state;
  if (!rules || !geometry || state.signed.length > 0) return [];
  if (later.id !== rules.book.id || later.version <= rules.book.version) return [];
  const variants = drawnVariants(geometry.model.geometry);
  const [now, then] = [rules.book, later].map((book) => combineMethods(book, rules.pinned, variants));
  if (!now || !then) return [];
  return differencesOf(now, then).filter((d) => state.stages.get(d.stage)?.word !== 'released');
}
