import { describe, expect, it } from 'vitest';
import { sampleModel } from '../tests/sampleShower';
import { scopeOf, stripOutOf } from './stripOut';
import { suspectsOfModel } from './suspects';

const model = sampleModel({ niche: true });
const suspects = suspectsOfModel(model);
const of = (id: string) => stripOutOf(model, suspects.find((s) => s.id === id)!, {});

describe('what must come out', () => {
  it('is the least that lets the layer be tied in again: the bottom for the floor, a wall for its corner, nothing for a door', () => {
    const foot = of('floor-wall|floor|wall:back');
    expect(foot.scope).toBe('bottom');
    expect(foot.walls).toEqual(['right', 'back', 'left']);
    expect(foot.floorMm2).toBeCloseTo(60 * 36 * 25.4 ** 2, 0);
    const walls = model.faces.filter((f) => f.kind === 'wall').reduce((sum, f) => sum + f.areaMm2, 0);
    expect(foot.wallMm2).toBeCloseTo(walls / 3, 0);
    const lap = suspects.find((s) => s.kind === 'wall-seam' && s.lowMm > 500)!;
    const wall = of(lap.id);
    expect(wall.scope).toBe('wall');
    expect(wall.floorMm2).toBe(0);
    expect(of('door')).toMatchObject({ scope: 'none', wallMm2: 0, floorMm2: 0 });
    expect(of('supply').scope).toBe('opening');
    expect(of('penetration:valve').wallMm2).toBeLessThan(wall.wallMm2);
  });

  it('a floor that is built again takes five days of work and not under four: bed, coats and water stand over night', () => {
    const { days, hours } = of('drain:d');
    expect(days).toBeGreaterThanOrEqual(5);
    expect(days).toBeLessThanOrEqual(8);
    expect(hours).toBeGreaterThan(15);
  });

  it('more comes out takes no less: opening, wall, bottom, all', () => {
    const list = suspects.map((s) => stripOutOf(model, s, {}));
    const worst = (scope: string, what: 'hours' | 'days') =>
      Math.max(...list.filter((l) => l.scope === scope).map((l) => l[what]), 0);
    expect(worst('opening', 'hours')).toBeLessThan(worst('wall', 'hours'));
    expect(worst('wall', 'days')).toBeLessThanOrEqual(worst('bottom', 'days'));
    for (const l of list) {
      expect(l.days).toBeGreaterThanOrEqual(1);
      expect(l.lostMm2).toBeCloseTo(1.1 * (l.wallMm2 + l.floorMm2), 3);
    }
  });

  it('goes by the firm’s own hours', () => {
    const usual = of('drain:d').hours;
    expect(stripOutOf(model, suspects.find((s) => s.id === 'drain:d')!, { base: 50 }).hours).toBeGreaterThan(usual);
  });

  it('every suspect has a scope', () => {
    for (const s of suspects) expect(['none', 'opening', 'wall', 'bottom', 'all']).toContain(scopeOf(s));
  });
});
