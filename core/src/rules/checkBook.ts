import { issueValues } from '../outcome/issueValues';
import { below, done, type Outcome, refuse } from '../outcome/outcome';
import { type Check, ruleOf } from './checks/check';
import type { Surroundings } from './checks/checkRule';
import { filmFault } from './filmFault';
import { RuleBook } from './ruleBook';

function checkOne(check: Check, within: Surroundings, field: string): Outcome<null> {
  const { label, defectKind } = check;
  if (defectKind !== undefined && !within.kinds.has(defectKind))
    return refuse('check-kind-missing', `${field}.defectKind`, { check: label, kind: defectKind });
  return below(field, ruleOf(check).fault(check, within));
}

function checkMethods(book: RuleBook): Outcome<null> {
  const questions = new Set(book.disagreements.map((d) => d.id));
  const kinds = new Set(book.defectKinds.map((k) => k.id));
  for (const [m, method] of book.methods.entries()) {
    const stages = new Set(method.stages.map((s) => s.key));
    if (stages.size !== method.stages.length)
      return refuse('stage-twice', `methods.${m}.stages`, { method: method.label });
    for (const [s, stage] of method.stages.entries()) {
      const seen = new Set<string>();
      for (const [c, check] of stage.checks.entries()) {
        const field = `methods.${m}.stages.${s}.checks.${c}`;
        if (seen.has(check.id))
          return refuse('check-twice', `${field}.id`, { check: check.id, stage: stage.label, method: method.label });
        seen.add(check.id);
        const fine = checkOne(check, { stages, questions, kinds }, field);
        if (!fine.ok) return fine;
      }
    }
  }
  return done(null);
}

function checkChoices(book: RuleBook): Outcome<null> {
  for (const [id, position] of Object.entries(book.choices)) {
    const question = book.disagreements.find((d) => d.id === id);
    if (!question) return refuse('question-unknown', `choices.${id}`, { question: id });
    if (!question.positions.some((p) => p.key === position))
      return refuse('position-unknown', `choices.${id}`, {
        question: question.question,
        position,
        positions: question.positions.map((p) => p.key).join(', '),
      });
  }
  const without = book.disagreements.findIndex((d) => !d.positions.some((p) => p.effect === 'accept'));
  if (without < 0) return done(null);
  return refuse('no-position-accepted', `disagreements.${without}`, {
    question: book.disagreements[without]!.question,
  });
}

function checkLines(book: RuleBook): Outcome<null> {
  const ids = book.productLines.map((l) => l.id);
  const methods = new Set(book.methods.map((m) => m.key));
  for (const [i, line] of book.productLines.entries()) {
    const field = `productLines.${i}`;
    if (ids.indexOf(line.id) !== i) return refuse('line-id-taken', `${field}.id`, { line: line.name });
    const unknown = line.methods.find((m) => !methods.has(m));
    if (unknown) return refuse('line-method-unknown', `${field}.methods`, { line: line.name, method: unknown });
    const film = below(`${field}.figures`, filmFault(line));
    if (!film.ok) return film;
    const missing = line.goesWith.find((g) => !ids.includes(g.line));
    if (missing) return refuse('line-partner-unknown', `${field}.goesWith`, { line: line.name, partner: missing.line });
  }
  return done(null);
}

/** A rule book from outside: its shape, then what the shape alone can't tell. The first fault with its place and a way out. */
export function checkBook(input: unknown): Outcome<RuleBook> {
  const read = RuleBook.safeParse(input);
  if (!read.success) {
    const issue = read.error.issues[0]!;
    const field = issue.path.join('.');
    return refuse('rule-book-invalid', field, issueValues(issue, field));
  }
  for (const step of [checkMethods, checkChoices, checkLines]) {
    const fine = step(read.data);
    if (!fine.ok) return fine;
  }
  return done(read.data);
}
