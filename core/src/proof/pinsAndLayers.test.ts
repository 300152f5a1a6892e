import { describe, expect, it } from 'vitest';
import { filmFound } from '../checks/film';
import { judge, judgeStage } from '../checks/judge';
import { builtAs } from '../checks/position';
import { requirementsOf } from '../checks/requirements';
import type { Body } from '../log/bodies';
import { defaultRuleBook } from '../rules/defaultRuleBook';
import { RuleBook } from '../rules/ruleBook';
import { showerModel } from '../shower/geometry/showerModel';
import { lookForWater, waterIn } from '../tests/sampleFlood';
import { sampleShower } from '../tests/sampleShower';
import {
  BOOK,
  begun,
  byOther,
  climb,
  fold,
  lapReading,
  MANAGER,
  pass,
  placeOf,
  releaseBody,
  type Tablet,
  tablet,
} from '../tests/sampleTablet';
import { atMoment, foldShower } from './fold/foldShower';
import { keptAfter } from './fold/keptAfter';
import { toProveAgain } from './holds/defectLife';
import { releaseStatement } from './holds/stand';
import { waysOf } from './shown/waysOf';

const IN = 25.4;
const foot = 'floor-wall|floor|wall:back';
const SHIPPED = defaultRuleBook();
const workDone = (stage: string): Body<'work-done'> => ({ stage, crewId: 'crew', who: 'crew', day: '2026-01-02' });

