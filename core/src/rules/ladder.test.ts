import { describe, expect, it } from 'vitest';
import { requirementsOf } from '../checks/requirements';
import type { ShowerGeometry } from '../shower/geometry/showerGeometry';
import { showerModel } from '../shower/geometry/showerModel';
import { SHAPES, shapedShower } from '../tests/anyShower';
import { sampleShower } from '../tests/sampleShower';
import type { Variant } from './checks/checkBase';
import type { NumberCheck } from './checks/figure';
import { combineMethods, drawnVariants, methodsOfParts, type Pinned } from './combineMethods';
import { defaultRuleBook } from './defaultRuleBook';
import { NOT_KNOWN } from './notKnown';
import { findDisagreement, positionEffect, standingPosition } from './positions';
import { findCheck, findStage } from './ruleBook';

const BOOK = defaultRuleBook();
/** Methods that a shower is built by; of one that others built nobody knows. */
const METHODS = BOOK.methods.map((m) => m.key).filter((key) => key !== NOT_KNOWN);

/** Every row of the trade's ladder by its stage: the checks that stand for it, in whichever methods ask for them. */
const ROWS: [string, ...string[]][] = [
  ['strip-out', 'old-failure', 'utilities-off', 'open-framing', 'timber-moisture'],
  [
    'framing',
    'stud-plane',
    'stud-centres',
    'framing-plumb',
    'blocking',
    'niche-framed',
    'niche-rough',
    'niche-outside-wall',
    'niche-courses',
    'plumbing-test',
  ],
  [
    'subfloor',
    'subfloor-sound',
    'subfloor-flat',
    'subfloor-level',
    'drain-hole',
    'drain-hole-clear',
    'recess-brackets',
    'recess-thickness',
    'floor-primed',
    'substrate-ready',
  ],
  [
    'drain-rough-in',
    'drain-kind',
    'pipe-cut',
    'off-centre',
    'hub-off-centre',
    'pipe-tilt',
    'hub-depth',
    'flange-level-rough',
    'flange-proud',
    'under-flange',
    'flange-height',
    'dry-fit',
    'hub-dry-fit',
    'plumber-hand-over',
  ],
  [
    'base',
    'bedding',
    'base-mortar',
    'notch',
    'ridges-one-way',
    'pan-gap',
    'base-perimeter',
    'base-fall',
    'mortar-at-drain',
    'mortar-single',
    'bed-dry',
  ],
  [
    'boards',
    'board-kind',
    'edge-bead',
    'board-over-bed',
    'board-over-lip',
    'board-foot',
    'fastener-first',
    'fastener-apart',
    'board-fasteners',
    'board-joints',
    'board-plane',
  ],
  ['penetrations', 'hole-close', 'hole-sealed'],
  ['curb', 'curb-height', 'curb-inward', 'curb-whole', 'curb-length', 'membrane-beyond', 'room-floor'],
  ['niche', 'niche-plumb', 'sill-fall', 'niche-edges', 'niche-shelf'],
  ['bench', 'bench-top-fall', 'bench-span', 'bench-seams'],
  [
    'membrane',
    'lap',
    'sealant-spread',
    'mesh-hidden',
    'mesh-end',
    'corner-piece',
    'bond',
    'build-up',
    'fasteners-covered',
    'primer',
    'fabric',
    'film',
    'bucket',
    'no-holiday',
    'membrane-height',
    'termination',
  ],
  ['drain-tie-in', 'flange-bonded', 'liner-cut-inside', 'collar-bedded', 'flange-clean', 'weeps-open'],
  [
    'cure',
    'mortar-cure',
    'sealant-cure',
    'membrane-cure',
    'ready-colour',
    'ready-nail',
    'ready-transfer',
    'not-walked-on',
  ],
  ['flood-test', 'holds-water'],
  ['protection', 'base-covered', 'water-out', 'weeps-protected', 'second-bed'],
  [
    'tile',
    'contact',
    'soft-joint',
    'lippage',
    'finished-fall',
    'tile-at-drain',
    'floor-before-wall',
    'finished-slopes',
    'grout-full',
  ],
  ['hand-over', 'plug-out', 'door-caulked', 'water-run'],
  ['call-back', 'complaint', 'cause-found'],
];

