import { describe, expect, it } from 'vitest';
import { fieldOf, readFigures, readLabel, showLabel, typedFigures } from './labelFigures';

describe('figures of a label', () => {
  it('are films in mil or mm, temperatures in °C or °F, as the label has them', () => {
    expect(readLabel('wetUm', '22')).toBeCloseTo(558.8);
    expect(readLabel('wetUm', '0.5 mm')).toBeCloseTo(500);
    expect(readLabel('workingC', '50 °F')).toBe(10);
    expect(readLabel('workingC', '5')).toBe(5);
    expect(readLabel('notchMm', '3/8')).toBeCloseTo(9.525);
    expect(readLabel('waterHours', '24 h')).toBe(24);
    expect(readLabel('waterHours', ' ')).toBeNull();
  });
  it('stop where mils were taken for millimetres, and where nothing can be read', () => {
    expect(readLabel('dryUm', '22 mm')).toEqual({ problem: 'too-thick' });
    expect(readLabel('tileHours', 'a day')).toEqual({ problem: 'unreadable' });
    expect(readLabel('tileHours', '-3')).toEqual({ problem: 'unreadable' });
  });
  it('go into the fields and come out the same', () => {
    const figures = { wetUm: { least: 508, most: 1016 }, coats: { least: 2 }, permeancePerm: { most: 0.4 } };
    const line = { figures } as never;
    const read = readFigures('membrane', typedFigures(line));
    expect(read).toEqual({ figures });
    expect(showLabel('wetUm', 508)).toBe('20 mil');
  });
  it('name the field whose most lies below its least', () => {
    const typed = { [fieldOf('wetUm', 'least')]: '30', [fieldOf('wetUm', 'most')]: '20' };
    expect(readFigures('membrane', typed)).toEqual({ field: 'wetUm-most', problem: 'crossed' });
    expect(readFigures('board', typed)).toEqual({ figures: {} });
  });
});
