import { describe, expect, it } from 'vitest';
import { drawPlaces } from '../membrane/samplingPlan';
import { begun, fold, lapReading, placeOf, type Tablet } from '../tests/sampleTablet';
import { drawSeed, drawsOf, lapRequirements } from './randomDraws';

const draws = (t: Tablet) => {
  const state = fold(t.entries);
  return drawsOf(state, lapRequirements(state, 'membrane'));
};

/** Reads the next so many drawn places as the sheet offers them. */
function readDrawn(t: Tablet, values: readonly number[], offMm = 0) {
  return values.map((valueMm) => {
    const state = fold(t.entries);
    const laps = lapRequirements(state, 'membrane');
    const { seed, read } = drawsOf(state, laps).at(-1)!;
    const number = read.size + 1;
    const place = drawPlaces(laps, 59, seed)[number - 1]!;
    const length = laps.find((l) => l.element === place.element)!.lengthMm;
    const atMm = place.atMm + offMm <= length ? place.atMm + offMm : place.atMm - offMm;
    t.write('reading', {
      stage: 'membrane',
      check: laps[0]!.check.id,
      place: placeOf(state, place.element, place.side ? { side: place.side } : {}),
      atMm,
      valueMm,
      typed: String(valueMm),
      instrument: 'rule',
      drawn: { seed, number },
    });
    return place;
  });
}

describe('places drawn at random', () => {
  it('are the same for whoever opens the sheet, as often as he likes, and others after each draw', () => {
    const t = begun();
    expect(draws(t)).toEqual(draws(t));
    expect(draws(t)[0]).toMatchObject({ number: 1, short: 0, over: null });
    expect(drawSeed('a', 'lap', 1)).toBe(drawSeed('a', 'lap', 1));
    const seeds = new Set([1, 2, 3].flatMap((n) => [drawSeed('a', 'lap', n), drawSeed('b', 'lap', n)]));
    expect(seeds.size).toBe(6);
  });

  it('speak of one check alone: the one with the longest lines', () => {
    const state = fold(begun().entries);
    const laps = lapRequirements(state, 'membrane');
    expect(new Set(laps.map((l) => l.check.id)).size).toBe(1);
    const others = state.requirements.filter(
      (r) =>
        r.stage.key === 'membrane' && r.hasLength && r.check.kind === 'measured' && r.check.id !== laps[0]!.check.id,
    );
    const longest = laps.reduce((sum, l) => sum + l.lengthMm, 0);
    for (const id of new Set(others.map((o) => o.check.id)))
      expect(others.filter((o) => o.check.id === id).reduce((sum, o) => sum + o.lengthMm, 0)).toBeLessThanOrEqual(
        longest,
      );
  });

  it('count what was short, also once it was built again, and begin anew after the repair', () => {
    const t = begun();
    const [, bad] = readDrawn(t, [55, 40, 55]);
    expect(draws(t)).toMatchObject([{ number: 1, short: 1, over: null }]);
    expect(draws(t)[0]!.read.size).toBe(3);
    const place = placeOf(fold(t.entries), bad!.element);
    t.write('redo', { stage: 'membrane', places: [place], reason: 'too short' });
    const [old, next] = draws(t);
    expect(old).toMatchObject({ number: 1, short: 1, over: 'repaired' });
    expect(old!.read.size).toBe(3);
    expect(next).toMatchObject({ number: 2, short: 0, over: null });
    expect(next!.read.size).toBe(0);
    expect(next!.seed).not.toBe(old!.seed);
    readDrawn(t, [55]);
    expect(draws(t).map((d) => [d.number, d.read.size, d.over])).toEqual([
      [1, 3, 'repaired'],
      [2, 1, null],
    ]);
  });

  it.each(['foot', 'face', 'shower'])('begin anew after a repair where none was read: the %s', (what) => {
    const t = begun();
    const [read] = readDrawn(t, [55]);
    const state = fold(t.entries);
    const foot = lapRequirements(state, 'membrane').find((l) => l.element !== read!.element)!.element;
    const element = { foot, face: 'wall:back', shower: 'shower' }[what]!;
    t.write('redo', { stage: 'membrane', places: [placeOf(state, element)], reason: 'torn' });
    expect(draws(t)[0]!.over).toBe('repaired');
  });

  it('go on after a redo of a later stage, which leaves the laps as they are', () => {
    const t = begun();
    const [read] = readDrawn(t, [55]);
    t.write('redo', { stage: 'tile', places: [placeOf(fold(t.entries), read!.element)], reason: 'cracked' });
    expect(draws(t)[0]!.over).toBeNull();
  });

  it('don’t count when they were read somewhere else', () => {
    const t = begun();
    readDrawn(t, [55], 40);
    expect(draws(t)[0]!.over).toBeNull();
    readDrawn(t, [55], 60);
    expect(draws(t).map((d) => d.over)).toEqual(['elsewhere', null]);
  });

  it('leave readings that were not drawn out of the count', () => {
    const t = begun();
    lapReading(t, 'floor-wall|floor|wall:back', 'wall:back', 300, 40);
    expect(draws(t)[0]).toMatchObject({ short: 0 });
    expect(draws(t)[0]!.read.size).toBe(0);
  });
});
