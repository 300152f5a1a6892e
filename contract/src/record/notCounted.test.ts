import { describe, expect, it } from 'vitest';
import { orphansByReason } from './notCounted';

describe('entries that are not counted', () => {
  it('are told by their reason, each with how many there are, the first reason first', () => {
    expect(orphansByReason([{ why: 'not-allowed' }, { why: 'off-element' }, { why: 'not-allowed' }])).toEqual([
      ['not-allowed', 2],
      ['off-element', 1],
    ]);
    expect(orphansByReason([])).toEqual([]);
  });
});
