import 'fake-indexeddb/auto';
import type { Person } from '@careful-seam/contract/api/messages';
import type { EntryKind } from '@careful-seam/core/log/bodies';
import { ledgerHash, sha256Hex } from '@careful-seam/core/log/chain';
import type { Entry } from '@careful-seam/core/log/entry';
import { readText } from '@careful-seam/core/log/readText';
import fc from 'fast-check';
import { v4 } from 'uuid';
import { beforeEach, describe, expect, it } from 'vitest';
import { type Database, openDatabase } from './database';
import type { StoredDraft } from './drafts';
import { acknowledge, append, entriesOf, type Ports, takeIn, type Writing, waiting } from './outbox';
import { rechain } from './rechain';
import type { StoredEntry } from './stored';

const INES: Person = { id: 'p-ines', name: 'Ines', role: 'inspector', crewId: null };
const TOMAS: Person = { id: 'p-tomas', name: 'Tomas', role: 'inspector', crewId: null };
const SHOWER = v4();
let clock = 1_700_000_000_000;
const ports: Ports = { newId: v4, nowMs: () => clock, offsetMinutes: () => 60 };
let db: Database;
beforeEach(async () => {
  db = await openDatabase(`test-${v4()}`);
});

const note = (words: string, person = INES): Writing<EntryKind> => ({
  showerId: SHOWER,
  kind: 'note',
  body: { words },
  person,
  geometryVersion: 0,
});
const parsed = (e: StoredEntry) => JSON.parse(e.text) as Entry;
const pulled = (e: StoredEntry, ledgerSeq: number) => ({
  text: e.text,
  hash: e.hash,
  ledgerSeq,
  ledgerHash: ledgerHash({ ledgerSeq, entryHash: e.hash, prevLedgerHash: null, receivedAt: '', skewMs: 0 }),
  receivedAt: '2026-01-01T00:00:00.000Z',
});

