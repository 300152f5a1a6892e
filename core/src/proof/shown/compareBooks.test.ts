import { describe, expect, it } from 'vitest';
import type { Problem } from '../../outcome/outcome';
import { checkBook } from '../../rules/checkBook';
import type { Check } from '../../rules/checks/check';
import { defaultRuleBook } from '../../rules/defaultRuleBook';
import type { RuleBook } from '../../rules/ruleBook';
import { BOOK, begun, climb, fold } from '../../tests/sampleTablet';
import { changesFor, compareBooks } from './compareBooks';

/** The book with one check changed, as its next version. */
function changed(book: RuleBook, id: string, change: (check: Check) => Check): RuleBook {
  const next = structuredClone(book);
  next.version += 1;
  for (const stage of next.methods.flatMap((m) => m.stages))
    stage.checks = stage.checks.map((c) => (c.id === id ? change(c) : c));
  return next;
}
const wider = (book: RuleBook) =>
  changed(book, 'lap', (c) => (c.kind === 'measured' ? { ...c, limit: { atLeastMm: 63.5 } } : c));

describe('two versions of a rule book', () => {
  it('differ by exactly what was changed', () => {
    expect(compareBooks(BOOK, BOOK)).toEqual({ checks: [], choices: [], lines: [], families: [] });
    const { checks } = compareBooks(BOOK, wider(BOOK));
    expect(checks.map((d) => [d.method, d.stage, d.after!.id])).toEqual([['bonded-sheet', 'membrane', 'lap']]);
    const without = structuredClone(BOOK);
    without.methods[0]!.stages.find((s) => s.key === 'curb')!.checks.pop();
    const gone = compareBooks(BOOK, { ...without, choices: { A1: 'b' } });
    expect(gone.checks[0]).toMatchObject({ stage: 'curb', after: null });
    expect(gone.choices).toEqual([{ question: 'A1', before: null, after: 'b' }]);
    const [first, second, third, ...rest] = BOOK.causes;
    const causes = [
      { ...first!, retired: true },
      { ...second!, into: first!.id },
      ...rest,
      { id: 'own', label: 'Our own' },
    ];
    expect(compareBooks(BOOK, { ...BOOK, causes }).families).toEqual([
      first!.label,
      second!.label,
      'Our own',
      third!.label,
    ]);
  });
  it('a later one is offered to a shower only for stages that are not released', () => {
    const t = begun();
    const later = wider(BOOK);
    expect(changesFor(fold(t.entries), later).map((d) => d.after!.id)).toEqual(['lap']);
    expect(changesFor(fold(t.entries), BOOK)).toEqual([]);
    climb(t, 'drain-tie-in');
    expect(changesFor(fold(t.entries), later)).toEqual([]);
    expect(fold(t.entries).rules!.book.version).toBe(BOOK.version);
  });
});

describe('a rule book from outside', () => {
  const broken = (change: (book: RuleBook) => void): unknown => {
    const book = defaultRuleBook();
    change(book);
    return book;
  };
  const lap = (book: RuleBook) =>
    book.methods[0]!.stages.flatMap((s) => s.checks).find((c) => c.kind === 'measured')! as Extract<
      Check,
      { kind: 'measured' }
    >;
  it('passes as it ships', () => {
    expect(checkBook(defaultRuleBook()).ok).toBe(true);
  });
  it.each<[string, unknown, Partial<Problem>]>([
    ['no book', {}, { code: 'rule-book-invalid' }],
    [
      'a limit without a figure',
      broken((b) => Object.assign(lap(b), { limit: {} })),
      { values: { reason: 'limit-without-side' } },
    ],
    [
      'limits the wrong way round',
      broken((b) => Object.assign(lap(b), { limit: { atLeastMm: 9, atMostMm: 1 } })),
      { code: 'check-limits-reversed' },
    ],
    [
      'a check of an unknown kind',
      broken((b) => Object.assign(lap(b), { kind: 'guessed' })),
      { code: 'rule-book-invalid' },
    ],
    [
      'a figure without a unit',
      broken((b) => Object.assign(lap(b), { kind: 'number', unit: undefined })),
      { code: 'rule-book-invalid' },
    ],
    [
      'a check twice',
      broken((b) => b.methods[0]!.stages[4]!.checks.push(b.methods[0]!.stages[4]!.checks[0]!)),
      { code: 'check-twice' },
    ],
    [
      'a choice without a question',
      broken((b) => Object.assign(b.choices, { A99: 'a' })),
      { code: 'question-unknown', values: { question: 'A99' } },
    ],
    ['a position nobody holds', broken((b) => Object.assign(b.choices, { A1: 'z' })), { code: 'position-unknown' }],
    ['a question without its text', broken((b) => b.disagreements.splice(0, 1)), { values: { question: 'A1' } }],
    [
      'a wait for an unknown stage',
      broken((b) => {
        const wait = b.methods[0]!.stages.flatMap((s) => s.checks).find((c) => c.kind === 'wait')!;
        Object.assign(wait, { after: ['roof'] });
      }),
      { code: 'check-stage-missing' },
    ],
    [
      'a check that fails as a kind of defect that nobody knows',
      broken((b) => Object.assign(lap(b), { defectKind: 'crooked' })),
      { code: 'check-kind-missing', field: expect.stringMatching(/checks\.\d+\.defectKind$/) },
    ],
    [
      'a question that accepts nothing',
      broken((b) => {
        for (const p of b.disagreements[0]!.positions) p.effect = 'note';
      }),
      { code: 'no-position-accepted' },
    ],
  ])('is refused with %s, with its place and a way out', (_name, book, problem) => {
    const read = checkBook(book);
    if (read.ok) throw new Error('was read');
    expect(read.problem).toMatchObject(problem);
  });
});
