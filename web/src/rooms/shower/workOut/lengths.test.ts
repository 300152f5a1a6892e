import { beforeAll, describe, expect, it } from 'vitest';
import { bringSentences } from '../../../ui/words';
import { readLengths, readMany } from './lengths';

beforeAll(bringSentences);

describe('lengths of a sum', () => {
  it('are read by name; the first that can’t be is named', () => {
    expect(readLengths({ a: '2', b: '1/2' }, 'in')).toEqual({ mm: { a: 50.8, b: 12.7 } });
    expect(readLengths({ a: '2', b: 'two' }, 'in')).toMatchObject({
      field: 'b',
      problem: expect.stringContaining('two'),
    });
  });
  it('stand several in one field', () => {
    expect(readMany('48 1/4; 48 3/16\n 1219 mm', 'in')).toEqual([1225.55, 1223.9625, 1219]);
    expect(readMany('', 'in')).toEqual([]);
    expect(readMany('48; x', 'in')).toHaveProperty('problem');
  });
});