describe('the ladder', () => {
  it('holds every row of it, from strip-out to call-back', () => {
    const known = new Map<string, Set<string>>();
    for (const m of BOOK.methods)
      for (const s of m.stages) known.set(s.key, new Set([...(known.get(s.key) ?? []), ...s.checks.map((c) => c.id)]));
    expect([...known.keys()]).toEqual(ROWS.map(([stage]) => stage));
    for (const [stage, ...rows] of ROWS)
      for (const row of rows) expect(`${stage} ${row}: ${known.get(stage)!.has(row)}`).toBe(`${stage} ${row}: true`);
  });
  it.each(METHODS)('asks %s for something at each hold point of a shower that has all parts', (key) => {
    const { geometry } = shapedShower(SHAPES[2]!(1800, 1500), {
      bench: 3,
      shelves: 1,
      ceiling: 2,
      riseMm: 19,
      lineDrain: false,
    });
    const model = showerModel(geometry);
    if (!model.ok) throw new Error(model.problem.code);
    const method = combineMethods(BOOK, { method: key }, drawnVariants(geometry))!;
    const stages = new Set(
      requirementsOf(model.value, method)
        .filter((r) => r.check.kind !== 'position')
        .map((r) => r.stage.key),
    );
    for (const s of method.stages.filter((x) => x.holdPoint && x.checks.length > 0))
      expect([...stages]).toContain(s.key);
  });
});

describe('what a failed check is called', () => {
  it('is a kind of defect that is offered at its stage', () => {
    const book = defaultRuleBook();
    const kinds = new Map(book.defectKinds.map((k) => [k.id, k.stages]));
    const wrong = book.methods.flatMap((m) =>
      m.stages.flatMap((s) =>
        s.checks.flatMap((c) =>
          c.defectKind === undefined || kinds.get(c.defectKind)?.includes(s.key)
            ? []
            : [`${s.key} ${c.id} ${c.defectKind}`],
        ),
      ),
    );
    expect(wrong).toEqual([]);
    const all = book.methods.flatMap((m) => m.stages.flatMap((s) => s.checks));
    expect(all.filter((c) => c.defectKind !== undefined).length).toBeGreaterThan(all.length / 4);
  });
});

describe('what the trade disagrees on', () => {
  it('holds all 66 questions, each with its positions, a stage of the ladder and what is done about them', () => {
    expect(BOOK.disagreements.map((d) => d.id)).toEqual(Array.from({ length: 66 }, (_, k) => `A${k + 1}`));
    for (const d of BOOK.disagreements) {
      const asked = BOOK.methods.some((m) => findCheck(findStage(m, d.stage)!, d.id)?.kind === 'position');
      expect(`${d.id} ${asked}`).toBe(`${d.id} true`);
      expect(d.positions.length).toBeGreaterThanOrEqual(2);
    }
    const named = BOOK.methods.flatMap((m) => m.stages.flatMap((s) => s.checks.flatMap((c) => c.disagreement ?? [])));
    for (const id of named) expect(findDisagreement(BOOK, id)).not.toBeNull();
  });
  it('takes the position of the method, then the firm’s choice; another one means what the row says', () => {
    const floor = findDisagreement(BOOK, 'A1')!;
    expect(standingPosition(BOOK, floor, { method: 'sealant-board' })).toBe('b');
    expect(standingPosition(BOOK, floor, { method: 'bonded-sheet' })).toBe('a');
    expect(positionEffect(BOOK, floor, { method: 'bonded-sheet' }, 'd')).toBe('deviation');
    expect(positionEffect(BOOK, floor, { method: 'sealant-board' }, 'a')).toBe('deviation');
    const fabric = findDisagreement(BOOK, 'A33')!;
    expect(positionEffect(BOOK, fabric, { method: 'liquid' }, 'c')).toBe('deviation');
    const build = findDisagreement(BOOK, 'A28')!;
    expect(positionEffect(BOOK, build, { method: 'bonded-sheet' }, 'b')).toBe('warning');
    expect(
      standingPosition({ ...BOOK, choices: { A30: 'b' } }, findDisagreement(BOOK, 'A30')!, { method: 'sealant-board' }),
    ).toBe('b');
  });
});

