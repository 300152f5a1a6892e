import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { begun, INSPECTOR, SHOWER, tablet } from '../tests/sampleTablet';
import { BODIES, ENTRY_KINDS, VERSIONS } from './bodies';
import { canonicalText, continuesChain, ledgerHash, seal, sha256Hex } from './chain';
import { applyCorrections } from './corrections';
import { readBody, readEntry } from './entry';
import { compareEntries, nextOrderAt, orderAtOf } from './order';

describe('canonical form', () => {
  // The examples of RFC 8785, sections 3.2.2 to 3.2.4.
  it("gives RFC 8785's own example", () => {
    const input =
      '{"numbers":[333333333.33333329,1E30,4.50,2e-3,0.000000000000000000000000001],"string":"\\u20ac$\\u000F\\u000aA\'\\u0042\\u0022\\u005c\\\\\\"\\/","literals":[null,true,false]}';
    const expected =
      '{"literals":[null,true,false],"numbers":[333333333.3333333,1e+30,4.5,0.002,1e-27],"string":"€$\\u000f\\nA\'B\\"\\\\\\\\\\"/"}';
    expect(canonicalText(JSON.parse(input))).toBe(expected);
  });

  it("sorts keys as RFC 8785's sorting example does", () => {
    const input = {
      '\u20ac': 'Euro Sign',
      '\r': 'Carriage Return',
      '\ufb33': 'Hebrew Letter Dalet With Dagesh',
      '1': 'One',
      '\ud83d\ude00': 'Emoji: Grinning Face',
      '\u0080': 'Control',
      '\u00f6': 'Latin Small Letter O With Diaeresis',
    };
    const order = [...canonicalText(input).matchAll(/:"([^"]+)"/g)].map((m) => m[1]);
    expect(order).toEqual([
      'Carriage Return',
      'One',
      'Control',
      'Latin Small Letter O With Diaeresis',
      'Euro Sign',
      'Emoji: Grinning Face',
      'Hebrew Letter Dalet With Dagesh',
    ]);
  });

  it('hashes as the published SHA-256 vectors say (FIPS 180-4)', () => {
    expect(sha256Hex('abc')).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
    expect(sha256Hex(new Uint8Array())).toBe('e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855');
  });

  it('does not depend on the order in which fields were written', () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.jsonValue()), (value) => {
        const turned = Object.fromEntries(Object.entries(value).reverse());
        expect(canonicalText(turned)).toBe(canonicalText(value));
      }),
    );
  });
});

describe('the order of entries', () => {
  it('never falls below what was seen, whatever the wall clock says', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 2_000_000_000_000 }), { minLength: 1, maxLength: 50 }),
        (clocks) => {
          let last: string | null = null;
          for (const clock of clocks) {
            const next = nextOrderAt(last, clock);
            if (last !== null) expect(next > last).toBe(true);
            last = next;
          }
        },
      ),
    );
    expect(nextOrderAt(orderAtOf(500, 2), 400)).toBe(orderAtOf(500, 3));
  });

  it('is the same for every arrival', () => {
    const entries = [...begun({}, 1).entries, ...begun({}, 2).entries];
    fc.assert(
      fc.property(fc.shuffledSubarray(entries, { minLength: entries.length }), (mixed) => {
        expect([...mixed].sort(compareEntries)).toEqual([...entries].sort(compareEntries));
      }),
    );
  });
});

describe('a chain', () => {
  it('goes on only from its last entry', () => {
    const { entries } = begun();
    const [first, second, third] = entries.map(seal);
    expect(continuesChain(first!.entry, null).ok).toBe(true);
    expect(continuesChain(second!.entry, { deviceSeq: 1, hash: first!.hash }).ok).toBe(true);
    expect(continuesChain(third!.entry, { deviceSeq: 1, hash: first!.hash })).toMatchObject({
      problem: { field: 'deviceSeq' },
    });
    expect(continuesChain(second!.entry, { deviceSeq: 1, hash: third!.hash })).toMatchObject({
      problem: { field: 'prevDeviceHash' },
    });
  });

  it('changes its hash with any changed character', () => {
    const { text, hash } = seal(begun().entries[0]!);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: text.length - 1 }), (i) => {
        const changed = `${text.slice(0, i)}${String.fromCharCode(text.charCodeAt(i) ^ 1)}${text.slice(i + 1)}`;
        expect(sha256Hex(changed)).not.toBe(hash);
      }),
    );
  });

  it('covers place, time and skew in the ledger', () => {
    const link = {
      ledgerSeq: 1,
      entryHash: 'a',
      prevLedgerHash: null,
      receivedAt: '2026-01-01T00:00:00.000Z',
      skewMs: 0,
    };
    const hashes = [
      link,
      { ...link, ledgerSeq: 2 },
      { ...link, skewMs: 1 },
      { ...link, receivedAt: '2026-01-01T00:00:00.001Z' },
      { ...link, prevLedgerHash: 'b' },
    ].map(ledgerHash);
    expect(new Set(hashes).size).toBe(hashes.length);
  });
});

