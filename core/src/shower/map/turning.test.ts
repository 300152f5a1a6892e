import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { anyShower } from '../../tests/anyShower';
import { sampleModel } from '../../tests/sampleShower';
import { type ShowerModel, showerModel } from '../geometry/showerModel';
import { turning } from './turning';

/** Everything that can be checked on a drawing. */
const everything = (model: ShowerModel): string[] => [
  'shower',
  model.drain.id,
  ...model.faces.filter((f) => f.kind !== 'outside').map((f) => f.id),
  ...model.seams.map((s) => s.id),
  ...model.corners.map((c) => c.id),
  ...model.penetrations.map((p) => p.id),
];

describe('the order in which a person turns in a shower', () => {
  it('puts every element of any shower into exactly one thing', () => {
    fc.assert(
      fc.property(anyShower, ({ geometry }) => {
        const model = showerModel(geometry);
        if (!model.ok) return;
        const told = turning(model.value).flatMap((thing) => thing.elements);
        expect([...told].sort()).toEqual(everything(model.value).sort());
      }),
      { numRuns: 60 },
    );
  });
  it('begins at the drain and the floor and goes wall by wall from the left of the opening, the niche with its wall', () => {
    expect(turning(sampleModel({ niche: true })).map((thing) => thing.id)).toEqual([
      'drain:d',
      'floor',
      'wall:left',
      'wall:back',
      'niche:n',
      'wall:right',
      'curb:front',
      'shower',
    ]);
  });
  it('takes a niche with its mouth, edges and corners for one thing', () => {
    const model = sampleModel({ niche: true });
    const niche = turning(model).find((thing) => thing.id === 'niche:n')!;
    const touching = model.seams.filter((s) => s.faces.some((f) => f.startsWith('niche:'))).map((s) => s.id);
    expect(touching.length).toBeGreaterThan(6);
    for (const seam of touching) expect(niche.elements).toContain(seam);
  });
  it('goes along a wall from its left end to its right one, low to high at each place', () => {
    const model = sampleModel();
    const back = turning(model).find((thing) => thing.id === 'wall:back')!;
    const at = (id: string) => back.elements.indexOf(id);
    // The upright seam with the left wall was looked at on the left wall, so that with the right wall is not the back's last.
    const low = model.seams.find((s) => s.faces.includes('floor') && s.faces.includes('wall:back'))!;
    const lap = model.seams.find((s) => s.id.includes('back-lap'))!;
    expect(at(low.id)).toBeGreaterThanOrEqual(0);
    expect(at(low.id)).toBeLessThan(at(lap.id));
    const upright = model.seams.find((s) => s.faces.includes('wall:left') && s.faces.includes('wall:back'))!;
    const left = turning(model).find((thing) => thing.id === 'wall:left')!;
    expect(left.elements).toContain(upright.id);
    expect(back.elements).not.toContain(upright.id);
  });
});
