import { begun, fold } from '@careful-seam/core/tests/sampleTablet';
import { makeWords } from '@careful-seam/words/texts/words';
import { describe, expect, it } from 'vitest';
import en from '../../../texts/en.json';
import { sumAt } from './sumAt';
import { benchSum, curbGap, curbSum, drawnSpanMm, nicheSum, studsAlong } from './sums';

const t = ((key: string, values: Record<string, unknown> = {}) => {
  const { count } = values;
  const of = (k: string) => k.split('.').reduce<unknown>((o, part) => (o as Record<string, unknown>)?.[part], en);
  const text = of(count === undefined ? key : `${key}_${count === 1 ? 'one' : 'other'}`) ?? of(key);
  return String(text).replace(/\{\{(\w+)\}\}/g, (_, k: string) => String(values[k]));
}) as never;
const IN = 25.4;

describe('sums on site', () => {
  it('belong to curbs, niches and benches', () => {
    expect(sumAt('curb:front:top')).toEqual({ kind: 'curb', id: 'front' });
    expect(sumAt('niche:n1:back')).toEqual({ kind: 'niche', id: 'n1' });
    expect(sumAt('niche-mouth|niche:n1:back|wall:a')).toEqual({ kind: 'niche', id: 'n1' });
    expect([sumAt('floor'), sumAt('wall:a')]).toEqual([null, null]);
    expect(makeWords('en').t('lineKind.mortar')).toBe('Mortar');
  });
  it('cut a curb by the firm’s own way', () => {
    const state = fold(begun().entries);
    expect(['each-end', 'in-all']).toContain(curbGap(state));
    const cut = curbSum(t, 'in', [48.25 * IN, 48 * IN], 'each-end') as { lines: string[] };
    expect(cut.lines[0]).toContain('47 3/4 in');
    expect(cut.lines[1]).toContain('1/4 in');
    expect(curbSum(t, 'in', [], 'in-all')).toHaveProperty('problem');
  });
  it('lay a niche out with its cuts, its opening and what stands in its way', () => {
    const input = {
      tileHeightMm: 12 * IN,
      tileWidthMm: 24 * IN,
      jointMm: 0,
      levelJointMm: 0,
      uprightJointMm: 0,
      sillMm: 47 * IN,
      heightMm: 24 * IN,
      widthMm: 12 * IN,
      alongMm: 18 * IN,
      studsAtMm: studsAlong(96 * IN, 16 * IN, 16 * IN),
      studMm: 1.5 * IN,
      shelfMm: 10 * IN,
      pipesAtMm: [22 * IN],
    };
    const { lines } = nicheSum(t, 'in', input) as { lines: string[] };
    expect(lines.join(' ')).toMatch(/48 in.*72 in.*12 1\/4 in.*24 1\/4 in/);
    expect(lines).toContain(String(en.sum.nichePipe));
    expect(studsAlong(50 * IN, 16 * IN, 16 * IN)).toEqual([16 * IN, 32 * IN, 48 * IN]);
    expect(studsAlong(50 * IN, 0, 0)).toEqual([]);
  });
  it('refer a bench over 36 in back to a support', () => {
    const over = benchSum(t, 'in', 37 * IN, 2) as { lines: string[] };
    expect(over.lines[0]).toBe(String(en.sum.benchBeyond).replace('{{span}}', '37 in'));
    const two = benchSum(t, 'in', 30 * IN, 1) as { lines: string[] };
    expect(two.lines).toContain(String(en.sum.benchMore_one));
    expect(
      drawnSpanMm({
        kind: 'along',
        id: 'b',
        edge: 0,
        alongMm: 0,
        widthMm: 1200,
        depthMm: 300,
        topMm: 450,
        supports: 2,
      }),
    ).toBe(400);
  });
});
