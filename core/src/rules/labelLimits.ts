import { type Check, ruleOf } from './checks/check';
import type { LabelRange, ProductLine } from './productLine';
import type { Method } from './ruleBook';

/** The line that a check of this method takes its figure from, with that figure; null when none states it. */
export function labelOf(
  check: Check,
  method: string,
  lines: readonly ProductLine[],
): { line: ProductLine; range: LabelRange } | null {
  const { fromLabel } = check;
  if (!fromLabel) return null;
  for (const line of lines) {
    const range = line.figures[fromLabel.figure];
    if (range && line.kind === fromLabel.line && line.methods.includes(method)) return { line, range };
  }
  return null;
}

/**
 * A method with the limits that the labels of the product lines in use state: the maker's written instructions overrule
 * the rule book's own figure. A figure that answers a check (a permeance) leaves the limit as it is.
 */
export function withLabels(method: Method, lines: readonly ProductLine[]): Method {
  if (lines.length === 0) return method;
  const labelled = (check: Check): Check => {
    const { fromLabel } = check;
    if (!fromLabel || fromLabel.figure === 'permeancePerm') return check;
    const rule = ruleOf(check);
    const line = rule.byWholeLabel
      ? lines.find((l) => l.kind === fromLabel.line && l.methods.includes(method.key))
      : labelOf(check, method.key, lines)?.line;
    if (!line) return check;
    const limited = rule.labelled(check, line, line.figures[fromLabel.figure]);
    return { ...limited, source: `Label of ${line.name} (${line.readFrom})` };
  };
  return { ...method, stages: method.stages.map((s) => ({ ...s, checks: s.checks.map(labelled) })) };
}
