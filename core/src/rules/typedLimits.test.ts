import { describe, expect, it } from 'vitest';
import { outsideLimit } from '../checks/measured';
import { parseLength } from '../units/length';
import type { Check } from './checks/check';
import { defaultRuleBook } from './defaultRuleBook';
import { typedMm, withLimitsInMm } from './typedLimits';

/** A tape's marks: 1/64 in is a caliper's, 1/32 the finest of a tape. */
const DENOMINATORS = [1, 2, 4, 8, 16, 32, 64];

/** What a tape shows nearest to so many millimetres, as it is typed. */
function asTyped(mm: number): string | null {
  for (const d of DENOMINATORS) {
    const n = Math.round((Math.abs(mm) / 25.4) * d);
    if (Math.abs((n / d) * 25.4 - Math.abs(mm)) < 1e-9) return `${n}/${d} in`;
  }
  return null;
}

const lengths = (check: Check): number[] => {
  if (check.kind === 'measured')
    return [check.limit.atLeastMm, check.limit.atMostMm].filter((v): v is number => v !== undefined);
  if (check.kind === 'number' && check.unit === 'mm' && check.limit)
    return [check.limit.atLeast, check.limit.atMost].filter((v): v is number => v !== undefined);
  return [];
};

describe('the shipped limits', () => {
  const checks = defaultRuleBook().methods.flatMap((m) => m.stages.flatMap((s) => s.checks));
  const limited = checks.filter((c) => lengths(c).length > 0);

  it('are lengths that a tape shows, exactly', () => {
    expect(limited.length).toBeGreaterThan(100);
    const odd = limited.filter((c) => lengths(c).some((mm) => asTyped(mm) === null)).map((c) => c.id);
    expect(odd).toEqual([]);
  });

  it('are kept by a reading at the limit, and not by the tape’s next mark beyond it', () => {
    const wrong: string[] = [];
    for (const check of limited) {
      if (check.kind !== 'measured') continue;
      const { atLeastMm, atMostMm } = check.limit;
      for (const [mm, beyond] of [
        [atLeastMm, -1],
        [atMostMm, 1],
      ] as const) {
        if (mm === undefined) continue;
        const read = parseLength(asTyped(mm)!);
        const typed = read.ok ? read.value.mm : Number.NaN;
        if (outsideLimit(check, typed)) wrong.push(`${check.id} at its limit`);
        if (!outsideLimit(check, typed + (beyond * 25.4) / 64)) wrong.push(`${check.id} beyond its limit`);
      }
    }
    expect(wrong).toEqual([]);
  });
});

describe('a limit as it is written', () => {
  it('becomes millimetres, below zero too; other numbers stay', () => {
    expect(withLimitsInMm({ limit: { atLeast: '-1/16 in', atMost: '1/16 in' } }).limit).toEqual({
      atLeast: -1.5875,
      atMost: 1.5875,
    });
    expect(withLimitsInMm({ limit: { atLeast: 13 } }).limit).toEqual({ atLeast: 13 });
    expect(withLimitsInMm({ limit: null }).limit).toBeNull();
    expect(typedMm('0 in')).toBe(0);
  });
  it('is refused without its unit, or when it is no length', () => {
    expect(() => typedMm('1/16')).toThrow('1/16');
    expect(() => typedMm('thick in')).toThrow('thick in');
  });
});
