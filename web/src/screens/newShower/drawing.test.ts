import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawShower, LENGTHS, type LengthName, type PartIds, type Typed } from './drawing';

const ids = Object.fromEntries(
  [
    'front',
    'right',
    'back',
    'left',
    'drain',
    'valve',
    'arm',
    'rightJoint',
    'backJoint',
    'leftJoint',
    'rightLap',
    'backLap',
    'leftLap',
  ].map((x) => [x, x]),
) as PartIds;
const names = Object.fromEntries(LENGTHS.map((n) => [n, n])) as Record<LengthName, string>;
const words = { names, small: (least: number) => `at least ${least}`, large: (most: number) => `at most ${most}` };
const typed: Typed = {
  shape: 'alcove',
  width: '60',
  depth: '36',
  wallHeight: '96',
  curbHeight: '6',
  curbWidth: '4 1/2',
  drainLeft: '30',
  drainFront: '18',
  boardJoint: '48',
  sheetLap: '39',
  valveFront: '18',
  valveHeight: '44',
  armHeight: '78',
};
const draw = (change: Partial<Typed>, unit: 'in' | 'mm' = 'in') =>
  drawShower({ ...typed, ...change }, ids, unit, words);

describe('drawing a shower from typed lengths', () => {
  it('gives the model, its fall, and no problems', () => {
    const drawn = draw({});
    expect(drawn.problems).toEqual({});
    expect(drawn.fall!.verdict).toBe('pass');
    expect(drawn.geometry!.perimeterRiseMm! / 25.4).toBeCloseTo(0.75, 6);
  });
  it('draws a corner shower and one without pipes or joints', () => {
    expect(draw({ shape: 'corner' }).model!.seams.some((s) => s.kind === 'curb-curb')).toBe(true);
    const bare = draw({ boardJoint: '', sheetLap: '', valveFront: '' }).model!;
    expect([bare.penetrations.length, bare.seams.filter((s) => s.kind === 'board-joint').length]).toEqual([0, 0]);
  });
  it.each<[LengthName, string]>([
    ['width', 'wide'],
    ['width', '1'],
    ['depth', '-3'],
    ['wallHeight', '9000'],
    ['curbHeight', '1/8'],
    ['drainLeft', '70'],
    ['boardJoint', '97'],
    ['sheetLap', '200'],
    ['valveFront', '1'],
    ['armHeight', '96'],
  ])('tells a wrong %s beside it: %s', (field, text) => {
    const drawn = draw({ [field]: text });
    expect(Object.keys(drawn.problems)).toEqual([field]);
    expect(drawn.model).toBeNull();
  });
  it('reads bare numbers as millimetres when metric', () => {
    const metric = draw(
      {
        width: '1500',
        depth: '900',
        wallHeight: '2400',
        curbHeight: '150',
        curbWidth: '110',
        drainLeft: '750',
        drainFront: '450',
        boardJoint: '1200',
        sheetLap: '1000',
        valveFront: '450',
        valveHeight: '1100',
        armHeight: '2000',
      },
      'mm',
    );
    expect(metric.geometry!.footprint[2]).toEqual({ xMm: 1500, yMm: 900 });
  });
  it('never throws, whatever is typed', () => {
    fc.assert(
      fc.property(fc.constantFrom(...LENGTHS), fc.string(), (field, text) => {
        const drawn = draw({ [field]: text });
        expect(drawn.model !== null || Object.keys(drawn.problems).length > 0).toBe(true);
      }),
    );
  });
});