describe('the position that stands is the one the trade holds right for the method', () => {
  const METHODS = ['bonded-sheet', 'sealant-board', 'liquid', 'liner-mortar', 'ready-pan', 'leak-control-flange'];
  const standing = (id: string, variants: Variant[] = []) =>
    METHODS.map((method) => standingPosition(BOOK, findDisagreement(BOOK, id)!, { method, variants })).join('');
  const effect = (id: string, method: string, key: string, variants: Variant[] = []) =>
    positionEffect(BOOK, findDisagreement(BOOK, id)!, { method, variants }, key);

  it.each([
    // In the order of METHODS.
    ['A4', 'eeaaed'],
    ['A20', 'adaaaa'],
    ['A21', 'fdabea'],
    ['A22', 'babaab'],
    ['A23', 'badddd'],
    ['A38', 'cccccc'],
    ['A55', 'babbbb'],
    ['A65', 'bacccc'],
    ['A37', 'bbbbbb'],
  ])('%s', (id, letters) => {
    expect(standing(id)).toBe(letters);
  });
  it('and another one is what the row says', () => {
    // The same drain set flush in a bevelled opening, a board that a paper must allow, an early flood.
    expect(effect('A4', 'liner-mortar', 'b')).toBe('deviation');
    expect(effect('A4', 'leak-control-flange', 'a')).toBe('deviation');
    expect(effect('A20', 'liquid', 'b')).toBe('deviation');
    expect(effect('A20', 'bonded-sheet', 'c')).toBe('deviation');
    expect(effect('A20', 'bonded-sheet', 'd')).toBe('accept');
    expect(effect('A21', 'liner-mortar', 'a')).toBe('deviation');
    expect(effect('A55', 'liquid', 'a')).toBe('deviation');
    expect(effect('A55', 'sealant-board', 'b')).toBe('accept');
    expect(effect('A65', 'liquid', 'a')).toBe('deviation');
    // The order of pan and walls is written down only.
    expect(effect('A22', 'liquid', 'a')).toBe('note');
    expect(effect('A22', 'sealant-board', 'c')).toBe('note');
  });
  it('and follows the way it is built: a curbless floor is tight all over, a steam room up to its ceiling', () => {
    expect(standing('A38', ['curbless'])).toBe('aaaaaa');
    expect(effect('A38', 'liquid', 'd', ['curbless'])).toBe('deviation');
    expect(effect('A38', 'liquid', 'd')).toBe('accept');
    expect(effect('A38', 'liquid', 'b', ['curbless'])).toBe('deviation');
    expect(standing('A37', ['steam'])).toBe('dddddd');
    expect(effect('A37', 'liquid', 'b', ['steam'])).toBe('deviation');
    expect(effect('A37', 'liquid', 'a')).toBe('deviation');
  });
});

describe('figures, places and cautions that people on site found wrong', () => {
  const check = (method: string, stage: string, id: string) =>
    findCheck(findStage(BOOK.methods.find((m) => m.key === method)!, stage)!, id);
  const asking = (id: string) => BOOK.methods.filter((m) => m.stages.some((s) => findCheck(s, id))).map((m) => m.key);

  it('the second bed of a liner goes in after the flood, as its protection', () => {
    expect(check('liner-mortar', 'protection', 'second-bed')).not.toBeNull();
    const stages = BOOK.methods.flatMap((m) => m.stages.filter((s) => findCheck(s, 'second-bed')).map((s) => s.key));
    expect(stages).toEqual(['protection']);
    const order = (key: string) =>
      BOOK.methods.find((m) => m.key === 'liner-mortar')!.stages.find((s) => s.key === key)!.order;
    expect(order('protection')).toBeGreaterThan(order('flood-test'));
  });
  it('the notch under a pan: 3/8 in for sealant-jointed board, 1/4 in for bonded sheet', () => {
    expect(check('sealant-board', 'base', 'notch')).toMatchObject({ limit: { atLeastMm: 9.525 } });
    expect(check('bonded-sheet', 'base', 'notch')).toMatchObject({ limit: { atLeastMm: 6.35 } });
  });
  it('a steam ceiling slopes 2 in per ft, and says that it is from memory', () => {
    for (const method of METHODS) {
      const slope = check(method, 'membrane', 'ceiling-slope');
      expect(slope).toMatchObject({ when: 'steam', unit: 'deg' });
      // 9.46°, kept a little under so that a reading of 9.4 holds.
      expect((slope as NumberCheck).limit!.atLeast!).toBeCloseTo((Math.atan2(2, 12) * 180) / Math.PI, 0);
      expect(slope!.source).toContain('value from memory');
    }
  });
  it('liner and moulded pan: inside wall corners, board joints, curb to floor, and a wait for the liner’s seams', () => {
    expect(asking('joints-closed')).toEqual(expect.arrayContaining(['liner-mortar', 'ready-pan']));
    for (const method of ['liner-mortar', 'ready-pan'])
      expect(check(method, 'membrane', 'joints-closed')).toMatchObject({
        severity: 'stop',
        on: { kinds: expect.arrayContaining(['wall-wall-inside', 'board-joint']) },
      });
    expect(check('ready-pan', 'membrane', 'curb-foot-closed')).toMatchObject({ on: { kinds: ['curb-floor'] } });
    expect(check('liner-mortar', 'cure', 'liner-cure')).toMatchObject({ kind: 'wait', hours: 24 });
  });
  it('the flood’s sources say what is a code, what is from memory and what is practice', () => {
    for (const method of METHODS) {
      const { source } = check(method, 'flood-test', 'holds-water')!;
      for (const words of ['IPC 312.9', '15 minutes', 'UPC 408', 'from memory', '24 h: common practice, no source'])
        expect(source).toContain(words);
    }
  });
  it.each([
    ['strip-out', /mould.*sewage.*edges|lead or asbestos.*mould.*sewage/i],
    ['framing', /power off.*engineer/i],
    ['subfloor', /power off.*engineer/i],
    ['drain-rough-in', /primer, glue and degreaser.*fumes/i],
    ['niche', /silica.*power off/i],
    ['drain-tie-in', /primers and degreaser: fumes/i],
    ['flood-test', /GFCI/],
    ['tile', /respirable silica/i],
    ['hand-over', /glass.*two people/i],
  ])('the caution of %s stands where the hazard is', (stage, words) => {
    for (const m of BOOK.methods) expect(findStage(m, stage)!.caution).toMatch(words);
  });
});

