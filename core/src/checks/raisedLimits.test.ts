import { describe, expect, it } from 'vitest';
import { foldShower } from '../proof/fold/foldShower';
import type { MeasuredCheck } from '../rules/checks/measured';
import { combineMethods } from '../rules/combineMethods';
import { defaultRuleBook } from '../rules/defaultRuleBook';
import { NOT_KNOWN } from '../rules/notKnown';
import { showerModel } from '../shower/geometry/showerModel';
import { sampleShower } from '../tests/sampleShower';
import { tablet } from '../tests/sampleTablet';
import { parseLength, showLength } from '../units/length';
import { judge } from './judge';
import { requirementsOf } from './requirements';

const IN = 25.4;
const BOOK = defaultRuleBook();
/** Of a shower that others built nobody asks how it was done. */
const METHODS = BOOK.methods.map((m) => m.key).filter((key) => key !== NOT_KNOWN);

function asked(method: string, id: string, change: (g: ReturnType<typeof sampleShower>) => object = () => ({})) {
  const geometry = sampleShower();
  const model = showerModel({ ...geometry, ...change(geometry) } as typeof geometry);
  if (!model.ok) throw new Error(model.problem.code);
  const found = requirementsOf(model.value, combineMethods(BOOK, { method }, [])!).filter((r) => r.check.id === id);
  expect(found.length).toBeGreaterThan(0);
  return found.map((r) => ({ ...r, leastIn: (r.check as MeasuredCheck).limit.atLeastMm! / IN }));
}

describe('a height that the drawing asks for beyond the rule book’s figure', () => {
  it.each(METHODS)('%s: the membrane reaches the shower head, wherever it stands', (method) => {
    const head = (heightMm: number) => (g: ReturnType<typeof sampleShower>) => ({
      penetrations: [
        ...(g.penetrations ?? []).filter((p) => p.kind !== 'shower-arm'),
        { id: 'head', kind: 'shower-arm', edge: 1, alongMm: 500, heightMm, diameterMm: 20 },
      ],
    });
    for (const r of asked(method, 'membrane-height', head(82 * IN))) {
      // From the wall's foot, which stands 3/4 in over the drain.
      expect(r.leastIn).toBeCloseTo(82.75, 6);
      expect(r.raised).toBe('shower-head');
    }
  });
  it.each(METHODS)('%s: and 6 ft above the floor at the walls where the head hangs lower', (method) => {
    const low = (g: ReturnType<typeof sampleShower>) => ({ penetrations: [], perimeterRiseMm: IN, drain: g.drain });
    for (const r of asked(method, 'membrane-height', low)) {
      expect(r.leastIn).toBeCloseTo(73, 6);
      expect(r.raised).toBe('six-feet');
    }
  });
  it.each(METHODS.filter((m) => m !== 'ready-pan'))(
    '%s: a curb holds the water that the flood test needs at the threshold',
    (method) => {
      // 2 in at the threshold, which stands 1 in over the drain, and half an inch to the curb's top.
      for (const r of asked(method, 'curb-height', () => ({ perimeterRiseMm: IN }))) {
        expect(r.leastIn).toBeCloseTo(3.5, 6);
        expect(r.raised).toBe('flood-line');
      }
    },
  );
  it('is a mark of the tape, so that what is told as the limit keeps it', () => {
    for (const heightMm of [1700, 1850, 1993, 2011.4])
      for (const r of asked('bonded-sheet', 'membrane-height', (g) => ({
        perimeterRiseMm: 17,
        penetrations: [{ id: 'head', kind: 'shower-arm', edge: 1, alongMm: 500, heightMm, diameterMm: 20 }],
        drain: g.drain,
        // As high as any head: a wall's own top limits nothing here.
        edges: g.edges.map((e) => (e.kind === 'wall' ? { ...e, heightMm: 2400 } : e)),
      }))) {
        expect(r.leastIn * 16).toBeCloseTo(Math.round(r.leastIn * 16), 6);
        const told = parseLength(showLength(r.leastIn * IN, 'in'), 'in');
        expect(told.ok && told.value.mm).toBeCloseTo(r.leastIn * IN, 6);
        expect(Math.max(heightMm, 1828.8) + 17 - r.leastIn * IN).toBeLessThan(IN / 16);
      }
  });
  it('never goes beyond the greatest that the limit allows, nor a wall’s own top', () => {
    const geometry = sampleShower();
    const high = geometry.edges.map((e) => (e.kind === 'curb' ? { ...e, heightMm: 12 * IN } : e));
    for (const r of asked('bonded-sheet', 'curb-height', () => ({ edges: high, perimeterRiseMm: 8 * IN })))
      expect(r.leastIn).toBeCloseTo(9, 6);
    const short = geometry.edges.map((e) => (e.kind === 'wall' ? { ...e, heightMm: 60 * IN } : e));
    for (const r of asked('bonded-sheet', 'membrane-height', () => ({ edges: short, penetrations: [] }))) {
      expect(r.leastIn).toBeLessThanOrEqual(61);
      expect(r.raised).toBeNull();
    }
  });
});

