import { describe, expect, it } from 'vitest';
import { amountWords, readAmount } from '../rooms/materials/amounts';
import { readFilm, readVolume } from './volumes';

describe('a volume as typed', () => {
  it.each([
    ['1 1/2', 'in', 5.678],
    ['3/4 gal', 'in', 2.839],
    ['3 qt', 'in', 2.839],
    ['1 cup', 'mm', 0.2366],
    ['2,5', 'mm', 2.5],
    ['350 ml', 'in', 0.35],
    ['16 fl oz', 'in', 0.4732],
  ] as const)('%s (%s) is %s L', (text, unit, litres) => {
    expect(readVolume(text, unit)).toBeCloseTo(litres, 3);
  });
  it.each(['', 'two', '1 2', '1/0', '3 buckets', '-1'])('%s is none', (text) => {
    expect(readVolume(text, 'in')).toBeNull();
  });
});

describe('a film as typed', () => {
  it.each([
    ['22', 'in', 558.8],
    ['560', 'mm', 560],
    ['22 mil', 'mm', 558.8],
    ['0.5 mm', 'in', 500],
  ] as const)('%s (%s) is %s µm', (text, unit, um) => {
    expect(readFilm(text, unit)).toBeCloseTo(um, 6);
  });
  it('of words is none', () => {
    expect(readFilm('thick', 'in')).toBeNull();
  });
});

describe('amounts of a take-off', () => {
  it('come back as they were written, in feet and metres, gallons and litres', () => {
    expect(readAmount('12', 'mm', 'in')).toBeCloseTo(3657.6, 6);
    expect(readAmount('12', 'mm', 'mm')).toBe(12_000);
    expect(readAmount(`3' 6"`, 'mm', 'in')).toBeCloseTo(1066.8, 6);
    expect(readAmount('4', 'count', 'in')).toBe(4);
    expect(readAmount('100', 'm2', 'in')).toBeCloseTo(9.2903, 4);
    expect(readAmount('x', 'count', 'in')).toBeNull();
    expect(amountWords(3657.6, 'mm', 'in')).toBe('12.0 ft');
    expect(amountWords(2, 'L', 'mm')).toBe('2.00 L');
    expect(amountWords(9.2903, 'm2', 'in')).toBe('100.0 sq ft');
  });
});
