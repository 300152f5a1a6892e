import type { RuleBook, Stage } from '@careful-seam/core/rules/ruleBook';
import { translateBook } from '@careful-seam/core/rules/translateBook';
import { defectKindLabel } from '@careful-seam/words/sentences/sentences';
import type { Language } from '@careful-seam/words/texts/language';
import type { DataSource } from 'typeorm';
import { Refusal } from '../refusals/refusal';
import { loadRuleBooks } from '../showers/ruleBooks';
import { CrewEntity } from '../store/entities/people';

/** What crews, kinds, causes, escapes, stages and methods are called, in a language. */
export interface Names {
  /** The firm's newest rule book in that language. */
  book: RuleBook;
  /** Stages of all methods, each once, from the lowest up. */
  stages: readonly Stage[];
  /** All crews by their ids, also those that have left. */
  crews: ReadonlyMap<string, string>;
  /** Of a crew; its id where it is known no more. */
  crew: (id: string) => string;
  /** Of a kind, or of the check that found it where it has none. */
  kind: (id: string, check?: string) => string;
  /** Of a family of causes; that of "not known" where nobody said. */
  cause: (id: string) => string;
  /** Of a reason why nothing caught it. */
  escape: (id: string) => string;
  /** Of a stage. */
  stage: (key: string) => string;
}

/** A rule book in a language with its stages, worked out once. */
interface Spoken {
  book: RuleBook;
  stages: readonly Stage[];
}
/** By the book and the language. */
const spoken = new WeakMap<RuleBook, Map<Language, Spoken>>();

/** Stages of all methods, each once with the checks of all of them, from the lowest up. */
function stagesOf(book: RuleBook): Stage[] {
  const stages = new Map<string, Stage>();
  for (const method of book.methods)
    for (const stage of method.stages) {
      const known = stages.get(stage.key);
      const more = stage.checks.filter((c) => !known?.checks.some((k) => k.id === c.id));
      stages.set(stage.key, known ? { ...known, checks: [...known.checks, ...more] } : stage);
    }
  return [...stages.values()].sort((a, b) => a.order - b.order);
}

/** The firm's newest rule book as it is spoken. */
async function spokenBook(store: DataSource, language: Language): Promise<Spoken> {
  const [newest] = await store.query(
    `SELECT id, version FROM rule_book WHERE origin = '' ORDER BY version DESC LIMIT 1`,
  );
  const book = newest ? (await loadRuleBooks(store))('')(newest.id, newest.version) : null;
  if (!book) throw new Refusal('no-rule-book', 'ruleBook');
  const known = spoken.get(book) ?? new Map<Language, Spoken>();
  spoken.set(book, known);
  const told = translateBook(book, language);
  const found = known.get(language) ?? { book: told, stages: stagesOf(told) };
  known.set(language, found);
  return found;
}

/** Names in a language, by the firm's newest rule book. */
export async function namesIn(store: DataSource, language: Language): Promise<Names> {
  const crews = new Map((await store.getRepository(CrewEntity).find()).map((c) => [c.id, c.name]));
  const { book, stages } = await spokenBook(store, language);
  const among = (list: readonly { id: string; label: string }[]) => {
    const labels = new Map(list.map((x) => [x.id, x.label]));
    return (id: string) => labels.get(id) ?? (id === '' ? (labels.get('unknown') ?? '') : id);
  };
  const stageLabels = new Map(stages.map((s) => [s.key, s.label]));
  return {
    book,
    stages,
    crews,
    crew: (id) => crews.get(id) ?? id,
    kind: (id, check = '') => defectKindLabel(book, id || null, check || null) || id || check,
    cause: among(book.causes),
    escape: among(book.escapes),
    stage: (key) => stageLabels.get(key) ?? key,
  };
}