describe('what is asked only where it is', () => {
  const requirements = (method: string, edges: (g: ShowerGeometry) => ShowerGeometry, pinned: Partial<Pinned> = {}) => {
    const geometry = edges(sampleShower({ niche: true }));
    const model = showerModel(geometry);
    if (!model.ok) throw new Error(model.problem.code);
    return requirementsOf(model.value, combineMethods(BOOK, { method, ...pinned }, drawnVariants(geometry))!);
  };
  const asking = (found: ReturnType<typeof requirements>, id: string) =>
    found.filter((r) => r.check.id === id).map((r) => r.element);
  const outside = (edge: number) => (g: ShowerGeometry) => ({
    ...g,
    edges: g.edges.map((e, k) => (k === edge && e.kind === 'wall' ? { ...e, outsideWall: true } : e)),
  });

  it.each(METHODS)('%s: insulation behind a niche only in an outside wall', (method) => {
    expect(
      asking(
        requirements(method, (g) => g),
        'niche-outside-wall',
      ),
    ).toEqual([]);
    expect(asking(requirements(method, outside(3)), 'niche-outside-wall')).toEqual([]);
    expect(asking(requirements(method, outside(2)), 'niche-outside-wall')).toEqual(['niche:n:sill']);
  });
  it.each(METHODS)('%s: the fall of a niche’s sill again in its tile', (method) => {
    const found = requirements(method, (g) => g).filter((r) => r.check.id === 'sill-finished');
    expect(found.map((r) => [r.stage.key, r.element])).toEqual([['tile', 'niche:n:sill']]);
  });
  it('strip-out and call-back where the inspection begins at them, or old tile is drawn; never of a new build', () => {
    const ids = (key: string, pinned: Partial<Pinned>, edges = (g: ShowerGeometry) => g) =>
      requirements('bonded-sheet', edges, pinned)
        .filter((r) => r.stage.key === key && r.check.kind !== 'position')
        .map((r) => r.check.id);
    const kept = (g: ShowerGeometry) => ({
      ...g,
      edges: g.edges.map((e) => (e.kind === 'wall' ? { ...e, keptAbove: true } : e)),
    });
    for (const beginsAt of [undefined, 'framing', 'membrane']) {
      expect(ids('strip-out', { beginsAt })).toEqual([]);
      expect(ids('call-back', { beginsAt })).toEqual([]);
    }
    expect(ids('strip-out', { beginsAt: 'strip-out' })).toContain('hazard-tested');
    expect(ids('call-back', { beginsAt: 'strip-out' })).toEqual(['complaint', 'cause-found']);
    expect(ids('call-back', { beginsAt: 'call-back' })).toEqual(['complaint', 'cause-found']);
    expect(ids('strip-out', { beginsAt: 'call-back' })).toEqual([]);
    expect(ids('strip-out', {}, kept)).toContain('hazard-tested');
    // Beginning there says nothing of old tile: what joins it is asked only where it is drawn.
    const joins = (edges: (g: ShowerGeometry) => ShowerGeometry) =>
      requirements('bonded-sheet', edges, { beginsAt: 'strip-out' }).filter(
        (r) => r.check.when === 'renovation' && r.stage.key === 'boards',
      );
    expect(joins((g) => g)).toEqual([]);
    expect(joins(kept).length).toBeGreaterThan(0);
  });
});

