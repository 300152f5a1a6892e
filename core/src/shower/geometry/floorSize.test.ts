import { describe, expect, it } from 'vitest';
import { sampleShower } from '../../tests/sampleShower';
import { floorSize } from './floorSize';
import { showerModel } from './showerModel';

describe('the size of a floor', () => {
  it('is told width first, as it was typed', () => {
    const made = showerModel(sampleShower());
    if (!made.ok) throw new Error(made.problem.code);
    const { widthMm, depthMm } = floorSize(made.value);
    const [x, y] = (['xMm', 'yMm'] as const).map((axis) => {
      const at = made.value.geometry.footprint.map((p) => p[axis]);
      return Math.max(...at) - Math.min(...at);
    });
    expect([widthMm, depthMm]).toEqual([x, y]);
    expect(widthMm / 25.4).toBeCloseTo(60, 6);
    expect(depthMm / 25.4).toBeCloseTo(36, 6);
  });
});
