import { describe, expect, it } from 'vitest';
import { bedThickness } from './bedThickness';
import { drainCentre, flangeLevel, pipeCut } from './flangeLevel';
import { mortarBed, mortarMix } from './mortarBed';
import { makeSurface, ownHeights } from './survey/surface';
import { trayCut } from './trayCut';

const IN = 25.4;
const FOOTPRINT = [
  { xMm: 0, yMm: 0 },
  { xMm: 60 * IN, yMm: 0 },
  { xMm: 60 * IN, yMm: 36 * IN },
  { xMm: 0, yMm: 36 * IN },
];
const FT3_L = 28.316846592;

describe('a mortar bed', () => {
  it('of 36 x 60 in, 1/2 in at the drain, is 0.986 in thick on the whole: 1.232 cubic feet', () => {
    const riseMm = (Math.hypot(30, 18) / 48) * IN;
    const found = mortarBed({
      footprint: FOOTPRINT,
      drain: { xMm: 30 * IN, yMm: 18 * IN },
      thicknessAtDrainMm: IN / 2,
      riseMm,
    });
    if (!found.ok) throw new Error(found.problem.code);
    expect(found.value.meanMm / IN).toBeCloseTo(0.986, 3);
    expect(found.value.volumeL / FT3_L).toBeCloseTo(1.232, 3);
    expect(found.value.leastMm).toBe(IN / 2);
  });
  it('agrees with the sum over a fine grid of the same straight lines, wherever the drain stands', () => {
    const drain = { xMm: 12 * IN, yMm: 25 * IN };
    const found = mortarBed({ footprint: FOOTPRINT, drain, thicknessAtDrainMm: 15, riseMm: 20 });
    if (!found.ok) throw new Error(found.problem.code);
    let [sum, n] = [0, 0];
    for (let i = 0.5; i < 300; i += 1)
      for (let j = 0.5; j < 180; j += 1) {
        const [x, y] = [(i / 300) * 60 * IN - drain.xMm, (j / 180) * 36 * IN - drain.yMm];
        const across = [
          x > 0 ? (60 * IN - drain.xMm) / x : -drain.xMm / x,
          y > 0 ? (36 * IN - drain.yMm) / y : -drain.yMm / y,
        ];
        sum += 15 + 20 / Math.min(...across);
        n += 1;
      }
    expect(found.value.meanMm).toBeCloseTo(sum / n, 2);
  });
  it('with its drain outside the floor is refused', () => {
    expect(mortarBed({ footprint: FOOTPRINT, drain: { xMm: -5, yMm: 5 }, thicknessAtDrainMm: 10, riseMm: 5 }).ok).toBe(
      false,
    );
  });
  it('takes bags rounded up, with the last one weighed out', () => {
    const mix = mortarMix({
      volumeL: 35,
      sandParts: 4,
      shrinkShare: 0.2,
      bulkKgPerL: 1.6,
      bagKg: 27.2,
      waterLPerKg: 0.1,
      spareShare: 0.1,
    });
    if (!mix.ok) throw new Error(mix.problem.code);
    const bulk = (35 * 1.1) / 0.8;
    expect(mix.value.dryKg).toBeCloseTo(bulk * 1.6, 9);
    expect(mix.value.bags).toBe(3);
    expect(mix.value.lastBagShare * 27.2 + 2 * 27.2).toBeCloseTo(mix.value.dryKg, 9);
    expect(mix.value.sandL / mix.value.cementL).toBeCloseTo(4, 9);
  });
});

describe('a tray', () => {
  const cut = (more: Partial<Parameters<typeof trayCut>[0]> = {}) => {
    const found = trayCut({
      opening: { widthMm: 1500, depthMm: 900 },
      drain: { xMm: 750, yMm: 450 },
      tray: { widthMm: 1524, depthMm: 914, xMm: 762, yMm: 457 },
      flatRimMm: 19,
      gapMm: 3,
      fall: 0.02,
      ...more,
    });
    if (!found.ok) throw new Error(found.problem.code);
    return found.value;
  };
  it('is cut alike on opposite sides when its drain stands in the middle, and keeps a flat rim', () => {
    const { cutsMm, rimsMm, level, notchAgain } = cut();
    expect(cutsMm).toEqual({ left: 15, right: 15, front: 10, back: 10 });
    expect(rimsMm.left).toBe(4);
    expect(level).toBe(true);
    expect(notchAgain).toHaveLength(4);
  });
  it('cut more on one side loses its level edge there', () => {
    const { cutsMm, dropsMm, level } = cut({ drain: { xMm: 650, yMm: 450 } });
    expect([cutsMm.left, cutsMm.right]).toEqual([115, -85]);
    expect(dropsMm.left).toBeCloseTo(0.02 * (115 - 19), 9);
    expect(level).toBe(false);
  });
  it('names a sliver, and the side that it does not reach', () => {
    expect(cut({ drain: { xMm: 760, yMm: 450 } }).slivers).toEqual(['left']);
    expect(cut({ drain: { xMm: 650, yMm: 450 } }).short).toEqual(['right']);
    expect(
      trayCut({
        opening: { widthMm: 100, depthMm: 100 },
        drain: { xMm: 200, yMm: 50 },
        tray: { widthMm: 90, depthMm: 90, xMm: 45, yMm: 45 },
        flatRimMm: 0,
        gapMm: 0,
        fall: 0,
      }).ok,
    ).toBe(false);
  });
});

