import { describe, expect, it } from 'vitest';
import { begun, byOther, fold, MANAGER, notApplicable } from '../../tests/sampleTablet';
import { countDecisions, decisionsWaiting } from './decisionsWaiting';

describe('what waits for a manager', () => {
  it('is each look once, whatever it speaks of, until a manager says the same', () => {
    const t = begun();
    const state = fold(t.entries);
    expect(decisionsWaiting(state)).toEqual({ deviations: [], looks: [], contested: [] });
    const walls = state.requirements.filter((r) => r.check.id === 'board-kind').map((r) => r.element);
    const [floor, boards] = [
      notApplicable(t, 'base', ['bedding'], ['floor']),
      notApplicable(t, 'boards', ['board-kind'], walls),
    ];
    const waiting = decisionsWaiting(fold(t.entries));
    expect(waiting.looks.map((looks) => [looks[0]!.entry, looks.length])).toEqual([
      [floor, 1],
      [boards, walls.length],
    ]);
    expect(countDecisions(waiting)).toBe(2);
    byOther(t, MANAGER, (boss) => notApplicable(boss, 'base', ['bedding'], ['floor']));
    expect(decisionsWaiting(fold(t.entries)).looks.map((looks) => looks[0]!.entry)).toEqual([boards]);
  });

  it('is counted of all three kinds together', () => {
    const [d, l] = [{} as never, [] as never[]];
    expect(countDecisions({ deviations: [d, d], looks: [l, l, l], contested: ['a', 'b', 'c', 'd'] })).toBe(9);
  });
});
