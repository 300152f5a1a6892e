import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cornerLayers, USUAL_PIECES } from './cornerLayers';
import { layerStack, stackCells } from './layerStack';

const stack = (layers: Parameters<typeof layerStack>[0]['layers']) => {
  const found = layerStack({ layers });
  if (!found.ok) throw new Error(found.problem.code);
  return found.value;
};

describe('layers on a floor', () => {
  it('three where bands stop short, four where they run through; mortar counts as height only', () => {
    const [short, through] = [cornerLayers(USUAL_PIECES, 'stopped-short'), cornerLayers(USUAL_PIECES, 'run-through')];
    expect(stack(short).mostLayers).toBe(3);
    expect(stack(through).mostLayers).toBe(4);
    expect(stack(through).highestUm - stack(short).highestUm).toBe(USUAL_PIECES.bandUm + USUAL_PIECES.mortarUm);
    const { xMm, yMm } = stack(through).at;
    expect(Math.max(xMm, yMm)).toBeLessThan(USUAL_PIECES.cornerLegMm);
  });
  it('a band that stops short still laps the corner piece by 2 in along its crease', () => {
    const bands = cornerLayers(USUAL_PIECES, 'stopped-short').filter((l) => l.kind === 'band');
    const first = Math.min(...bands.filter((l) => l.rect.yMm === 0).map((l) => l.rect.xMm));
    expect(USUAL_PIECES.cornerLegMm - first).toBeCloseTo(50.8, 0);
  });
  it('counts every point as a look at it would, for any rectangles', () => {
    const rect = fc.record({
      xMm: fc.integer({ min: 0, max: 20 }),
      yMm: fc.integer({ min: 0, max: 20 }),
      widthMm: fc.integer({ min: 1, max: 15 }),
      heightMm: fc.integer({ min: 1, max: 15 }),
    });
    const layer = fc.record({ kind: fc.constantFrom('sheet', 'band', 'mortar'), thicknessUm: fc.nat(900), rect });
    fc.assert(
      fc.property(fc.array(layer, { minLength: 1, maxLength: 9 }), (layers) => {
        let [most, highest] = [0, 0];
        for (let x = 0.5; x < 36; x += 1)
          for (let y = 0.5; y < 36; y += 1) {
            const on = layers.filter(
              ({ rect: r }) => x > r.xMm && x < r.xMm + r.widthMm && y > r.yMm && y < r.yMm + r.heightMm,
            );
            most = Math.max(most, on.filter((l) => l.kind !== 'mortar').length);
            highest = Math.max(
              highest,
              on.reduce((sum, l) => sum + l.thicknessUm, 0),
            );
          }
        expect(stack(layers)).toMatchObject({ mostLayers: most, highestUm: highest });
      }),
      { numRuns: 50 },
    );
  });
  it('cells lie beside each other', () => {
    const cells = stackCells(cornerLayers(USUAL_PIECES, 'run-through'));
    const area = cells.reduce((sum, c) => sum + c.rect.widthMm * c.rect.heightMm, 0);
    expect(area).toBeCloseTo(USUAL_PIECES.viewMm ** 2, 6);
  });
});
