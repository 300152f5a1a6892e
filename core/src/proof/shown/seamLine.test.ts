import { describe, expect, it } from 'vitest';
import type { Judgement } from '../../log/judgement';
import type { ShowerState } from '../../log/state';
import type { Stretch } from '../../shower/seams/intervals';
import { begun, climb, fold, lapReading, pass, placeOf } from '../../tests/sampleTablet';
import { buildLedger, currentStage, type LINE_STATES, seamFigures, seamLine, unseenMm } from './seamLine';

const foot = 'floor-wall|floor|wall:back';
const start = () => fold(begun().entries);
const span = (fromMm: number, toMm: number): Stretch => ({ fromMm, toMm });

/** A judgement as the line asks of it. */
const judged = (
  kind: 'measured' | 'looked',
  more: Partial<Pick<Judgement, 'seen' | 'measured' | 'failed' | 'deviation' | 'readings'>> = {},
  severity = 'stop',
): Judgement =>
  ({
    requirement: { check: { kind, severity } },
    seen: [],
    measured: [],
    failed: [],
    deviation: null,
    readings: [],
    ...more,
  }) as unknown as Judgement;

describe('the line of a seam', () => {
  const line = (judgements: Judgement[], change: (s: ShowerState) => void = () => {}, id = foot) => {
    const state = start();
    change(state);
    const seam = state.seamById.get(id)!;
    const drawn = seamLine(state, seam, judgements);
    // End to end, from its start to its end.
    expect(drawn.pieces[0]!.fromMm).toBe(0);
    expect(drawn.pieces.at(-1)!.toMm).toBe(seam.lengthMm);
    drawn.pieces.slice(1).forEach((p, i) => {
      expect(p.fromMm).toBe(drawn.pieces[i]!.toMm);
    });
    return drawn.pieces.map((p) => `${p.state}${p.water ? ' wet' : ''} ${Math.round(p.toMm)}`);
  };
  const all = span(0, 1524);

  it('is not required where nothing is asked, unseen where nobody looked', () => {
    expect(line([])).toEqual(['not-required 1524']);
    expect(line([judged('looked')])).toEqual(['unseen 1524']);
    expect(line([judged('looked', {}, 'note')])).toEqual(['not-required 1524']);
    expect(line([judged('looked', { seen: [span(0, 500)] }, 'note')])).toEqual(['seen 500', 'unseen 1524']);
  });
  it('is measured where readings speak, seen where only looks do, and worst of all checks everywhere', () => {
    const look = judged('looked', { seen: [all] });
    const lap = judged('measured', { seen: [all], measured: [span(100, 700)] });
    expect(line([look])).toEqual(['seen 1524']);
    expect(line([look, lap])).toEqual(['seen 100', 'measured 700', 'seen 1524']);
    const both = judged('measured', { seen: [all], measured: [span(400, 1000)] });
    expect(line([look, lap, both])).toEqual(['seen 400', 'measured 700', 'seen 1524']);
    expect(line([judged('looked', { seen: [span(0, 300)] }), lap])).toEqual([
      'seen 100',
      'measured 300',
      'unseen 1524',
    ]);
    const failed = judged('measured', { seen: [all], measured: [span(100, 700)], failed: [span(200, 300)] });
    expect(line([look, failed])).toEqual(['seen 100', 'measured 200', 'defect 300', 'measured 700', 'seen 1524']);
  });
  it('is accepted where a manager accepted it: neither a defect nor unseen', () => {
    const accepted = judged('looked', { failed: [span(0, 500)], deviation: {} as Judgement['deviation'] });
    expect(line([accepted])).toEqual(['seen 1524']);
  });
  it('shows open defects and what was covered unseen, a defect over all else; a closed one not', () => {
    const withDefect =
      (closedAt: string | null, more: object = {}) =>
      (s: ShowerState) => {
        s.defects.set('d', { closedAt, places: [{ element: foot, fromMm: 300, toMm: 400 }], ...more } as never);
        s.covered.set(foot, [span(350, 600)]);
      };
    const look = judged('looked', { seen: [all] });
    expect(line([look], withDefect(null))).toEqual(['seen 300', 'defect 400', 'covered 600', 'seen 1524']);
    expect(line([look], withDefect('2026-01-01'))).toEqual(['seen 350', 'covered 600', 'seen 1524']);
    expect(line([look], withDefect(null, { places: [{ element: 'elsewhere' }] }))).toEqual([
      'seen 350',
      'covered 600',
      'seen 1524',
    ]);
    expect(line([], withDefect(null))).toEqual(['not-required 300', 'defect 400', 'covered 600', 'not-required 1524']);
  });
  it('is doubled below the height that water proved, never outside the water', () => {
    const wet = (below: number | null) => (s: ShowerState) => {
      s.flood = { provedBelowMm: below } as never;
    };
    const upright = [...start().seamById.values()].find((s) => s.kind === 'wall-wall-inside' && s.lengthMm > 2000)!;
    const look = judged('looked', { seen: [span(0, upright.lengthMm)] });
    const drawn = line([look], wet(100), upright.id);
    expect(drawn).toHaveLength(2);
    expect(drawn.filter((p) => p.includes('wet'))).toHaveLength(1);
    expect(line([look], wet(null), upright.id)).toHaveLength(1);
    expect(line([judged('looked', { seen: [all] })], wet(100))).toEqual(['seen wet 1524']);
    const outside = [...start().seamById.values()].find((s) => s.kind === 'curb-outside-floor')!;
    expect(line([judged('looked', { seen: [span(0, outside.lengthMm)] })], wet(1000), outside.id)[0]).not.toContain(
      'wet',
    );
  });
  it('has a tick at each reading, once, in order', () => {
    const state = start();
    const at = (atMm: number) => ({ atMm }) as never;
    const judgements = [
      judged('measured', { readings: [at(900), at(100)] }),
      judged('measured', { readings: [at(100)] }),
    ];
    expect(seamLine(state, state.seamById.get(foot)!, judgements).ticksMm).toEqual([100, 900]);
  });
  it('adds up to its length, each piece in one state, water beside', () => {
    const piece = (state: (typeof LINE_STATES)[number], fromMm: number, toMm: number, water = false) => ({
      state,
      fromMm,
      toMm,
      water,
    });
    const lines = [
      { seam: 'a', ticksMm: [], pieces: [piece('seen', 0, 100), piece('unseen', 100, 130, true)] },
      { seam: 'b', ticksMm: [], pieces: [piece('seen', 0, 50, true), piece('unseen', 50, 60)] },
    ];
    expect(seamFigures(lines)).toMatchObject({
      totalMm: 190,
      waterMm: 80,
      byState: { seen: 150, unseen: 40, defect: 0 },
    });
    expect(unseenMm(lines)).toBe(40);
  });
});

