import { describe, expect, it } from 'vitest';
import { canonicalText } from '../log/chain';
import type { Ledger } from './memoryLedger';
import { begun, type Tablet } from './sampleTablet';

const texts = (t: Tablet): string[] => t.entries.map((e) => canonicalText(e));

/** The behaviour that every ledger has. `make` gives an empty one for the sample tablet's shower. */
export function ledgerSuite(name: string, make: () => Promise<Ledger>): void {
  describe(`the ledger ${name}`, () => {
    it('gives each entry its place, in the order that they came', async () => {
      const ledger = await make();
      const answer = await ledger.append(texts(begun()));
      expect([answer.taken.map((t) => t.ledgerSeq), answer.refused]).toEqual([[1, 2, 3], null]);
      expect((await ledger.after(1)).map((p) => p.ledgerSeq)).toEqual([2, 3]);
    });
    it('takes the same entry once and acknowledges it again with the same place', async () => {
      const ledger = await make();
      const t = texts(begun());
      const [first, again] = [await ledger.append(t), await ledger.append(t)];
      expect(again.taken.map((x) => x.ledgerHash)).toEqual(first.taken.map((x) => x.ledgerHash));
      expect(await ledger.after(0)).toHaveLength(3);
    });
    it('refuses other content under a known id, and changes nothing', async () => {
      const ledger = await make();
      const t = begun();
      await ledger.append(texts(t));
      const other = canonicalText({ ...t.entries[2]!, observedAt: '2020-01-01T00:00:00.000Z' });
      expect((await ledger.append([other])).refused?.code).toBe('id-taken');
      expect(await ledger.after(0)).toHaveLength(3);
    });
    it('refuses a chain with a gap, and goes on when the missing one comes', async () => {
      const ledger = await make();
      const t = texts(begun());
      const gap = await ledger.append([t[0]!, t[2]!]);
      expect([gap.taken.length, gap.refused?.code]).toEqual([1, 'chain-gap']);
      expect((await ledger.append(t)).refused).toBeNull();
      expect(await ledger.after(0)).toHaveLength(3);
    });
    it('refuses a fork: a second entry in the same place of a tablet', async () => {
      const ledger = await make();
      const t = begun();
      t.write('note', { words: 'one' });
      await ledger.append(texts(t));
      const twin = { ...t.entries[3]!, id: '99999999-9999-4999-8999-999999999999' };
      expect((await ledger.append([canonicalText(twin)])).refused?.code).toBe('chain-broken');
    });
  });
}