describe('entries at a boundary', () => {
  const entry = () => structuredClone(begun().entries[0]!);
  it('come back as they were', () => {
    const written = entry();
    expect(readEntry(JSON.parse(seal(written).text))).toEqual({ ok: true, value: written });
  });
  it('of a later version or an unknown kind are named', () => {
    expect(readEntry({ ...entry(), v: 99 })).toMatchObject({ problem: { code: 'version-too-new', field: 'v' } });
    expect(readEntry({ ...entry(), kind: 'hologram' })).toMatchObject({
      problem: { code: 'kind-unknown', field: 'kind' },
    });
  });
  it.each([
    [{ id: 'not-a-uuid' }, 'id'],
    [{ observedAt: 'yesterday' }, 'observedAt'],
    [{ deviceSeq: 0 }, 'deviceSeq'],
    [{ orderAt: '12' }, 'orderAt'],
    [{ body: { name: '' } }, 'body.name'],
    [{ offsetMinutes: 5000 }, 'offsetMinutes'],
  ])('with a bad field name it: %o', (change, field) => {
    expect(readEntry({ ...entry(), ...change })).toMatchObject({
      ok: false,
      problem: { code: 'entry-invalid', field },
    });
  });
  it('never throw, whatever arrives', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        expect(readEntry(value).ok).toBe(false);
      }),
    );
  });
  it('are of the closed list of kinds, each with a schema and a version', () => {
    expect(ENTRY_KINDS).toHaveLength(31);
    for (const kind of ENTRY_KINDS) {
      expect(BODIES[kind]).toBeDefined();
      const later = kind === 'reading' ? 5 : kind === 'look' ? 4 : /^rules|^defect-(found|closed)/.test(kind) ? 3 : 2;
      expect(VERSIONS[kind]).toBe(
        /^flood|^moisture|^note$|^look$|^reading$|^rules|^geometry|^climate|^call-tested|^shower-created|^work|^look-requested|^defect-(found|assigned|answered|closed)/.test(
          kind,
        )
          ? later
          : 1,
      );
    }
  });
  it('ask for a reason where something does not apply', () => {
    const look = { stage: 'base', checks: ['bedding'], places: [{ element: 'floor' }], answer: 'not-applicable' };
    expect(readBody('look', look)).toMatchObject({ problem: { field: 'body.reason' } });
    expect(readBody('look', { ...look, reason: 'no tray' }).ok).toBe(true);
  });
});

describe('corrections', () => {
  it('take the place of their target; the last one wins; a withdrawn one gives the target back', () => {
    const t = tablet(1);
    const note = t.write('note', { words: 'first' });
    t.write('note', { words: 'between' });
    const words = () =>
      applyCorrections([...t.entries].sort(compareEntries)).entries.map((e) =>
        e.kind === 'note' ? e.body.words : e.kind,
      );
    const one = t.write('correction', { target: note, action: 'replace', body: { words: 'second' } });
    expect(words()).toEqual(['second', 'between']);
    const two = t.write('correction', { target: note, action: 'withdraw' });
    expect(words()).toEqual(['between']);
    t.write('correction', { target: two, action: 'withdraw' });
    expect(words()).toEqual(['second', 'between']);
    t.write('correction', { target: one, action: 'withdraw' });
    expect(words()).toEqual(['first', 'between']);
  });

  it('that do not fit are listed, not applied', () => {
    const t = tablet(1);
    const note = t.write('note', { words: 'first' });
    const bad = t.write('correction', { target: note, action: 'replace', body: { words: '' } });
    const lost = t.write('correction', { target: SHOWER, action: 'withdraw' });
    const { entries, stray } = applyCorrections([...t.entries].sort(compareEntries));
    expect(entries.map((e) => e.id)).toEqual([note]);
    expect(stray.map((e) => e.id).sort()).toEqual([bad, lost].sort());
  });

  it('keep the author of what they correct', () => {
    const t = tablet(1);
    const note = t.write('note', { words: 'first' });
    t.write('correction', { target: note, action: 'replace', body: { words: 'second' } });
    expect(applyCorrections(t.entries).entries[0]!.author).toEqual(INSPECTOR);
  });
});
