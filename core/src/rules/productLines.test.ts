import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changesFor, compareBooks } from '../proof/shown/compareBooks';
import { begun, fold } from '../tests/sampleTablet';
import { checkBook } from './checkBook';
import type { Check } from './checks/check';
import { combineMethods, linesOf } from './combineMethods';
import { defaultRuleBook } from './defaultRuleBook';
import { filmFault } from './filmFault';
import { mixedParts, TOGETHER } from './mixedParts';
import { ProductLine } from './productLine';
import type { RuleBook } from './ruleBook';

const line = (more: Partial<ProductLine>): ProductLine =>
  ProductLine.parse({
    id: 'a',
    name: 'A',
    maker: 'One',
    kind: 'membrane',
    methods: ['liquid'],
    readFrom: 'label',
    ...more,
  });
const film = line({
  id: 'film',
  figures: {
    wetUm: { least: 500, most: 900 },
    coats: { least: 3 },
    waterHours: { least: 30 },
    permeancePerm: { most: 0.2 },
  },
});
const withLines = (...lines: ProductLine[]): RuleBook => ({ ...defaultRuleBook(), productLines: lines });
const find = (book: RuleBook, pinned: Parameters<typeof combineMethods>[1], id: string): Check =>
  combineMethods(book, pinned, ['steam'])!
    .stages.flatMap((s) => s.checks)
    .find((c) => c.id === id)!;

describe('figures of a label', () => {
  it('stand for the rule book’s own where the shower uses the product', () => {
    const book = withLines(film);
    const pinned = { method: 'liquid', lines: ['film'] };
    const coats = (check: Check) => (check.kind === 'film' ? check.zones.map((z) => `${z.zone} ${z.coats}`) : []);
    expect(find(book, pinned, 'film')).toMatchObject({
      wetLeastUm: 500,
      wetMostUm: 900,
      dryLeastUm: null,
      source: 'Label of A (label)',
    });
    expect(coats(find(book, pinned, 'film'))).toContain('walls 3');
    expect(find(book, pinned, 'membrane-cure')).toMatchObject({ kind: 'wait', hours: 30 });
    expect(find(book, { method: 'liquid' }, 'film')).toMatchObject({ wetLeastUm: null, solidsPercent: null });
    expect(coats(find(book, { method: 'liquid' }, 'film'))).toEqual(
      expect.arrayContaining(['walls 2', 'lower-walls 3', 'corners 0']),
    );
  });
  it('that answer a check leave its limit alone', () => {
    const limit = (lines: string[]) => find(withLines(film), { method: 'liquid', lines }, 'permeance');
    expect(limit(['film'])).toEqual(limit([]));
  });
  it('reach only the parts that their method builds', () => {
    const book = withLines(
      line({ id: 'glue', kind: 'mortar', methods: ['bonded-sheet'], figures: { notchMm: { least: 12 } } }),
    );
    const pinned = { method: 'sealant-board', parts: { floor: 'bonded-sheet' }, lines: ['glue'] };
    const notch = (p: typeof pinned) =>
      combineMethods(book, p, [])!
        .stages.flatMap((s) => s.checks)
        .filter((c) => c.id.startsWith('notch'));
    expect(notch(pinned).map((c) => c.kind === 'measured' && c.limit.atLeastMm)).toContain(12);
    expect(
      notch({ ...pinned, parts: { floor: 'sealant-board' } }).every(
        (c) => c.kind !== 'measured' || c.limit.atLeastMm !== 12,
      ),
    ).toBe(true);
    expect(linesOf(book, { method: 'liquid', lines: ['glue', 'gone'] }).map((l) => l.id)).toEqual(['glue']);
  });
  it('changed in a later version are offered to a shower that uses the product, and to no other', () => {
    const t = begun();
    const state = fold(t.entries);
    const own = line({ id: 'own', methods: ['bonded-sheet'], kind: 'mortar', figures: { waterHours: { least: 48 } } });
    const later: RuleBook = { ...state.rules!.book, version: state.rules!.book.version + 1, productLines: [own] };
    for (const check of later.methods.flatMap((m) => m.stages.flatMap((s) => s.checks)))
      if (check.id === 'mortar-cure') check.fromLabel = { line: 'mortar', figure: 'waterHours' };
    const touched = (lines: string[]) => {
      const rules = { ...state.rules!, pinned: { ...state.rules!.pinned, lines } };
      return changesFor({ ...state, rules }, later).filter((d) => d.after!.kind === 'wait' && d.after!.hours === 48);
    };
    expect(touched(['own'])).toHaveLength(1);
    expect(touched([])).toHaveLength(0);
  });
});

describe('product lines in a book', () => {
  it('are compared by what was entered, changed or taken out', () => {
    const other = { ...film, name: 'B' };
    expect(compareBooks(withLines(), withLines(film)).lines).toEqual([{ before: null, after: film }]);
    expect(compareBooks(withLines(film), withLines(other)).lines).toEqual([{ before: film, after: other }]);
    expect(compareBooks(withLines(film), withLines(film)).lines).toEqual([]);
  });
  it.each([
    ['productLines.1.id', [film, film], 'line-id-taken'],
    ['productLines.0.methods', [line({ methods: ['magic'] })], 'line-method-unknown'],
    ['productLines.0.goesWith', [line({ goesWith: [{ line: 'gone', paper: 'x' }] })], 'line-partner-unknown'],
    [
      'productLines.0.figures.solidsPercent',
      [line({ figures: { solidsPercent: { least: 550 } } })],
      'line-solids-over-all',
    ],
    [
      'productLines.0.figures.dryUm',
      [
        line({
          figures: { dryUm: { least: 900 }, wetUm: { most: 500 }, coats: { least: 2 }, solidsPercent: { least: 50 } },
        }),
      ],
      'line-dry-over-wet',
    ],
    ['productLines.0.figures.wetUm', [{ ...film, figures: { wetUm: { least: 9, most: 3 } } }], 'rule-book-invalid'],
  ])('are refused at %s', (field, lines, code) => {
    const read = checkBook({ ...defaultRuleBook(), productLines: lines });
    expect(read).toMatchObject({ ok: false, problem: { field, code } });
  });
});

