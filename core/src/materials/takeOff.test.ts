import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { defaultRuleBook } from '../rules/defaultRuleBook';
import { NOT_KNOWN } from '../rules/notKnown';
import { sampleModel } from '../tests/sampleShower';
import { cutRolls } from './cutRolls';
import { shoppingList, takeOff, usedVerdict } from './takeOff';

const cut = (rollMm: number, piecesMm: number[]) => {
  const found = cutRolls({ rollMm, piecesMm });
  if (!found.ok) throw new Error(found.problem.code);
  return found.value;
};

describe('pieces cut from rolls', () => {
  it('a plan that longest-first misses is found: 4 rolls become 3', () => {
    // Best fit decreasing needs 4 rolls of 10 for these; 3 hold them: 6+4, 5+3+2, 5+3+2.
    const found = cut(10, [6, 5, 5, 4, 3, 3, 2, 2]);
    expect(found.rolls).toHaveLength(3);
    expect(found).toMatchObject({ atLeastRolls: 3, proved: true });
    expect(found.wasteMm).toBeCloseTo(0, 9);
  });
  it('a piece longer than a roll is made of two that lap', () => {
    const found = cut(1000, [1500]);
    expect(found.rolls.flat().reduce((a, b) => a + b, 0)).toBeCloseTo(1500 + 50.8, 6);
    expect(found.pieceOf.flat()).toEqual([0, 0]);
  });
  it('a roll no longer than its lap makes no longer piece, and a slip in its length is refused at once', () => {
    const refused = (rollMm: number, piecesMm: number[]) => {
      const found = cutRolls({ rollMm, piecesMm });
      return found.ok ? 'cut' : found.problem.field;
    };
    expect(refused(50, [1500])).toBe('rollMm');
    expect(refused(50, [40])).toBe('cut');
    expect(refused(51, [30_000])).toBe('rollMm');
    expect(
      refused(
        3000,
        Array.from({ length: 2000 }, (_, i) => 900 + (i % 977)),
      ),
    ).toBe('cut');
  });
  it('loses no piece, overfills no roll, and never beats the bound; brute force agrees on small ones', () => {
    const least = (pieces: number[], roll: number): number => {
      let best = pieces.length;
      const put = (i: number, room: number[]) => {
        if (room.length >= best) return;
        if (i === pieces.length) {
          best = room.length;
          return;
        }
        for (let k = 0; k < room.length; k += 1)
          if (room[k]! >= pieces[i]!)
            put(
              i + 1,
              room.map((r, j) => (j === k ? r - pieces[i]! : r)),
            );
        put(i + 1, [...room, roll - pieces[i]!]);
      };
      put(0, []);
      return best;
    };
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 5, max: 100 }), { minLength: 1, maxLength: 8 }), (pieces) => {
        const found = cut(100, pieces);
        const given = [...pieces].sort((a, b) => a - b);
        expect(found.rolls.flat().sort((a, b) => a - b)).toEqual(given);
        // Each cut says which piece it is, and none is named twice.
        expect(found.pieceOf.map((roll) => roll.map((k) => pieces[k]))).toEqual(found.rolls);
        expect(new Set(found.pieceOf.flat()).size).toBe(pieces.length);
        for (const roll of found.rolls) expect(roll.reduce((a, b) => a + b, 0)).toBeLessThanOrEqual(100.001);
        expect(found.rolls.length).toBe(least(pieces, 100));
        expect(found.atLeastRolls).toBeLessThanOrEqual(found.rolls.length);
      }),
      { numRuns: 60 },
    );
  });
});

