import { describe, expect, it } from 'vitest';
import { begun, fold, placeOf, seamId } from '../tests/sampleTablet';
import { RATES } from './startingValues';
import { waterWay } from './waterWay';

const way = (entries: Parameters<typeof fold>[0], opened: string[] = []) =>
  waterWay(fold(entries), RATES, new Set(opened))!;

describe('water’s way', () => {
  it('a shower without a fault keeps a barrier before every side; nothing must be closed', () => {
    const { sides, barriersLeft, cut } = way(begun({ niche: true }).entries);
    expect(barriersLeft).toBeGreaterThanOrEqual(1);
    expect(cut).toEqual([]);
    expect(sides.map((s) => s.side).sort()).toEqual(['back', 'floor', 'front', 'left', 'right']);
    for (const side of sides) {
      expect(side.barriersLeft).toBeGreaterThanOrEqual(1);
      expect(side.through).toEqual([]);
      expect(side.weakest).not.toBeNull();
    }
  });

  it('one opened place lets water to its sides alone, and closing it is what stops it', () => {
    const t = begun();
    const foot = seamId(fold(t.entries), 'floor-wall|floor|wall:back');
    const names = way(t.entries)
      .barriers.filter((b) => b.element === foot)
      .map((b) => b.name);
    const { sides, barriersLeft, cut } = way(t.entries, names);
    expect(barriersLeft).toBe(0);
    const open = sides.filter((s) => s.barriersLeft === 0).map((s) => s.side);
    expect(open.sort()).toEqual(['back', 'floor']);
    expect(sides.find((s) => s.side === 'back')!.through).toEqual([foot]);
    // Where two layers lie one behind the other, closing either is enough.
    expect(cut).toHaveLength(1);
    expect(cut[0]!.element).toBe(foot);
  });

  it('of two layers one that is opened leaves the other', () => {
    const t = begun();
    const two = way(t.entries).barriers.filter((b) => b.layer === 'board')[0]!;
    const both = way(t.entries)
      .barriers.filter((b) => b.element === two.element)
      .map((b) => b.name);
    expect(both).toHaveLength(2);
    const half = way(t.entries, [both[0]!]);
    expect(half.barriersLeft).toBe(1);
    expect(half.sides.every((s) => s.barriersLeft >= 1)).toBe(true);
    expect(way(t.entries, both).barriersLeft).toBe(0);
  });

  it('an open defect is an open place; two of them need two closings', () => {
    const t = begun();
    const state = fold(t.entries);
    const [a, b] = [
      seamId(state, 'wall-wall-inside|wall:back|wall:left'),
      seamId(state, 'floor-wall|floor|wall:right'),
    ];
    for (const element of [a, b])
      t.write('defect-found', {
        stage: 'membrane',
        place: placeOf(fold(t.entries), element),
        kind: 'short-lap',
        severity: 'stop',
        words: 'open',
        photos: [],
      });
    const { cut, sides, barriers } = way(t.entries);
    const one = (element: string) => barriers.filter((x) => x.element === element).every((x) => x.isOpen);
    const open = [a, b].filter(one);
    expect(open.length).toBeGreaterThan(0);
    expect(cut.map((c) => c.element).sort()).toEqual([...open].sort());
    for (const element of open) expect(sides.some((s) => s.through.includes(element))).toBe(true);
  });

  it('of nothing drawn it says nothing', () => {
    expect(waterWay(fold([]), RATES, new Set())).toBeNull();
  });
});
