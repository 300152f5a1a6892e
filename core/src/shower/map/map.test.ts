import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { alongLine, lineWork } from '../../proof/shown/lineWork';
import { buildLedger, type SeamLine, seamFigures } from '../../proof/shown/seamLine';
import { anyShower } from '../../tests/anyShower';
import { passFlood, readyForWater } from '../../tests/sampleFlood';
import { begun, climb, fold, lapReading, pass } from '../../tests/sampleTablet';
import { signedAreaMm2 } from '../geometry/polygon';
import type { ShowerGeometry } from '../geometry/showerGeometry';
import { showerModel } from '../geometry/showerModel';
import { arrange, type PlacedPanel, toSheet } from './arrange';
import { drawnLengthMm, unfold } from './unfold';

const SHEET = { width: 660, height: 660, gap: 12, title: 22 };
const line = (pieces: SeamLine['pieces'], ticksMm: number[] = []): SeamLine => ({ seam: 's', pieces, ticksMm });
const piece = (fromMm: number, toMm: number, state: SeamLine['pieces'][number]['state'], water = false) => ({
  fromMm,
  toMm,
  state,
  water,
});

describe('line work', () => {
  it('tells each state by its stroke, not by colour alone', () => {
    const strokes = lineWork(
      line(
        [
          piece(0, 50, 'measured'),
          piece(50, 100, 'defect'),
          piece(100, 150, 'covered'),
          piece(150, 200, 'unseen', true),
        ],
        [25],
      ),
      200,
      [
        [0, 0],
        [200, 0],
      ],
      { tooth: 8, tick: 5, gap: 4 },
    );
    expect(strokes.map((s) => s.state)).toEqual(['measured', 'defect', 'covered', 'tick', 'water', 'unseen', 'tick']);
    expect(strokes[0]!.path).toBe('M0 0L50 0');
    expect(strokes[1]!.path.split('L').length).toBeGreaterThan(5);
    expect(strokes[4]!.path).toBe('M150 4L200 4');
    expect(strokes[6]!.path).toBe('M25 -5L25 5');
  });
  it('follows a line round its corners', () => {
    const bent: [number, number][] = [
      [0, 0],
      [100, 0],
      [100, 50],
    ];
    expect(alongLine(bent, 0.5).at).toEqual([75, 0]);
    expect(lineWork(line([piece(0, 150, 'seen')]), 150, bent, { tooth: 1, tick: 1, gap: 1 })[0]!.path).toBe(
      'M0 0L100 0L100 50',
    );
  });
});

function built(geometry: ShowerGeometry) {
  const model = showerModel(geometry);
  if (!model.ok) throw new Error(`${model.problem.field}: ${model.problem.code}`);
  return model.value;
}

describe('the shower laid open', () => {
  it('keeps lengths and areas of every part of any shower, and leaves no seam or corner out', () => {
    fc.assert(
      fc.property(anyShower, ({ geometry }) => {
        const model = built(geometry);
        const panels = unfold(model);
        const lengths = new Map(model.seams.map((s) => [s.id, s.lengthMm]));
        const areas = new Map(model.faces.map((f) => [f.id, f.areaMm2]));
        for (const panel of panels) {
          for (const d of panel.seams) expect(drawnLengthMm(d.points)).toBeCloseTo(lengths.get(d.seam)!, 1);
          for (const f of panel.faces) {
            const area = [f.outline, ...f.holes].reduce(
              (sum, loop) => sum + signedAreaMm2(loop.map(([xMm, yMm]) => ({ xMm, yMm }))),
              0,
            );
            expect(Math.abs(Math.abs(area) - areas.get(f.face)!)).toBeLessThan(5);
          }
        }
        const drawn = new Set(panels.flatMap((p) => p.seams.map((d) => d.seam)));
        expect(model.seams.filter((s) => !drawn.has(s.id)).map((s) => s.id)).toEqual([]);
        const marked = panels.flatMap((p) => p.points.map((x) => x.element));
        expect(marked.sort()).toEqual(
          [...model.corners.map((c) => c.id), ...model.penetrations.map((x) => x.id), model.drain.id].sort(),
        );
      }),
      { numRuns: 150 },
    );
  });
  it('keeps every part of any shower on its sheet and none over another', () => {
    fc.assert(
      fc.property(anyShower, ({ geometry }) => apart(arrange(unfold(built(geometry)), SHEET).panels)),
      { numRuns: 100 },
    );
  });
});