describe('the outbox', () => {
  it('keeps entries in a chain of this tablet, each naming the one before', async () => {
    const stored = [...(await append(db, ports, [note('1'), note('2')])), ...(await append(db, ports, [note('3')]))];
    expect(stored.map((e) => e.deviceSeq)).toEqual([1, 2, 3]);
    stored.forEach((e, i) => {
      expect(e.hash).toBe(sha256Hex(e.text));
      expect(parsed(e).prevDeviceHash).toBe(i === 0 ? null : stored[i - 1]!.hash);
    });
    expect(new Set(stored.map((e) => e.deviceId)).size).toBe(1);
  });

  it('takes what they were typed as with them: where nothing is kept, all that was typed is still there', async () => {
    const draft = { key: 'typed', about: {}, atMs: 1, value: 'x' } as unknown as StoredDraft;
    await db.put('drafts', draft);
    await expect(append(db, ports, [note('a'), note('   ')], 'typed')).rejects.toMatchObject({ field: 'body.words' });
    expect(await db.count('drafts')).toBe(1);
    await append(db, ports, [note('a')], 'typed');
    expect([await db.count('drafts'), (await entriesOf(db, SHOWER)).length]).toEqual([0, 1]);
  });

  it('seals what was read: without the blanks at its ends, which no server would keep', async () => {
    const [a] = await append(db, ports, [note('  as it was typed \n')]);
    expect(parsed(a!).body).toEqual({ words: 'as it was typed' });
    expect(readText(a!.text)).toMatchObject({ ok: true });
    await expect(append(db, ports, [note('   ')])).rejects.toMatchObject({ field: 'body.words' });
    await expect(append(db, ports, [note('x'.repeat(2001))])).rejects.toMatchObject({ field: 'body.words' });
    expect(await entriesOf(db, SHOWER)).toHaveLength(1);
  });

  it('gives each person a chain of their own on one tablet', async () => {
    const [a] = await append(db, ports, [note('a')]);
    const [b] = await append(db, ports, [note('b', TOMAS)]);
    expect(b!.deviceId).not.toBe(a!.deviceId);
    expect(b!.deviceSeq).toBe(1);
    expect(waiting(await entriesOf(db, SHOWER), INES.id).map((e) => e.id)).toEqual([a!.id]);
  });

  it('orders what comes later after everything seen, though the clock goes back', async () => {
    const [a] = await append(db, ports, [note('now')]);
    clock -= 3_600_000;
    const [b] = await append(db, ports, [note('an hour back')]);
    expect(parsed(b!).orderAt > parsed(a!).orderAt).toBe(true);
    clock += 3_600_000;
  });

  it('goes on after what another tablet wrote', async () => {
    const other = await openDatabase(`other-${v4()}`);
    clock += 86_400_000;
    const [ahead] = await append(other, ports, [note('a day ahead', TOMAS)]);
    clock -= 86_400_000;
    await takeIn(db, SHOWER, [pulled(ahead!, 1)]);
    const [mine] = await append(db, ports, [note('mine')]);
    expect(parsed(mine!).orderAt > parsed(ahead!).orderAt).toBe(true);
  });

  it('marks what the server took, and stops a chain at what it refused', async () => {
    const [a, b, c] = await append(db, ports, [note('a'), note('b'), note('c')]);
    await acknowledge(
      db,
      SHOWER,
      {
        taken: [{ id: a!.id, ledgerSeq: 1, ledgerHash: 'h', receivedAt: '' }],
        refused: { id: b!.id, code: 'role-may-not-write', field: 'kind', values: {}, message: 'Not yours.' },
        skewMs: 0,
      },
      await entriesOf(db, SHOWER),
    );
    const entries = await entriesOf(db, SHOWER);
    expect(entries.find((e) => e.id === a!.id)!.ledgerSeq).toBe(1);
    expect(entries.find((e) => e.id === b!.id)!.refused).toMatchObject({ message: 'Not yours.' });
    expect(entries.find((e) => e.id === c!.id)!.ledgerSeq).toBeNull();
    expect(waiting(entries, INES.id)).toEqual([]);
  });

  it('does not take the answer to a text that was sealed anew meanwhile for its own', async () => {
    const [a] = await append(db, ports, [note('a')]);
    await rechain(db, SHOWER, INES.id, v4);
    const answer = { taken: [{ id: a!.id, ledgerSeq: 1, ledgerHash: 'h', receivedAt: '' }], refused: null, skewMs: 0 };
    await acknowledge(db, SHOWER, answer, [a!]);
    const [stored] = await entriesOf(db, SHOWER);
    expect([stored!.ledgerSeq, (await db.get('showers', SHOWER))!.cursor]).toEqual([null, 0]);
    await takeIn(db, SHOWER, [pulled(a!, 1)]);
    expect((await entriesOf(db, SHOWER))[0]).toMatchObject({ hash: a!.hash, ledgerSeq: 1 });
  });

  it('takes in its own entry again without doubling it', async () => {
    const [a] = await append(db, ports, [note('a')]);
    await takeIn(db, SHOWER, [pulled(a!, 1)]);
    const entries = await entriesOf(db, SHOWER);
    expect(entries).toHaveLength(1);
    expect(entries[0]!.ledgerSeq).toBe(1);
    expect((await db.get('showers', SHOWER))!.cursor).toBe(1);
  });

  it('loses nothing in any mix of writing and acknowledging', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 1, maxLength: 6 }), async (batches) => {
        const own = await openDatabase(`mix-${v4()}`);
        let seq = 0;
        for (const size of batches) {
          await append(
            own,
            ports,
            Array.from({ length: size }, (_, k) => note(String(k))),
          );
          const [next] = waiting(await entriesOf(own, SHOWER), INES.id);
          seq += 1;
          await acknowledge(
            own,
            SHOWER,
            {
              taken: [{ id: next!.id, ledgerSeq: seq, ledgerHash: 'h', receivedAt: '' }],
              refused: null,
              skewMs: 0,
            },
            await entriesOf(own, SHOWER),
          );
        }
        const entries = await entriesOf(own, SHOWER);
        const total = batches.reduce((a, b) => a + b, 0);
        expect(entries).toHaveLength(total);
        expect(waiting(entries, INES.id).map((e) => e.deviceSeq)).toEqual(
          Array.from({ length: total - batches.length }, (_, k) => batches.length + k + 1),
        );
      }),
      { numRuns: 15 },
    );
  });
});