describe('a reading under a raised limit', () => {
  it('opens a defect, as one under the book’s own figure does', () => {
    const t = tablet(1);
    t.write('shower-created', { name: 'Head', job: 'Job', crewId: 'crew', timeZone: 'UTC' });
    t.write('geometry-set', { version: 1, geometry: sampleShower() });
    t.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'liquid' });
    const state = () => foldShower(t.entries, () => BOOK);
    const read = (inches: number) =>
      t.write('reading', {
        stage: 'membrane',
        check: 'membrane-height',
        place: { element: 'wall:back' },
        atMm: 0,
        valueMm: inches * IN,
        typed: `${inches}`,
        instrument: 'tape',
      });
    // 6 ft over the foot, which stands 3/4 in over the drain; the book's own figure is 70 in.
    const low = read(71);
    expect(state().defects.get(low)).toMatchObject({ check: 'membrane-height', severity: 'fix' });
    expect(state().defects.has(read(72.75))).toBe(false);
  });
});

describe('a bench’s span goes by its layers', () => {
  function bench() {
    const t = tablet(1);
    t.write('shower-created', { name: 'Bench', job: 'Job', crewId: 'crew', timeZone: 'UTC' });
    t.write('geometry-set', {
      version: 1,
      geometry: {
        ...sampleShower(),
        benches: [{ kind: 'along', id: 'b', edge: 2, alongMm: 0, widthMm: 60 * IN, depthMm: 15 * IN, topMm: 18 * IN }],
      },
    });
    t.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' });
    const state = () => foldShower(t.entries, () => BOOK);
    const top = state().requirements.find((r) => r.check.id === 'bench-span')!.element;
    return {
      span: (inches: number) =>
        t.write('reading', {
          stage: 'bench',
          check: 'bench-span',
          place: { element: top },
          atMm: 0,
          valueMm: inches * IN,
          typed: `${inches}`,
          instrument: 'tape',
        }),
      layers: (number: number) =>
        t.write('look', { stage: 'bench', checks: ['bench-layers'], places: [{ element: top }], answer: 'ok', number }),
      tell: (stage: string, check: string, more: object) =>
        t.write('look', { stage, checks: [check], places: [{ element: top }], answer: 'ok', ...more }),
      redo: () => t.write('redo', { stage: 'bench', places: [{ element: top }], reason: 'rotten' }),
      found: (id = 'bench-span') => {
        const now = state();
        return judge(now, now.requirements.find((r) => r.check.id === id)!);
      },
    };
  }

  it('18 in in one, 36 in in two, nothing beyond; and wider than 18 in nothing is decided before the layers are told', () => {
    const b = bench();
    b.span(30);
    expect(b.found().verdict).toBe('undecided');
    b.layers(1);
    expect(b.found()).toMatchObject({ verdict: 'fail', requirement: { check: { limit: { atMostMm: 18 * IN } } } });
    b.layers(2);
    expect(b.found().verdict).toBe('pass');
    b.layers(3);
    expect(b.found().verdict).toBe('pass');
    b.layers(1);
    expect(b.found().verdict).toBe('fail');
    b.layers(2);
    b.span(36);
    expect(b.found().verdict).toBe('pass');
    b.span(36.1);
    expect(b.found().verdict).toBe('fail');
  });
  it('at 18 in any number of layers carries it; a bench of no layer is none', () => {
    const b = bench();
    b.span(18);
    expect(b.found().verdict).toBe('pass');
    expect(b.found('bench-layers').verdict).toBe('unseen');
    b.layers(0);
    expect(b.found('bench-layers').verdict).toBe('fail');
    expect(b.found().requirement.check).toMatchObject({ limit: { atMostMm: 18 * IN } });
  });
  it('by nothing else that is told of it, nor by what a redo took away', () => {
    const b = bench();
    b.span(30);
    // Another figure of the same seat, layers without a number, and the same words at another stage.
    b.tell('bench', 'bench-board', { number: 2 });
    b.tell('bench', 'bench-layers', {});
    b.tell('membrane', 'bench-layers', { number: 2 });
    expect(b.found().verdict).toBe('undecided');
    b.layers(2);
    b.tell('bench', 'bench-layers', {});
    expect(b.found().verdict).toBe('pass');
    b.redo();
    b.span(30);
    expect(b.found().verdict).toBe('undecided');
  });
});