function apart(panels: readonly PlacedPanel[]): void {
  for (const p of panels) {
    expect(p.x).toBeGreaterThanOrEqual(-0.01);
    expect(p.x + p.width).toBeLessThanOrEqual(SHEET.width + 0.01);
    expect(p.y + p.height).toBeLessThanOrEqual(SHEET.height + 0.01);
  }
  panels.forEach((a, i) => {
    for (const b of panels.slice(i + 1)) {
      const free =
        a.x + a.width <= b.x + 0.01 ||
        b.x + b.width <= a.x + 0.01 ||
        a.y + a.height <= b.y + 0.01 ||
        b.y + b.height <= a.y + 0.01;
      expect(`${a.panel.id} and ${b.panel.id}: ${free}`).toBe(`${a.panel.id} and ${b.panel.id}: true`);
    }
  });
}

describe('the arrangement', () => {
  it('keeps every part on the sheet and none over another, for any size', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 700, max: 3000 }),
        fc.integer({ min: 700, max: 3000 }),
        fc.boolean(),
        (widthMm, depthMm, corner) => {
          const model = fold(begun({ widthMm, depthMm, corner }).entries).geometry!.model;
          const { panels } = arrange(unfold(model), SHEET);
          apart(panels);
          for (const p of panels) {
            const [x, y] = toSheet(p, [p.panel.box.minX, p.panel.box.minY]);
            expect([x, y]).toEqual([p.x, p.y + p.height]);
          }
        },
      ),
      { numRuns: 60 },
    );
  });
  it('lines up the heights of all walls', () => {
    const { panels } = arrange(unfold(fold(begun().entries).geometry!.model), SHEET);
    const feet = panels.filter((p) => p.panel.kind === 'wall').map((p) => toSheet(p, [0, 500])[1]);
    for (const y of feet) expect(y).toBeCloseTo(feet[0]!, 9);
  });
});

describe('the ledger in figures', () => {
  it('adds up to the length of the seams that are asked for, whatever was answered', () => {
    const t = begun();
    climb(t, 'membrane');
    lapReading(t, 'floor-wall|floor|wall:back', 'wall:back', 300, 40);
    pass(t, 'membrane', (r) => r.element.startsWith('sheet-lap'));
    const state = fold(t.entries);
    const { lines, figures } = buildLedger(state, ['membrane']);
    const asked = new Set(state.requirements.filter((r) => r.stage.key === 'membrane').map((r) => r.element));
    const length = [...state.seamById.values()].filter((s) => asked.has(s.id)).reduce((sum, s) => sum + s.lengthMm, 0);
    expect(figures.totalMm).toBeCloseTo(length, 6);
    expect(figures.byState.defect).toBeCloseTo(300, 6);
    for (const l of lines) {
      const seam = state.seamById.get(l.seam)!;
      expect(l.pieces.reduce((sum, p) => sum + p.toMm - p.fromMm, 0)).toBeCloseTo(seam.lengthMm, 6);
    }
  });
  it('doubles what water proved, up to 5 mm below the line', () => {
    const t = readyForWater(begun());
    passFlood(t, 105);
    const state = fold(t.entries);
    const overFloorMm = state.flood!.waterLineMm - 5 - 0.75 * 25.4;
    const { lines } = buildLedger(state, ['membrane']);
    const upright = lines.find((l) => l.seam.startsWith('wall-wall-inside'))!;
    expect(upright.pieces[0]).toMatchObject({ fromMm: 0, water: true });
    expect(upright.pieces[0]!.toMm).toBeCloseTo(overFloorMm, 6);
    expect(lines.find((l) => l.seam.startsWith('floor-wall'))!.pieces.every((p) => p.water)).toBe(true);
    expect(seamFigures([upright]).waterMm).toBeCloseTo(overFloorMm, 6);
    expect(
      drawnLengthMm([
        [0, 0],
        [3, 4],
      ]),
    ).toBe(5);
  });
});