describe('a shower of several methods', () => {
  const model = showerModel(sampleShower());
  if (!model.ok) throw new Error(model.problem.code);
  const pinned: Pinned = { method: 'bonded-sheet', parts: { floor: 'ready-pan', curb: 'ready-pan' } };
  const method = combineMethods(BOOK, pinned, [])!;
  const asked = requirementsOf(model.value, method, methodsOfParts(pinned));

  it('asks each part by its own method, and the drain by the floor’s', () => {
    const ids = (element: string) => asked.filter((r) => r.element === element).map((r) => r.check.id);
    expect(ids('floor')).toContain('pan-level');
    expect(ids('floor')).not.toContain('build-up');
    expect(ids('drain:d')).toContain('pan-drain');
    expect(ids('drain:d')).not.toContain('flange-bonded');
    const lap = asked.filter((r) => r.check.id === 'lap' && r.element === 'floor-wall|floor|wall:back');
    expect(lap.map((r) => r.side)).toEqual(['wall:back']);
  });
  it('asks a named detail of every seam where two methods meet, and of no other', () => {
    const transitions = asked.filter((r) => r.check.id === 'transition-detail').map((r) => r.element);
    const meets = model.value.seams.filter((s) => /^(floor-wall|curb-wall)/.test(s.id) && s.faces.length === 2);
    const inner = meets.filter((s) => s.faces.some((f) => f.startsWith('wall:')));
    expect(transitions.sort()).toEqual(inner.map((s) => s.id).sort());
    expect(asked.find((r) => r.check.id === 'transition-detail')!.check).toMatchObject({ needsApproval: true });
  });
  it('waits for the slowest layer, and begins where the inspection begins', () => {
    const wait = combineMethods(BOOK, { method: 'sealant-board', parts: { walls: 'liquid' } }, [])!;
    const hours = findStage(wait, 'cure')!.checks.flatMap((c) => (c.kind === 'wait' ? c.hours : []));
    expect(Math.max(...hours)).toBe(12);
    const later = combineMethods(BOOK, { method: 'bonded-sheet', beginsAt: 'base' }, [])!;
    expect(later.stages.filter((s) => s.notInspected).map((s) => s.key)).toEqual([
      'strip-out',
      'framing',
      'subfloor',
      'drain-rough-in',
    ]);
    expect(later.stages[0]!.checks).toEqual([]);
    expect(combineMethods(BOOK, { method: 'unknown' }, [])).toBeNull();
  });
  it('asks for steam, curbless and renovation only where the drawing shows them', () => {
    const has = (variants: Parameters<typeof combineMethods>[2], id: string) =>
      combineMethods(BOOK, { method: 'liquid' }, variants)!.stages.some((s) => s.checks.some((c) => c.id === id));
    expect([has([], 'permeance'), has(['steam'], 'permeance')]).toEqual([false, true]);
    expect([has([], 'room-floor'), has(['curbless'], 'room-floor')]).toEqual([false, true]);
    expect([has([], 'board-old-new'), has(['renovation'], 'board-old-new')]).toEqual([false, true]);
  });
});

describe('a check of one side', () => {
  it('is asked of a niche’s sill alone, and of a curb’s inner edge alone', () => {
    const options = { bench: 3, shelves: 1, ceiling: 2, riseMm: 19, lineDrain: false };
    const model = showerModel(shapedShower(SHAPES[0]!(1500, 900), options).geometry);
    if (!model.ok) throw new Error(model.problem.code);
    const asked = requirementsOf(model.value, combineMethods(BOOK, { method: 'bonded-sheet' }, [])!);
    const of = (id: string) => asked.filter((r) => r.check.id === id).map((r) => r.element);
    expect(of('sill-fall')).toHaveLength(1);
    expect(of('sill-fall')[0]).toMatch(/^niche:[^:]+:sill$/);
    expect(of('curb-fall')).toHaveLength(1);
    expect(of('curb-fall')[0]).toMatch(/:inner/);
  });
});

describe('hold points', () => {
  /** What nothing is built over any more: everything stays in sight. */
  const LAST = ['hand-over', 'call-back'];
  it('are all stages that can stop the work and are covered by what comes next, in every method', () => {
    for (const method of BOOK.methods)
      for (const stage of method.stages.filter((s) => !LAST.includes(s.key)))
        if (stage.checks.some((c) => c.severity === 'stop'))
          expect([method.key, stage.key, stage.holdPoint]).toEqual([method.key, stage.key, true]);
  });
});
