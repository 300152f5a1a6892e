import { placeOf } from '@careful-seam/core/checks/place';
import { type LookGroup, walk } from '@careful-seam/core/checks/walk';
import { begun, fold } from '@careful-seam/core/tests/sampleTablet';
import { describe, expect, it } from 'vitest';
import { answeredBy } from './answering';
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
  it('is the same on the cards and in a walk: what is answered at each place, and read on each side', () => {
    const shower = fold(begun({ niche: true }).entries);
    for (const { key } of shower.rules!.method.stages) {
      const stops = walk(shower, key);
      const told = (groups: readonly LookGroup[]) =>
        groups.flatMap((g) => g.places.flatMap((p) => g.checks.map((c) => `${c} ${JSON.stringify(p)}`)));
      const asked = shower.requirements.filter((r) => r.stage.key === key);
      const elements = [...new Set(asked.map((r) => r.element))];
      expect(told(stops.flatMap((s) => s.groups)).sort()).toEqual(
        elements.flatMap((e) => told(lookGroups(shower, key, e, 'this'))).sort(),
      );
      const alone = (by: string) => asked.filter((r) => answeredBy(r.check) === by);
      for (const by of ['reading', 'figure'] as const)
        expect(new Set(stops.filter((s) => s.asks === by).map((s) => s.judgements[0]!.requirement))).toEqual(
          new Set(alone(by)),
        );
    }
  });
});
