import { describe, expect, it } from 'vitest';
import { curbCut } from './curbCut';

const IN = 25.4;

describe('the length a curb is cut to', () => {
  it('is the least distance less 1/8 in at each end, or in all', () => {
    const distancesMm = [60 * IN, 60.25 * IN];
    const each = curbCut({ distancesMm, gap: 'each-end' });
    const all = curbCut({ distancesMm, gap: 'in-all' });
    if (!each.ok || !all.ok) throw new Error('refused');
    expect(each.value.cutMm / IN).toBeCloseTo(59.75, 9);
    expect(all.value.cutMm / IN).toBeCloseTo(59.875, 9);
    expect(each.value.spreadMm / IN).toBeCloseTo(0.25, 9);
    expect(each.value.widestGapMm / IN).toBeCloseTo(0.5, 9);
  });
  it('refuses an opening nobody measured', () => {
    expect(curbCut({ distancesMm: [], gap: 'in-all' })).toMatchObject({ ok: false, problem: { field: 'distancesMm' } });
  });
});
