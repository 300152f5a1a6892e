import { describe, expect, it } from 'vitest';
import { countedAs, offered } from './listed';

const list = [
  { id: 'a', label: 'A' },
  { id: 'b', label: 'B', into: 'a' },
  { id: 'c', label: 'C', into: 'b' },
  { id: 'd', label: 'D', retired: true },
  { id: 'e', label: 'E', into: 'nowhere' },
  { id: 'f', label: 'F', into: 'g' },
  { id: 'g', label: 'G', into: 'f' },
];

describe('kinds, causes and escapes of a firm', () => {
  it('are offered unless they were retired or merged; what was chosen before stays', () => {
    expect(offered(list).map((x) => x.id)).toEqual(['a']);
    expect(offered(list, 'd').map((x) => x.id)).toEqual(['a', 'd']);
  });
  it('are counted as what they were merged into, through all mergers', () => {
    expect(['a', 'b', 'c', 'd'].map((id) => countedAs(list, id))).toEqual(['a', 'a', 'a', 'd']);
  });
  it('are themselves where a merger leads nowhere or in a circle, or where nobody knows them', () => {
    expect(['e', 'f', 'g', 'unheard'].map((id) => countedAs(list, id))).toEqual(['e', 'f', 'g', 'unheard']);
  });
});
