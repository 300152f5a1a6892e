import { ROOM_SHAPES } from '@careful-seam/core/shower/geometry/roomShapes';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawShower } from './drawing';
import type { DrawingWords, Field } from './lengthReader';
import { LENGTHS, type LengthName, movedParts, newBench, newNiche, sizesFor, startTyped, type Typed } from './typed';

const id = (part: string) => part;
const words: DrawingWords = {
  names: Object.fromEntries(LENGTHS.map((n) => [n, n])) as Record<LengthName, string>,
  small: (least) => `at least ${least}`,
  large: (most) => `at most ${most}`,
  angle: 'an angle is needed',
  notClosed: 'does not close',
};
const typed = startTyped('in', id);
const draw = (change: Partial<Typed>, unit: 'in' | 'mm' = 'in') => drawShower({ ...typed, ...change }, id, unit, words);
const shaped = (shape: Typed['shape'], more: Partial<Typed> = {}) =>
  draw({ ...sizesFor(typed, shape, 'in'), ...movedParts(typed, shape), shape, ...more });

describe('drawing a shower from typed lengths', () => {
  it('gives the model, its fall, and no problems', () => {
    const drawn = draw({});
    expect(drawn.problems).toEqual({});
    expect(drawn.fall!.verdict).toBe('pass');
    expect(drawn.geometry!.perimeterRiseMm! / 25.4).toBeCloseTo(0.75, 6);
  });
  it.each([...ROOM_SHAPES])('draws the shape %s as it opens, in inches and in metric', (shape) => {
    expect(shaped(shape).problems).toEqual({});
    const metric = startTyped('mm', id);
    const drawn = drawShower({ ...metric, ...sizesFor(metric, shape, 'mm'), shape }, id, 'mm', words);
    expect(drawn.problems).toEqual({});
    expect(drawn.model!.seams.length).toBeGreaterThan(8);
  });
  it('draws a neo-angle steam shower with two niches and a bench', () => {
    const { model, problems } = shaped('neo-angle', {
      ceiling: 'sloped',
      niches: [newNiche('in', 'n1', 'back'), { ...newNiche('in', 'n2', 'left'), shelf: '6' }],
      benches: [newBench('in', 'b', 'left')],
    });
    expect(problems).toEqual({});
    const kinds = new Set(model!.seams.map((s) => s.kind));
    for (const kind of ['wall-ceiling', 'niche-mouth', 'niche-shelf', 'bench-wall', 'curb-curb'] as const)
      expect(kinds.has(kind)).toBe(true);
  });
  it('draws without pipes or joints, with another kind of side, and a floor outside', () => {
    const bare = draw({ boardJoint: '', sheetLap: '', pipes: [] }).model!;
    expect([bare.penetrations.length, bare.seams.filter((s) => s.kind === 'board-joint').length]).toEqual([0, 0]);
    const open = draw({ kinds: { front: 'open', right: 'half-wall' }, outside: '24' }).model!;
    expect(open.faces.some((f) => f.kind === 'wall-cap')).toBe(true);
    expect(open.faces.some((f) => f.kind === 'outside-floor')).toBe(true);
  });
  it('lays boards out and counts them', () => {
    const { boards, model } = draw({ boards: 'laid' });
    expect(boards).toMatchObject({ pieces: 9, sheets: 9 });
    expect(boards!.narrowestMm).toBeCloseTo(24 * 25.4, 6);
    expect(model!.seams.filter((s) => s.kind === 'board-joint').length).toBe(6);
  });
  it('keeps ids while sizes change', () => {
    const ids = (width: string) => draw({ width }).model!.seams.map((s) => s.id);
    expect(ids('61')).toEqual(ids('60'));
  });
  it('takes a room from the tape, tells what does not close, and spreads it when asked', () => {
    const off = typed.taped.map((s, k) => (k === 2 ? { ...s, length: '60 1/2' } : s));
    expect(shaped('tape').problems).toEqual({});
    const open = shaped('tape', { taped: off });
    expect(open.problems.form).toBe('does not close');
    expect(open.tape!.open.closingMm).toBeCloseTo(12.7, 6);
    expect(shaped('tape', { taped: off, spread: true, diagonal: '71' }).tape!.diagonalMm).toBeGreaterThan(0);
    const angle = typed.taped.map((s, k) => (k === 1 ? { ...s, angle: '' } : s));
    expect(shaped('tape', { taped: angle }).problems['taped.1']).toBe('an angle is needed');
  });
  it.each<[Partial<Typed>, Field]>([
    [{ width: 'wide' }, 'width'],
    [{ width: '1' }, 'width'],
    [{ depth: '-3' }, 'depth'],
    [{ wallHeight: '9000' }, 'wallHeight'],
    [{ curbHeight: '1/8' }, 'curbHeight'],
    [{ drainLeft: '70' }, 'drainLeft'],
    [{ boardJoint: '200' }, 'boardJoint'],
    [{ sheetLap: '200' }, 'sheetLap'],
    [{ boards: 'laid', sheetOffset: '99' }, 'sheetOffset'],
    [{ niches: [{ ...newNiche('in', 'n', 'back'), along: '55' }] }, 'niches.0'],
    [{ niches: [{ ...newNiche('in', 'n', 'back'), sill: 'high' }] }, 'niches.0'],
    [{ benches: [{ ...newBench('in', 'b', 'back'), width: '90' }] }, 'benches.0'],
    [{ benches: [{ ...newBench('in', 'b', 'back'), kind: 'along', width: '60', depth: '20' }] }, 'benches.0'],
    [{ pipes: [{ id: 'p', kind: 'valve', wall: 'left', along: '1', height: '40' }] }, 'pipes.0'],
    [{ kinds: { right: 'half-wall' }, halfHeight: '100' }, 'wallHeight'],
  ])('tells a fault of %j beside %s', (change, field) => {
    const drawn = draw(change);
    expect(drawn.model).toBeNull();
    expect(Object.keys(drawn.problems)).toEqual([field]);
  });
  it('never throws, whatever is typed', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...LENGTHS),
        fc.string({ maxLength: 12 }),
        fc.constantFrom(...ROOM_SHAPES),
        (name, text, shape) => {
          const drawn = shaped(shape, { [name]: text, ceiling: 'sloped', boards: 'laid' });
          expect(drawn.model === null).toBe(Object.keys(drawn.problems).length > 0);
        },
      ),
      { numRuns: 200 },
    );
  });
});