describe('the ledger of a shower', () => {
  it('judges the stages that are asked for, and leaves seams out of its figures that they do not ask of', () => {
    const t = begun();
    climb(t, 'membrane');
    lapReading(t, foot, 'wall:back', 300, 55);
    const state = fold(t.entries);
    const membrane = buildLedger(state, ['membrane']);
    expect(new Set(membrane.judgements.map((j) => j.requirement.stage.key))).toEqual(new Set(['membrane']));
    expect(membrane.lines).toHaveLength(state.seamById.size);
    const asked = membrane.lines.filter((l) => l.pieces.some((p) => p.state !== 'not-required'));
    const mm = asked.reduce((sum, l) => sum + state.seamById.get(l.seam)!.lengthMm, 0);
    expect(membrane.figures.totalMm).toBeCloseTo(mm, 6);
    expect(buildLedger(state, []).figures.totalMm).toBe(0);
    expect(unseenMm(membrane.lines)).toBeGreaterThan(0);
  });
  it('works on the lowest stage that is not released, or the last', () => {
    const t = begun();
    expect(currentStage(fold(t.entries))).toBe('base');
    climb(t, 'boards');
    expect(currentStage(fold(t.entries))).toBe('boards');
    pass(t, 'boards');
    expect(currentStage(fold(t.entries))).toBe('boards');
    t.write('redo', { stage: 'base', places: [placeOf(fold(t.entries), 'floor')], reason: 'low' });
    expect(currentStage(fold(t.entries))).toBe('base');
    expect(currentStage({ ...start(), rules: null })).toBeNull();
    const done = start();
    for (const s of done.rules!.method.stages) done.stages.set(s.key, { word: 'released' } as never);
    const last = done.rules!.method.stages.filter((s) => s.checks.length > 0).sort((a, b) => b.order - a.order)[0]!;
    expect(currentStage(done)).toBe(last.key);
  });
});
