import { done, type Outcome, refuse } from '../outcome/outcome';
import { type Check, ruleOf } from './checks/check';
import type { Surroundings } from './checks/checkRule';
import { filmFault } from './filmFault';
import { RuleBook } from './ruleBook';

const no = (field: string, message: string): Outcome<never> => refuse('rule-book-invalid', field, message);

function checkOne(check: Check, within: Surroundings, field: string): Outcome<null> {
  const fault = ruleOf(check).fault(check, within);
  return fault ? no(fault.field ? `${field}.${fault.field}` : field, fault.message) : done(null);
}

function checkMethods(book: RuleBook): Outcome<null> {
  const questions = new Set(book.disagreements.map((d) => d.id));
  for (const [m, method] of book.methods.entries()) {
    const stages = new Set(method.stages.map((s) => s.key));
    if (stages.size !== method.stages.length)
      return no(`methods.${m}.stages`, `"${method.label}" has a stage twice. Give each its own key.`);
    for (const [s, stage] of method.stages.entries()) {
      const seen = new Set<string>();
      for (const [c, check] of stage.checks.entries()) {
        const field = `methods.${m}.stages.${s}.checks.${c}`;
        if (seen.has(check.id))
          return no(
            `${field}.id`,
            `"${check.id}" stands twice in ${stage.label} of ${method.label}. Give each check its own id.`,
          );
        seen.add(check.id);
        const fine = checkOne(check, { stages, questions }, field);
        if (!fine.ok) return fine;
      }
    }
  }
  return done(null);
}

function checkChoices(book: RuleBook): Outcome<null> {
  for (const [id, position] of Object.entries(book.choices)) {
    const question = book.disagreements.find((d) => d.id === id);
    if (!question) return no(`choices.${id}`, `There is no question ${id} to choose in. Take the choice out.`);
    if (!question.positions.some((p) => p.key === position))
      return no(
        `choices.${id}`,
        `"${question.question}" has no position ${position}. Choose one of ${question.positions.map((p) => p.key).join(', ')}.`,
      );
  }
  const without = book.disagreements.findIndex((d) => !d.positions.some((p) => p.effect === 'accept'));
  if (without < 0) return done(null);
  return no(
    `disagreements.${without}`,
    `"${book.disagreements[without]!.question}" accepts no position. Accept at least one.`,
  );
}

function checkLines(book: RuleBook): Outcome<null> {
  const ids = book.productLines.map((l) => l.id);
  const methods = new Set(book.methods.map((m) => m.key));
  for (const [i, line] of book.productLines.entries()) {
    const field = `productLines.${i}`;
    if (ids.indexOf(line.id) !== i)
      return no(`${field}.id`, `"${line.name}" has the id of another product line. Give each its own.`);
    const unknown = line.methods.find((m) => !methods.has(m));
    if (unknown)
      return no(
        `${field}.methods`,
        `"${line.name}" names the method "${unknown}", which the book has not. Take it out.`,
      );
    const film = filmFault(line);
    if (film) return no(`${field}.figures.${film.figure}`, `"${line.name}": ${film.message}`);
    const missing = line.goesWith.find((g) => !ids.includes(g.line));
    if (missing)
      return no(
        `${field}.goesWith`,
        `"${line.name}" goes with "${missing.line}", which the book does not hold. Enter that line first.`,
      );
  }
  return done(null);
}

/** A rule book from outside: its shape, then what the shape alone can't tell. The first fault with its place and a way out. */
export function checkBook(input: unknown): Outcome<RuleBook> {
  const read = RuleBook.safeParse(input);
  if (!read.success) {
    const issue = read.error.issues[0]!;
    const field = issue.path.join('.');
    return no(
      field,
      `The rule book's field "${field || 'as a whole'}" is not valid: ${issue.message}. Put it right and read the file again.`,
    );
  }
  for (const step of [checkMethods, checkChoices, checkLines]) {
    const fine = step(read.data);
    if (!fine.ok) return fine;
  }
  return done(read.data);
}
