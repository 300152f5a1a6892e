import { BATCH_AT_MOST } from '@careful-seam/contract/api/sync';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emptyShower, type StoredShower } from './stored';
import { healingOf, type Known, planRound } from './syncPlan';

const id = fc.integer({ min: 0, max: 400 }).map((n) => `s${n}`);
const row = fc.record({
  visitOn: fc.constantFrom(null, '2026-11-28', '2026-12-01'),
  inspectorId: fc.constantFrom(null, 'me', 'other'),
  updatedAt: fc.constantFrom('2026-11-01T08:00:00.000Z', '2026-11-02T08:00:00.000Z'),
});
const shower = fc
  .tuple(id, fc.option(row))
  .map(([key, own]): StoredShower => ({ ...emptyShower(key), row: own as StoredShower['row'] }));
const known: fc.Arbitrary<Known> = fc.record({
  waiting: fc.uniqueArray(id, { maxLength: 12 }),
  behind: fc.uniqueArray(shower, { maxLength: 300, selector: (s) => s.id }),
  restored: fc.boolean(),
  epoch: fc.constantFrom(null, 'e1', 'e2'),
  newestBook: fc.option(fc.record({ id: fc.constant('book'), version: fc.integer({ min: 1, max: 3 }) })),
  book: fc.constantFrom(null, 'e1 book@1', 'e2 book@2'),
});

describe('the plan of a round', () => {
  it('sends each shower that waits once and fetches each that lags once, no more in one answer than may be asked', () => {
    fc.assert(
      fc.property(known, (have) => {
        const steps = planRound(have, 'me');
        expect(steps.flatMap((s) => (s.do === 'push' ? [s.shower] : [])).sort()).toEqual([...have.waiting].sort());
        const pulls = steps.flatMap((s) => (s.do === 'pull' ? [s.showers] : []));
        expect(pulls.flat().sort()).toEqual(have.behind.map((s) => s.id).sort());
        expect(pulls.every((p) => p.length > 0 && p.length <= BATCH_AT_MOST)).toBe(true);
      }),
    );
  });
  it('sends what was typed here before it fetches anything, after a restore what the server still has first', () => {
    fc.assert(
      fc.property(known, (have) => {
        const kinds = planRound(have, 'me').map((s) => s.do === 'push');
        const [first, last] = [kinds.indexOf(true), kinds.lastIndexOf(true)];
        if (first < 0) return;
        if (have.restored) expect(kinds.slice(first).every(Boolean)).toBe(true);
        else expect(last).toBe(have.waiting.length - 1);
      }),
    );
  });
  it('fetches the rule book where another one is here, or the same number of a server as it was before a restore', () => {
    const none: Known = { waiting: [], behind: [], restored: false, epoch: 'e1', newestBook: null, book: null };
    const books = (more: Partial<Known>) => planRound({ ...none, ...more }, 'me').filter((s) => s.do === 'book');
    const newestBook = { id: 'book', version: 4 };
    expect(books({ newestBook })).toEqual([{ do: 'book', version: 4, mark: 'e1 book@4' }]);
    expect(books({ newestBook, book: 'e1 book@4' })).toEqual([]);
    expect(books({ newestBook, book: 'e1 book@3' })).toHaveLength(1);
    expect(books({ newestBook, book: 'e1 book@4', epoch: 'e2' })).toHaveLength(1);
    expect(books({})).toEqual([]);
  });
  it('fetches first what is due by its day, then what this person looks at, then the newest', () => {
    const at = (key: string, own: object): StoredShower => ({
      ...emptyShower(key),
      row: { visitOn: null, inspectorId: null, updatedAt: '2026-11-01', ...own } as StoredShower['row'],
    });
    const behind = [
      emptyShower('never heard of'),
      at('older', {}),
      at('newer', { updatedAt: '2026-11-05' }),
      at('mine', { inspectorId: 'me' }),
      at('later', { visitOn: '2026-12-02' }),
      at('today', { visitOn: '2026-11-29' }),
    ];
    const [pull] = planRound({ waiting: [], behind, restored: false, epoch: null, newestBook: null, book: null }, 'me');
    expect(pull).toEqual({ do: 'pull', showers: ['today', 'later', 'mine', 'newer', 'older', 'never heard of'] });
  });
});

describe('what is healed', () => {
  const refused = (code: string | null, authorId = 'me', ledgerSeq: number | null = null) => ({
    authorId,
    ledgerSeq,
    refused: code === null ? null : { code, field: '', message: '' },
  });
  it('is a clock before a name before a chain, and nothing that a person must decide', () => {
    expect(healingOf([refused('chain-gap'), refused('clock-ahead')], 'me')).toBe('clock');
    expect(healingOf([refused('chain-broken'), refused('author-renamed')], 'me')).toBe('name');
    expect(healingOf([refused('chain-broken')], 'me')).toBe('chain');
    for (const code of ['role-may-not-write', 'constructor', null]) expect(healingOf([refused(code)], 'me')).toBeNull();
  });
  it("is one's own and not yet taken", () => {
    expect(healingOf([refused('clock-ahead', 'other'), refused('chain-gap', 'me', 7)], 'me')).toBeNull();
  });
});
