import type { LabelRange, ProductLine } from './productLine';
import type { Check, FilmCheck, Method } from './ruleBook';

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

/** Every figure of a label that a film is judged by. Where it states coats, they are those of each zone that is coated. */
function filmLimited(check: FilmCheck, { figures }: ProductLine): FilmCheck {
  const { wetUm, dryUm, coats, solidsPercent, recoatHours } = figures;
  return {
    ...check,
    zones: check.zones.map((z) => (z.coats > 0 && coats?.least !== undefined ? { ...z, coats: coats.least } : z)),
    dryLeastUm: dryUm?.least ?? check.dryLeastUm,
    dryMostUm: dryUm?.most ?? check.dryMostUm,
    wetLeastUm: wetUm?.least ?? check.wetLeastUm,
    wetMostUm: wetUm?.most ?? check.wetMostUm,
    solidsPercent: solidsPercent?.least ?? solidsPercent?.most ?? check.solidsPercent,
    recoatHours: recoatHours?.least ?? check.recoatHours,
  };
}

function limited(check: Check, { least, most }: LabelRange): Check {
  if (check.kind === 'wait') return { ...check, hours: least ?? most ?? check.hours };
  if (check.kind === 'measured') {
    const limit = {
      ...(least === undefined ? {} : { atLeastMm: least }),
      ...(most === undefined ? {} : { atMostMm: most }),
    };
    return { ...check, limit };
  }
  if (check.kind !== 'number') return check;
  const limit = { ...(least === undefined ? {} : { atLeast: least }), ...(most === undefined ? {} : { atMost: most }) };
  return { ...check, limit };
}

/**
 * A method with the limits that the labels of the product lines in use state: the maker's written instructions overrule
 * the rule book's own figure. A figure that answers a check (a permeance) leaves the limit as it is.
 */
export function withLabels(method: Method, lines: readonly ProductLine[]): Method {
  if (lines.length === 0) return method;
  const labelled = (check: Check): Check => {
    if (check.kind === 'film') {
      const line = lines.find((l) => l.kind === check.fromLabel?.line && l.methods.includes(method.key));
      return line ? { ...filmLimited(check, line), source: `Label of ${line.name} (${line.readFrom})` } : check;
    }
    const label = labelOf(check, method.key, lines);
    if (!label || check.fromLabel?.figure === 'permeancePerm') return check;
    return { ...limited(check, label.range), source: `Label of ${label.line.name} (${label.line.readFrom})` };
  };
  return { ...method, stages: method.stages.map((s) => ({ ...s, checks: s.checks.map(labelled) })) };
}