describe('a take-off', () => {
  const model = sampleModel();
  const items = (key: string) => defaultRuleBook().methods.find((m) => m.key === key)!.takeOff;
  const all = () => true;
  const limits = {
    dryLeastUm: 560,
    dryMostUm: null,
    wetLeastUm: null,
    wetMostUm: null,
    solids: 0.5,
    lossShare: 0,
    recoatHours: null,
  };

  it('every method has one, and nothing of it is without a source', () => {
    for (const method of defaultRuleBook().methods) {
      // Of what others built nobody takes anything off.
      if (method.key === NOT_KNOWN) continue;
      expect(method.takeOff.length, method.key).toBeGreaterThan(1);
      expect(method.takeOff.every((i) => i.source !== '')).toBe(true);
    }
  });
  it('bands come to the seams of their kinds and 2 in at each end', () => {
    const lines = takeOff(model, items('bonded-sheet'), all, null);
    const band = lines.find((l) => l.id === 'band')!;
    const item = items('bonded-sheet').find((i) => i.id === 'band')!;
    const seams = model.seams.filter((s) => item.of === 'strips' && item.seams.includes(s.kind));
    expect(band.net).toBeCloseTo(
      seams.reduce((sum, s) => sum + s.lengthMm + 101.6, 0),
      6,
    );
    expect(band.pieces).toHaveLength(seams.length);
    for (const [k, { shower, seam }] of band.goesOn.entries()) {
      expect(shower).toBe(0);
      expect(band.pieces[k]).toBeCloseTo(model.seams.find((s) => s.id === seam)!.lengthMm + 101.6, 6);
    }
    expect(band.packs).toBe(Math.max(band.cut!.rolls.length, Math.ceil(band.withWaste / band.pack)));
  });
  it('a liner is floor and curb and what is turned up at every wall', () => {
    const liner = items('liner-mortar').find((i) => i.id === 'liner')!;
    const [line] = takeOff(model, [liner], all, null);
    const area = model.faces
      .filter((f) => ['floor', 'curb-inner', 'curb-top'].includes(f.kind))
      .reduce((sum, f) => sum + f.areaMm2, 0);
    const walls = model.seams.filter((s) => s.kind === 'floor-wall').reduce((sum, s) => sum + s.lengthMm, 0);
    expect(walls).toBeGreaterThan(1000);
    expect(line!.net).toBeCloseTo((area + walls * 152.4) / 1e6, 9);
  });
  it('the bead is a cylinder along its seams', () => {
    const item = items('sealant-board').find((i) => i.id === 'sealant')!;
    const line = takeOff(model, [item], all, null)[0]!;
    const mm = model.seams
      .filter((s) => item.of === 'bead' && item.seams.includes(s.kind))
      .reduce((sum, s) => sum + s.lengthMm, 0);
    expect(line.net).toBeCloseTo((2 * mm * Math.PI * 6.35 ** 2) / 1e6, 9);
  });
  it('the membrane is the least dry film on all that is coated; without a label it is left out', () => {
    const areas = new Map([
      ['walls', 6],
      ['floor', 2],
      ['corners', 1],
    ] as const);
    const line = takeOff(model, items('liquid'), all, { areas, limits }).find((l) => l.id === 'membrane')!;
    expect(line.net).toBeCloseTo((8 * 560) / 1000 / 0.5, 9);
    expect(takeOff(model, items('liquid'), all, null).some((l) => l.id === 'membrane')).toBe(false);
  });
  it('takes nothing off parts that another method builds', () => {
    const floorOnly = (faces: readonly string[]) => faces.every((f) => f === 'floor');
    const sheet = takeOff(model, items('bonded-sheet'), floorOnly, null).find((l) => l.id === 'sheet')!;
    expect(sheet.net).toBeCloseTo(model.totals.floorMm2 / 1e6, 9);
  });
  it('several showers share their rolls', () => {
    const one = takeOff(model, items('bonded-sheet'), all, null);
    const three = shoppingList([one, one, one]);
    const band = three.find((l) => l.id === 'band')!;
    expect(band.net).toBeCloseTo(3 * one.find((l) => l.id === 'band')!.net, 6);
    expect(band.goesOn.map((g) => g.shower)).toEqual(
      [0, 1, 2].flatMap((k) => one.find((l) => l.id === 'band')!.pieces.map(() => k)),
    );
    expect(band.packs).toBeLessThanOrEqual(3 * one.find((l) => l.id === 'band')!.packs);
  });
  it('far less used than drawn is a finding', () => {
    expect(usedVerdict(10, 6.9)).toBe('far-less');
    expect(usedVerdict(10, 7)).toBe('enough');
  });
});
