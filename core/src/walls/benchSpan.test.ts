import { describe, expect, it } from 'vitest';
import { benchSpan } from './benchSpan';

const IN = 25.4;
const span = (inches: number, layers: number) => benchSpan({ spanMm: inches * IN, layers });

describe('the span of a board bench', () => {
  it.each([
    [18, 1, 'pass', 1],
    [18.1, 1, 'fail', 2],
    [36, 2, 'pass', 2],
    [36, 1, 'fail', 2],
    [36.1, 3, 'fail', null],
  ] as const)('%d in with %d layers: %s', (inches, layers, verdict, layersNeeded) => {
    expect(span(inches, layers)).toEqual({ ok: true, value: { verdict, layersNeeded } });
  });
  it('refuses what is no span', () => {
    expect(span(0, 1)).toMatchObject({ ok: false, problem: { field: 'spanMm' } });
    expect(span(10, 0)).toMatchObject({ ok: false, problem: { field: 'layers' } });
  });
});