describe('a pin that asks less of what was seen is a manager’s', () => {
  const pin = (t: Tablet, more: object, who?: typeof MANAGER) => {
    const body = { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet', ...more } as Body<'rules-pinned'>;
    if (who) byOther(t, who, (boss) => boss.write('rules-pinned', body));
    else t.write('rules-pinned', body);
    return fold(t.entries).orphans.length === 0;
  };
  const seen = (stage = 'base') => {
    const t = begun();
    const check = { base: 'bedding', boards: 'board-kind' }[stage]!;
    const element = { base: 'floor', boards: 'wall:back' }[stage]!;
    t.write('look', { stage, checks: [check], places: [{ element }], answer: 'ok' });
    return t;
  };
  it('nothing was seen: anybody pins what he likes', () => {
    expect(pin(begun(), { method: 'sealant-board', beginsAt: 'membrane' })).toBe(true);
  });
  it('the same again, or more, is anybody’s', () => {
    expect(pin(seen(), {})).toBe(true);
    expect(pin(seen(), { beginsAt: 'base' })).toBe(true);
    expect(pin(seen(), { beginsAt: 'subfloor' })).toBe(true);
    expect(pin(seen(), { variants: ['wet-room'] })).toBe(true);
    expect(pin(seen(), { parts: { walls: 'bonded-sheet' } })).toBe(true);
  });
  it('a first stage above what was seen, though other things were seen higher up', () => {
    expect(pin(seen(), { beginsAt: 'boards' })).toBe(false);
    const both = seen();
    both.write('look', {
      stage: 'membrane',
      checks: ['bond'],
      places: [placeOf(fold(both.entries), foot)],
      answer: 'ok',
    });
    expect(pin(both, { beginsAt: 'boards' })).toBe(false);
    expect(pin(seen('boards'), { beginsAt: 'boards' })).toBe(true);
    expect(pin(seen(), { beginsAt: 'boards' }, MANAGER)).toBe(true);
    // What a redo took away was not seen.
    const gone = seen();
    gone.write('redo', { stage: 'base', places: [{ element: 'floor' }], reason: 'out' });
    expect(pin(gone, { beginsAt: 'boards' })).toBe(true);
  });
  it('another method, of all or of one part; a way of building left out', () => {
    expect(pin(seen(), { method: 'sealant-board' })).toBe(false);
    expect(pin(seen(), { parts: { curb: 'sealant-board' } })).toBe(false);
    const parts = Object.fromEntries(
      ['floor', 'curb', 'walls', 'niche', 'bench', 'ceiling', 'outside-floor'].map((p) => [p, 'bonded-sheet']),
    );
    // All parts as before, under another main method.
    expect(pin(seen(), { method: 'sealant-board', parts })).toBe(false);
    const wet = begun();
    wet.write('rules-pinned', {
      ruleBook: BOOK.id,
      version: BOOK.version,
      method: 'bonded-sheet',
      variants: ['wet-room', 'unlevel'],
    } as Body<'rules-pinned'>);
    wet.write('look', { stage: 'base', checks: ['bedding'], places: [{ element: 'floor' }], answer: 'ok' });
    expect(pin(wet, { variants: ['unlevel', 'wet-room'] })).toBe(true);
    expect(pin(wet, { variants: ['unlevel'] })).toBe(false);
  });
});

describe('what an edit of the dimensions would take', () => {
  it('is counted before it is made: what keeps its place, and what does not', () => {
    const t = begun();
    t.write('look', { stage: 'base', checks: ['bedding'], places: [{ element: 'floor' }], answer: 'ok' });
    t.write('look', { stage: 'membrane', checks: ['bond'], places: [placeOf(fold(t.entries), foot)], answer: 'ok' });
    lapReading(t, foot, 'wall:back', 300, 55);
    const made = (widthMm: number) => {
      const model = showerModel(sampleShower({ widthMm }));
      if (!model.ok) throw new Error(model.problem.code);
      return keptAfter(fold(t.entries), model.value);
    };
    expect(made(60 * IN)).toMatchObject({ kept: 3, lost: [] });
    const wider = made(70 * IN);
    expect(wider.kept).toBe(0);
    expect(wider.lost.map((e) => e.check)).toEqual(['bedding', 'bond', 'lap']);
    t.write('redo', { stage: 'membrane', places: [placeOf(fold(t.entries), foot)], reason: 'again' });
    expect(made(60 * IN).kept).toBe(1);
  });
});

describe('what a layer covers', () => {
  it('only what is missing on a seam; nothing of what a manager upheld', () => {
    const t = begun();
    climb(t, 'membrane');
    pass(t, 'membrane', (r) => r.element === foot);
    t.write('look', {
      stage: 'membrane',
      checks: ['lap', 'bond'],
      places: [placeOf(fold(t.entries), foot, { fromMm: 0, toMm: 1000 })],
      answer: 'ok',
    });
    const upheld = tablet(77);
    upheld.entries.push(...t.entries);
    upheld.hears(t.entries);
    t.write('work-done', workDone('drain-tie-in'));
    const length = fold(t.entries).seamById.get(foot)!.lengthMm;
    expect([...fold(t.entries).covered]).toEqual([[foot, [{ fromMm: 1000, toMm: length }]]]);
    byOther(upheld, MANAGER, (boss) => boss.write('stage-released', releaseBody('membrane', 'I was there')));
    upheld.write('work-done', workDone('drain-tie-in'));
    expect(fold(upheld.entries).covered.size).toBe(0);
  });
  it('an element that was seen whole but failed is covered as a whole', () => {
    const t = begun();
    climb(t, 'membrane');
    pass(t, 'membrane', (r) => r.check.id === 'membrane-height' && r.element === 'wall:back');
    t.write('reading', {
      stage: 'membrane',
      check: 'membrane-height',
      place: { element: 'wall:back' },
      atMm: 0,
      valueMm: 900,
      typed: '900',
      instrument: 'tape',
    });
    t.write('work-done', workDone('drain-tie-in'));
    expect(fold(t.entries).covered.get('wall:back')).toEqual([{ fromMm: 0, toMm: 1 }]);
  });
  it('a flood needs the layers that ask for more than a wait or a note', () => {
    const t = begun();
    climb(t, 'drain-tie-in');
    waterIn(t);
    lookForWater(t, 'leaving');
    // The cure is a wait alone: it is judged by its hours, not as a layer.
    expect(fold(t.entries).flood!.layersMissing).toEqual(['drain-tie-in']);
    const fresh = begun();
    waterIn(fresh);
    expect(fold(fresh.entries).flood!.layersMissing).toEqual(['base', 'boards', 'curb', 'membrane', 'drain-tie-in']);
  });
});

describe('a shower at a later moment', () => {
  it('is the same one until something falls due; an earlier moment changes nothing', () => {
    const t = begun();
    pass(t, 'base');
    const id = t.write('defect-found', {
      stage: 'base',
      place: { element: 'floor' },
      kind: 'open-lap',
      severity: 'fix',
      words: 'w',
      photos: [],
    } as Body<'defect-found'>);
    t.write('defect-assigned', { defect: id, crewId: 'crew', dueAt: new Date(t.nowMs() + 9e6).toISOString() });
    const state = fold(t.entries);
    expect(atMoment(state, state.clockMs)).toBe(state);
    expect(atMoment(state, state.clockMs - 1)).toBe(state);
    const soon = atMoment(state, state.clockMs + 1);
    expect(soon).not.toBe(state);
    expect(soon.stages).toBe(state.stages);
    expect(soon.clockMs).toBe(state.clockMs + 1);
    const late = atMoment(state, state.clockMs + 1e7);
    expect([...late.stages.keys()]).toEqual([...state.stages.keys()]);
    expect(late.stages.get('base')).not.toBe(state.stages.get('base'));
    expect(late.stages.get('base')).toMatchObject({ begun: true, word: state.stages.get('base')!.word });
    expect(state.clockMs).toBeLessThan(late.clockMs);
  });
  it('says what it was released on: every verdict by check, element and side, and the entries behind them', () => {
    const t = begun();
    pass(t, 'base');
    const state = fold(t.entries);
    const stated = releaseStatement(state, 'base');
    const judged = judgeStage(state, 'base');
    expect(Object.keys(stated.verdicts)).toHaveLength(judged.length);
    expect(stated.verdicts['bedding floor ']).toBe('pass');
    expect(new Set(stated.inputs)).toEqual(
      new Set(t.entries.filter((e) => e.kind === 'look' || e.kind === 'reading').map((e) => e.id)),
    );
    expect(stated.ruleVersion).toBe(BOOK.version);
  });
  it('what a redo for a defect took from one side is to be shown again on that side, a look on both', () => {
    const t = begun();
    climb(t, 'membrane');
    pass(t, 'membrane');
    const defect = lapReading(t, foot, 'wall:back', 300, 40);
    t.write('redo', {
      stage: 'membrane',
      places: [placeOf(fold(t.entries), foot, { fromMm: 250, toMm: 350 })],
      reason: 'again',
      defect,
    });
    const state = fold(t.entries);
    const asked = toProveAgain(state, state.defects.get(defect)!).map(
      (j) => `${j.requirement.check.id} ${j.requirement.side}`,
    );
    expect(asked).toEqual(expect.arrayContaining(['lap floor', 'lap wall:back', 'bond null']));
    expect(new Set(asked).size).toBe(asked.length);
  });
});

describe('ways of building and films by the shipped book', () => {
  const shipped = (rules: object, geometry = sampleShower()) => {
    const t = tablet(1);
    t.write('shower-created', { name: 's', job: 'j', crewId: 'c', timeZone: 'UTC' });
    t.write('geometry-set', { version: 1, geometry });
    t.write('rules-pinned', { ruleBook: SHIPPED.id, version: SHIPPED.version, ...rules } as Body<'rules-pinned'>);
    return { t, state: () => foldShower(t.entries, () => SHIPPED) };
  };
  it('each question with the words of its position, of the drawing as of the pin', () => {
    const { state } = shipped({ method: 'liquid' });
    const ways = waysOf(state());
    expect(ways.length).toBeGreaterThan(40);
    for (const way of ways) {
      const question = SHIPPED.disagreements.find((d) => d.id === way.id)!;
      expect(way.text).toBe(question.positions.find((p) => p.key === way.position)!.text);
      expect(way).toMatchObject({ found: false, effect: 'accept', question: question.question });
    }
    expect(builtAs(state())).toEqual({ method: 'liquid', variants: [] });
    const open = sampleShower().edges.map((e) => (e.kind === 'curb' ? { kind: 'open' as const, id: 'o' } : e));
    const curbless = shipped({ method: 'liquid', variants: ['wet-room'] }, { ...sampleShower(), edges: open });
    expect(builtAs(curbless.state())).toEqual({ method: 'liquid', variants: ['curbless', 'wet-room'] });
    const beyond = (s: ReturnType<typeof state>) => waysOf(s).find((w) => w.id === 'A38')!.position;
    expect([beyond(state()), beyond(curbless.state())]).toEqual(['c', 'a']);
  });
  it('a film’s findings are named by zone, those that pass not; worse is thinner, thicker, or a new reason', () => {
    const { t, state } = shipped({ method: 'liquid', lines: [] });
    const check = state().requirements.find((r) => r.check.kind === 'film')!.check as Extract<
      (typeof SHIPPED.methods)[number]['stages'][number]['checks'][number],
      { kind: 'film' }
    >;
    const labelled = {
      ...check,
      dryLeastUm: 500,
      dryMostUm: 1500,
      wetLeastUm: 400,
      wetMostUm: 900,
      solidsPercent: 50,
      lossShare: 0,
    };
    const film = (record: object) =>
      t.write('reading', {
        stage: 'membrane',
        check: check.id,
        place: { element: 'shower' },
        atMm: 0,
        valueMm: 1,
        typed: '1',
        instrument: 'bucket',
        film: record,
      } as Body<'reading'>);
    film({ of: 'coat', zones: ['floor'], coat: 1, volumeL: 1, waterL: 0, doneAt: '2026-03-01T08:00:00.000Z' });
    film({ of: 'wet', zone: 'floor', coat: 1, wettedUm: 300, nextUm: 350 });
    film({ of: 'dry', zone: 'floor', spotUm: [300, 310, 320], by: 'cut-sample' });
    const model = state().geometry!.model;
    const readings = state().evidence.get('shower')!;
    const { verdict, worst } = filmFound(model, labelled, readings);
    expect(verdict).toBe('fail');
    const area = model.faces.find((f) => f.id === 'floor')!.areaMm2 / 1e6;
    expect(worst['floor thin']).toBeCloseTo(-(0.5 * 1000) / area, 6);
    expect(worst['floor thick']).toBeCloseTo((0.5 * 1000) / area, 6);
    expect(worst).toMatchObject({
      'floor wet': -300,
      'floor spot': -310,
      'floor gauge-thin': 1,
      'floor spots-thin': 1,
    });
    expect(Object.keys(worst).some((k) => k.startsWith('corners'))).toBe(false);
    expect(Object.keys(worst).some((k) => k.startsWith('walls '))).toBe(true);
    expect(judge(state(), state().requirements.find((r) => r.check.kind === 'film')!).verdict).not.toBe('pass');
  });
});

describe('requirements of parts', () => {
  const book = (check: object) =>
    RuleBook.parse({
      id: 'b',
      version: 1,
      title: 'b',
      deference: ['x'],
      defectKinds: [],
      methods: [
        {
          key: 'm',
          label: 'm',
          stages: [
            { key: 'late', order: 9, label: 'Late', holdPoint: true, checks: [check] },
            { key: 'early', order: 1, label: 'Early', holdPoint: true, checks: [check] },
          ],
        },
      ],
    }).methods[0]!;
  const looked = (more: object) => ({
    id: 'c',
    kind: 'looked',
    label: 'l',
    why: 'w',
    severity: 'fix',
    source: 'common practice, no source',
    ...more,
  });
  const made = showerModel(sampleShower({ niche: true }));
  if (!made.ok) throw new Error(made.problem.code);
  const asked = (more: object) => requirementsOf(made.value, book(looked(more)));

  it('in the order of the stages, whatever the book’s own', () => {
    expect(asked({ on: { element: 'drain' } }).map((r) => r.stage.key)).toEqual(['early', 'late']);
  });
  it('a seam between two parts is asked for either of them, each side for its own; a curb and a niche are parts', () => {
    const early = (more: object) => asked(more).filter((r) => r.stage.key === 'early');
    const on = { element: 'seam', kinds: ['floor-wall'], sides: 'none' };
    const all = early({ on }).length;
    expect(all).toBe(3);
    expect(early({ on, parts: ['floor'] })).toHaveLength(3);
    expect(early({ on, parts: ['walls'] })).toHaveLength(3);
    expect(early({ on, parts: ['curb'] })).toHaveLength(0);
    const sides = early({ on: { ...on, sides: 'each' }, parts: ['walls'] }).map((r) => r.side);
    expect(sides.every((s) => s?.startsWith('wall:'))).toBe(true);
    const ends = early({ on: { element: 'seam', kinds: ['top-termination', 'side-termination'], sides: 'each' } });
    // A seam of one face has no side to tell apart.
    for (const r of ends) {
      const seam = made.value.seams.find((s) => s.id === r.element)!;
      if (seam.faces.length === 1) expect(r.side).toBeNull();
    }
    const faces = (part: string) =>
      early({
        on: { element: 'face', kinds: ['curb-top', 'niche', 'niche-shelf', 'wall', 'floor', 'bench-top'] },
        parts: [part],
      }).map((r) => r.element);
    expect(faces('curb')).toEqual(['curb:front:top']);
    expect(faces('niche').every((id) => id.startsWith('niche:n:'))).toBe(true);
    expect(faces('niche').length).toBeGreaterThan(3);
    expect(faces('bench')).toEqual([]);
  });
});