describe('parts of several makers', () => {
  const [a, b] = [line({ id: 'a' }), line({ id: 'b', maker: 'Two', kind: 'primer' })];
  const together = (...lines: ProductLine[]) => mixedParts(lines, ['liquid']).together;
  it('go together by one maker or by a paper, and are unproved without', () => {
    expect(together(a)).toBe('one-maker');
    expect(together(a, { ...b, maker: ' one ' })).toBe('one-maker');
    expect(together(a, b)).toBe('unproved');
    expect(together(a, { ...b, goesWith: [{ line: 'a', paper: 'letter' }] })).toBe('approved');
    expect(mixedParts([a, { ...b, goesWith: [{ line: 'a', paper: 'letter' }] }], ['liquid']).pairs[0]!.paper).toBe(
      'letter',
    );
  });
  it('lose a warranty that asks for its maker’s own, unless a paper says otherwise', () => {
    expect(together({ ...a, ownPartsOnly: true }, b)).toBe('warranty-lost');
    expect(together({ ...a, ownPartsOnly: true, goesWith: [{ line: 'b', paper: 'letter' }] }, b)).toBe('approved');
  });
  it('fail with the mortar that a label does not ask for, also by one maker', () => {
    const sheet = line({ id: 's', mortarKind: 'unmodified' });
    const bag = line({ id: 'm', kind: 'mortar', mortarKind: 'modified' });
    expect(together(sheet, bag)).toBe('wrong-mortar');
    expect(together(sheet, { ...bag, mortarKind: 'either' })).toBe('one-maker');
    expect(together(sheet, line({ id: 'x', mortarKind: 'modified' }))).toBe('one-maker');
  });
  it('are told when no method in use is theirs', () => {
    expect(mixedParts([a], ['ready-pan']).forNoMethod).toEqual([a]);
    expect(mixedParts([a], ['ready-pan', 'liquid']).forNoMethod).toEqual([]);
  });
  it('are as good as their worst pair, in any order', () => {
    const any = fc.record({ maker: fc.constantFrom('One', 'Two'), ownPartsOnly: fc.boolean() });
    fc.assert(
      fc.property(fc.array(any, { maxLength: 6 }), (many) => {
        const lines = many.map((m, i) => line({ ...m, id: `${i}` }));
        const { pairs, together: worst } = mixedParts(lines, ['liquid']);
        expect(pairs).toHaveLength((lines.length * (lines.length - 1)) / 2);
        expect(mixedParts([...lines].reverse(), ['liquid']).together).toBe(worst);
        for (const p of pairs) expect(TOGETHER.indexOf(p.together)).toBeLessThanOrEqual(TOGETHER.indexOf(worst));
      }),
    );
  });
});

describe('a label’s film figures', () => {
  const fault = (figures: ProductLine['figures']) => {
    const found = filmFault({ name: 'One', figures });
    return found.ok ? null : found.problem.field;
  };
  it('a thousand times off are asked about, and so is a share typed for a percentage', () => {
    expect(
      fault({ dryUm: { least: 560, most: 1100 }, wetUm: { least: 500 }, solidsPercent: { least: 55 } }),
    ).toBeNull();
    expect(fault({ dryUm: { least: 0.56 } })).toBe('dryUm');
    expect(fault({ dryUm: { least: 22, most: 560 } })).toBe('dryUm');
    expect(fault({ dryUm: { least: 560, most: 22_000 } })).toBe('dryUm');
    expect(fault({ wetUm: { most: 560_000 } })).toBe('wetUm');
    expect(fault({ wetUm: { least: 0 } })).toBe('wetUm');
    expect(fault({ solidsPercent: { least: 0.55 } })).toBe('solidsPercent');
    expect(fault({ solidsPercent: { least: 1.5 } })).toBeNull();
    const values = { line: 'One', um: 22 };
    expect(filmFault({ name: 'One', figures: { dryUm: { least: 22 } } })).toEqual({
      ok: false,
      problem: { code: 'line-film-too-thin', field: 'dryUm', values },
    });
  });
  it('more solids than all of it, or more dry than its coats leave, can’t be', () => {
    expect(fault({ solidsPercent: { most: 101 } })).toBe('solidsPercent');
    expect(fault({ solidsPercent: { most: 100 } })).toBeNull();
    const film = { wetUm: { most: 500 }, coats: { least: 2 }, solidsPercent: { most: 50 } };
    expect(fault({ ...film, dryUm: { least: 501 } })).toBeNull();
    expect(fault({ ...film, dryUm: { least: 502 } })).toBe('dryUm');
    expect(fault({ dryUm: { least: 900 }, wetUm: { most: 500 } })).toBeNull();
  });
});
