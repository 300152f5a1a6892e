import { placeOf } from '@careful-seam/core/checks/place';
import { begun, fold } from '@careful-seam/core/tests/sampleTablet';
import { describe, expect, it } from 'vitest';
import { lookGroups, wallOf } from './runs';

const state = fold(begun().entries);
const foot = 'floor-wall|floor|wall:back';
const names = (groups: ReturnType<typeof lookGroups>) => groups.flatMap((g) => g.places.map((p) => p.element)).sort();

describe('how far one answer reaches', () => {
  it('this one alone', () => {
    expect(lookGroups(state, 'membrane', foot, 'this')).toEqual([
      { checks: ['lap', 'bond'], places: [placeOf(state, foot)] },
    ]);
  });
  it('a stretch of it', () => {
    const [group] = lookGroups(state, 'membrane', foot, 'stretch', { fromMm: 100, toMm: 200 });
    expect(group!.places[0]).toMatchObject({ element: foot, fromMm: 100, toMm: 200 });
  });
  it('all like it', () => {
    expect(names(lookGroups(state, 'membrane', foot, 'kind'))).toEqual(
      ['back', 'left', 'right'].map((w) => `floor-wall|floor|wall:${w}`),
    );
    expect(names(lookGroups(state, 'boards', 'wall:back', 'kind'))).toEqual(['wall:back', 'wall:left', 'wall:right']);
  });
  it('all that touches its wall, grouped by what is asked of it', () => {
    const groups = lookGroups(state, 'membrane', foot, 'wall');
    expect(names(groups)).toContain('wall:back');
    expect(names(groups)).toContain('corner|floor|wall:back|wall:left');
    expect(names(groups).some((e) => e === 'floor-wall|floor|wall:left')).toBe(false);
    expect(new Set(groups.map((g) => g.checks.join())).size).toBe(groups.length);
  });
  it('asks nothing where the stage asks nothing', () => {
    expect(lookGroups(state, 'curb', foot, 'this')).toEqual([]);
    expect(wallOf(state, 'floor')).toBeNull();
  });
});
