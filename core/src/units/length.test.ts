import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseLength, showLength, showTotal } from './length';

const mm = (text: string, assume: 'in' | 'mm' | 'mil' = 'in') => {
  const read = parseLength(text, assume);
  return read.ok ? read.value.mm : read.problem.code;
};

describe('lengths as people write them', () => {
  it.each([
    ['2 1/4', 57.15],
    ['2-1/4"', 57.15],
    ['1/16', 1.5875],
    [`3' 4 1/2"`, 1028.7],
    ['57 mm', 57],
    ['5,7 cm', 57],
    ['22 mil', 0.5588],
    ["3'", 914.4],
    ['3 ft 2 in', 965.2],
    ['0.5', 12.7],
    ['1 in', 25.4],
  ])('reads %s', (text, expected) => {
    expect(mm(text)).toBe(expected);
  });

  it('takes a bare number in the unit that is assumed', () => {
    expect(mm('57', 'mm')).toBe(57);
    expect(mm('22', 'mil')).toBe(0.5588);
  });

  it.each(['abc', '1/0', '2 1', '1/2/3', "3' x", '2 1/4 kg', '1e5'])(
    'refuses "%s" and names what was typed',
    (text) => {
      const read = parseLength(text, 'in', 'width');
      expect(read).toMatchObject({ ok: false, problem: { code: 'length-unreadable', field: 'width' } });
      expect(!read.ok && read.problem.values).toEqual({ text });
    },
  );

  it('refuses negative and absurd lengths by name', () => {
    expect(mm('')).toBe('length-empty');
    expect(mm('-2')).toBe('length-negative');
    expect(mm('−2 1/4')).toBe('length-negative');
    expect(mm('9999999')).toBe('length-too-long');
  });

  it('shows sixteenths in lowest terms, never 16/16', () => {
    expect(showLength(57.15, 'in')).toBe('2 1/4 in');
    expect(showLength(25.399, 'in')).toBe('1 in');
    expect(showLength(15.98 * (25.4 / 16), 'in')).toBe('1 in');
    expect(showLength(25.4 / 32, 'in', 32)).toBe('1/32 in');
    // What a feeler read stays what it read, also where nobody asks for 32nds.
    expect([25.4 / 32, 25.4 / 64, (25.4 * 3) / 32].map((mm) => showLength(mm, 'in'))).toEqual([
      '1/32 in',
      '1/64 in',
      '3/32 in',
    ]);
    expect(showLength(2 * 25.4 + 25.4 / 32, 'in')).toBe('2 1/16 in');
    expect(showLength(1234.4, 'mm')).toBe('1234 mm');
    expect(showLength(0.5588, 'mil')).toBe('22 mil');
  });

  it('reads back every sixteenth exactly as it was shown', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 5000 }), (sixteenths) => {
        const size = (sixteenths * 25.4) / 16;
        const read = parseLength(showLength(size, 'in'));
        expect(read.ok && Math.abs(read.value.mm - size)).toBeLessThan(1e-9);
      }),
    );
  });

  it('never answers with a number that is not finite, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        const read = parseLength(text);
        if (read.ok) expect(Number.isFinite(read.value.mm) && read.value.mm >= 0).toBe(true);
        else expect(read.problem.code).toMatch(/^length-/);
      }),
    );
  });
});

describe('a total', () => {
  it('is told as people say it', () => {
    expect(showTotal((598 + 13 / 16) * 25.4, 'in')).toBe('50 ft');
    expect(showTotal((11 + 13 / 16) * 25.4, 'in')).toBe('12 in');
    expect(showTotal(24 * 25.4, 'in')).toBe('2 ft');
    expect(showTotal(15_210, 'mm')).toBe('15.2 m');
    expect(showTotal(447, 'mm')).toBe('450 mm');
    expect(showTotal(0, 'in')).toBe('0 in');
  });
  it('that is there is never told as nothing', () => {
    expect(showTotal(2, 'in')).toBe('1 in');
    expect(showTotal(2, 'mm')).toBe('10 mm');
  });
});