describe('a drain', () => {
  const level = (leftOverRightMm: number, frontOverBackMm: number) => {
    const found = flangeLevel({ leftOverRightMm, frontOverBackMm, overMm: 100, diameterMm: 150, limitMm: 1 });
    if (!found.ok) throw new Error(found.problem.code);
    return found.value;
  };
  it('that hangs to the right is raised on the right, by what it hangs over its width', () => {
    expect(level(1, 0)).toMatchObject({ raiseAtDeg: 90, verdict: 'fail' });
    expect(level(1, 0).raiseMm).toBeCloseTo(1.5, 9);
    expect(level(-1, 0).raiseAtDeg).toBe(270);
    expect(level(0, 1).raiseAtDeg).toBe(0);
    expect(level(0, -1).raiseAtDeg).toBe(180);
    expect(level(1, 1).raiseAtDeg).toBeCloseTo(45, 9);
  });
  it('that is level is left alone', () => {
    expect(level(0, 0)).toMatchObject({ raiseAtDeg: null, verdict: 'pass', outMm: 0 });
    expect(level(0.3, 0).verdict).toBe('pass');
  });
  it('has its pipe cut off by what stands over the flange, at first by less, never by less than nothing', () => {
    const off = (ridgeToFlangeMm: number, reserveMm: number, socketMm?: number) => {
      const cut = pipeCut({ ridgeToFlangeMm, reserveMm, socketMm });
      return cut.ok ? [cut.value.cutOffMm, cut.value.firstCutOffMm] : null;
    };
    expect(off(76.2, 3.175)).toEqual([76.2, 73.025]);
    expect(off(80, 3, 20)).toEqual([60, 57]);
    expect(off(2, 3)).toEqual([2, 0]);
    expect(off(10, 3, 20)).toEqual([0, 0]);
  });
  it('stands in the middle of what board and curb leave', () => {
    const within = drainCentre({ widthMm: 1000, depthMm: 1000, curbMm: 100, curbWithin: true, boardMm: 10 });
    expect(within).toEqual({ ok: true, value: { xMm: 500, yMm: 545, widthMm: 980, depthMm: 890 } });
    const without = drainCentre({ widthMm: 1000, depthMm: 1000, curbMm: 100, curbWithin: false, boardMm: 10 });
    expect(without.ok && without.value.yMm).toBe(495);
  });
});

describe('the thickness of a bed that was shot', () => {
  it('is least at the drain, of the volume that straight lines make, and thin where it is named', () => {
    const drain = { xMm: 30 * IN, yMm: 18 * IN };
    const shots = [0, 15, 30, 45, 60].flatMap((x) =>
      [0, 9, 18, 27, 36].map((y) => {
        const [dx, dy] = [Math.abs(x - 30) / 30, Math.abs(y - 18) / 18];
        return { xMm: x * IN, yMm: y * IN, zMm: 20 * Math.max(dx, dy) };
      }),
    );
    const made = makeSurface({ footprint: FOOTPRINT, drain, drainRimMm: 1 }, shots);
    if (!made.ok) throw new Error(made.problem.code);
    const bed = bedThickness(made.value, ownHeights(made.value, 0), 12.7, 24);
    expect(bed.leastMm).toBeCloseTo(12.7, 9);
    // Triangles cut the edges of the pyramid a little higher than straight lines do.
    expect(bed.meanMm / (12.7 + (20 * 2) / 3)).toBeCloseTo(1.01, 1);
    expect(bed.volumeL).toBeCloseTo((bed.meanMm * 60 * 36 * IN * IN) / 1e6, 6);
    const reach = bed.thin
      .map((i) => made.value.shots[i]!)
      .map((p) => Math.max(Math.abs(p.xMm / IN - 30) / 30, Math.abs(p.yMm / IN - 18) / 18));
    expect(reach).toHaveLength(8);
    expect(new Set(reach)).toEqual(new Set([0.5]));
  });
});
