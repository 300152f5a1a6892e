import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyShower } from '../../tests/anyShower';
import { sampleShower } from '../../tests/sampleShower';
import { showerModel } from '../geometry/showerModel';
import { foldedView } from './foldedView';

describe('the folded shower', () => {
  it('shows the inner sides that turn to the viewer: floor and back of an alcove, not the curb’s inside', () => {
    const model = showerModel(sampleShower());
    if (!model.ok) throw new Error(model.problem.code);
    const ids = foldedView(model.value).faces.map((f) => f.face);
    expect(ids).toContain('floor');
    expect(ids).toContain('wall:back');
    expect(ids).toContain('curb:front:top');
    expect(ids).toContain('curb:front:outer');
    expect(ids).not.toContain('curb:front:inner');
    expect(ids.filter((id) => id === 'wall:left' || id === 'wall:right')).toHaveLength(1);
  });
  it('draws every shower within its box, the floor always, no point without a place', () => {
    fc.assert(
      fc.property(anyShower, ({ geometry }) => {
        const model = showerModel(geometry);
        if (!model.ok) throw new Error(model.problem.code);
        const { faces, seams, box } = foldedView(model.value);
        expect(faces.some((f) => f.face === 'floor')).toBe(true);
        for (const [x, y] of [...faces.flatMap((f) => f.outline), ...seams.flatMap((s) => s.points)]) {
          expect(Number.isFinite(x) && Number.isFinite(y)).toBe(true);
          expect(x).toBeGreaterThanOrEqual(box.minX);
          expect(y).toBeLessThanOrEqual(box.maxY);
        }
      }),
      { numRuns: 60 },
    );
  });
});
