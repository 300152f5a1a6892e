import { describe, expect, it } from 'vitest';
import { WHOLE_SHOWER } from '../checks/requirements';
import type { Body } from '../log/bodies';
import { allEvidence } from '../log/state';
import { FILL_MM, HOUR_MS, logged, PLACES, passFlood, readyForWater, waterIn } from '../tests/sampleFlood';
import { sampleShower } from '../tests/sampleShower';
import {
  BOOK,
  BOTH_ANSWERS,
  begun,
  byOther,
  CLOCK,
  CREW,
  climb,
  fold,
  INSPECTOR,
  lapReading,
  MANAGER,
  pass,
  placeOf,
  releaseBody,
  SHOWER,
  type Tablet,
  tablet,
} from '../tests/sampleTablet';
import { foldShower } from './fold/foldShower';
import { blockersOf } from './holds/release';
import { LOGGER_STEP_MM, MARK_STEP_MM } from './water/foldFlood';

const foot = 'floor-wall|floor|wall:back';
const PHOTO = { hash: 'a'.repeat(64), widthPx: 10, heightPx: 10, marks: [] };
const last = <T>(list: readonly T[]): T => list.at(-1)!;

describe('what a shower keeps of its entries', () => {
  it('nothing at first, and nothing of what nobody wrote', () => {
    const state = foldShower([], () => null);
    expect(state).toMatchObject({
      created: null,
      geometry: null,
      rules: null,
      requirements: [],
      releases: [],
      redos: [],
      flood: null,
      earlierFloods: [],
      notes: [],
      photos: [],
      climate: [],
      signed: [],
      lookRequests: [],
      orphans: [],
      seq: 0,
      clockMs: 0,
      lastOrderAt: null,
    });
    for (const kept of [state.evidence, state.defects, state.deviations, state.stages, state.covered, state.redone])
      expect(kept.size).toBe(0);
    const t = begun();
    const fresh = fold(t.entries);
    expect(fresh.geometry).toMatchObject({ version: 1, drawing: null, from: null });
    expect(fresh.created!.showerId).toBe(SHOWER);
    expect(fresh.clockMs).toBe(CLOCK + 3000);
    expect(fresh.lastOrderAt).toBe(last(t.entries).orderAt);
    expect([...fresh.stages.values()].every((s) => s.word === 'open' && !s.begun && s.release === null)).toBe(true);
  });
  it('the first creation, the drawing with its form and its type, all notes, pictures, signatures', () => {
    const t = begun();
    t.write('shower-created', { name: 'Second', job: 'x', crewId: 'c', timeZone: 'UTC' });
    const drawing = { typed: { shape: 'alcove' }, ids: { a: 'b' } } as unknown as Body<'geometry-set'>['drawing'];
    t.write('geometry-set', {
      version: 2,
      geometry: sampleShower(),
      drawing,
      from: { shower: SHOWER, version: 1 },
    } as Body<'geometry-set'>);
    t.write('note', { words: 'dry' } as Body<'note'>);
    const state = fold(t.entries);
    expect(state.created!.body.name).toBe('Test shower');
    expect(state.geometry).toMatchObject({ version: 2, drawing, from: { shower: SHOWER, version: 1 } });
    expect([...state.drawings.keys()]).toEqual([1, 2]);
    expect(state.notes).toHaveLength(1);
  });
  it('a look on each of its places and checks, with all that was said; a reading with its value', () => {
    const t = begun();
    const places = [placeOf(fold(t.entries), foot, { fromMm: 100, toMm: 300 }), { element: 'floor' }];
    const look = t.write('look', {
      stage: 'membrane',
      checks: ['bond', 'lap'],
      places,
      answer: 'not-applicable',
      reason: 'old work',
      shownBy: 'sheet 7',
      number: 4,
      position: 'b',
      used: { band: 3 },
    });
    const all = allEvidence(fold(t.entries)).filter((e) => e.entry === look);
    expect(all.map((e) => `${e.element} ${e.check}`)).toEqual([
      `${foot} bond`,
      `${foot} lap`,
      'floor bond',
      'floor lap',
    ]);
    expect(all[0]).toMatchObject({
      kind: 'look',
      stage: 'membrane',
      side: null,
      stretch: { fromMm: 100, toMm: 300 },
      atMm: 0,
      valueMm: null,
      shot: null,
      film: null,
      drawn: null,
      together: null,
      answer: 'not-applicable',
      reason: 'old work',
      number: 4,
      shownBy: 'sheet 7',
      position: 'b',
      used: { band: 3 },
      author: INSPECTOR.name,
      voids: [],
      voided: false,
      lookAgain: false,
      size: null,
    });
    expect(all[2]).toMatchObject({ stretch: { fromMm: 0, toMm: 1 }, size: { of: 'face' } });
    const reading = lapReading(t, foot, 'wall:back', 300, 55);
    const read = allEvidence(fold(t.entries)).find((e) => e.entry === reading)!;
    expect(read).toMatchObject({
      kind: 'reading',
      check: 'lap',
      side: 'wall:back',
      atMm: 300,
      valueMm: 55,
      answer: null,
      reason: null,
      number: null,
      used: null,
      waitsForManager: false,
      seq: 5,
    });
  });
  it('what lies beside its element is listed and not counted: a look as a whole only where none of its places fits', () => {
    const t = begun();
    const state = fold(t.entries);
    const length = state.seamById.get(foot)!.lengthMm;
    lapReading(t, foot, 'wall:back', length, 55);
    lapReading(t, foot, 'wall:back', length + 1, 55);
    expect(fold(t.entries).orphans).toEqual([]);
    expect(allEvidence(fold(t.entries)).map((e) => e.atMm)).toEqual([length, length]);
    const off = lapReading(t, foot, 'wall:back', length + 1.1, 55);
    const beside = placeOf(state, foot, { fromMm: length + 5, toMm: length + 50 });
    const look = t.write('look', {
      stage: 'membrane',
      checks: ['bond'],
      places: [beside, placeOf(state, foot, { fromMm: length - 5, toMm: length + 50 })],
      answer: 'ok',
    });
    const after = fold(t.entries);
    expect(after.orphans).toEqual([
      { entry: off, why: 'off-element' },
      { entry: look, why: 'off-element' },
    ]);
    expect(allEvidence(after).filter((e) => e.entry === look)).toHaveLength(1);
    // A face has no stretch to lie beside.
    t.write('look', {
      stage: 'base',
      checks: ['bedding'],
      places: [{ element: 'floor', fromMm: 9e5 } as never],
      answer: 'ok',
    });
    expect(fold(t.entries).orphans).toHaveLength(2);
  });
  it('a defect by the worst of its checks, by its first check; of one that the book does not know it is to be put right', () => {
    const t = begun();
    const find = (checks: string[], reason?: string) =>
      t.write('look', {
        stage: 'membrane',
        checks,
        places: [placeOf(fold(t.entries), foot)],
        answer: 'defect',
        ...(reason ? { reason } : {}),
      });
    const severity = (id: string) => fold(t.entries).defects.get(id)!.severity;
    const stage = BOOK.methods[0]!.stages.find((s) => s.key === 'membrane')!;
    const of = (s: string) => stage.checks.find((c) => c.severity === s && c.on.element === 'seam')!.id;
    expect(severity(find([of('stop')]))).toBe('stop');
    expect(severity(find([of('fix'), of('stop')]))).toBe('stop');
    expect(severity(find([of('fix')]))).toBe('fix');
    expect(severity(find(['unheard-of']))).toBe('fix');
    expect(severity(find(['unheard-of', of('stop')]))).toBe('stop');
    const told = find([of('fix'), of('stop')], 'wrinkled');
    expect(fold(t.entries).defects.get(told)).toMatchObject({
      check: of('fix'),
      stage: 'membrane',
      words: 'wrinkled',
      kind: null,
      valueMm: null,
      photos: [],
      assignments: [],
      answers: [],
      cause: null,
      escape: null,
      stageMade: null,
      repeats: null,
      cost: null,
      photosAfter: [],
      closedBy: null,
      closedAt: null,
      redoneAt: null,
    });
    const low = lapReading(t, foot, 'wall:back', 100, 40);
    const defect = fold(t.entries).defects.get(low)!;
    expect(defect).toMatchObject({
      check: 'lap',
      valueMm: 40,
      places: [{ element: foot, side: 'wall:back', fromMm: 0 }],
    });
    expect(lapReading(t, foot, 'wall:back', 300, 51)).not.toBe(low);
    expect(fold(t.entries).defects.size).toBe(7);
  });
});

describe('the story of a defect', () => {
  const found = (t: Tablet, more: object = {}) =>
    t.write('defect-found', {
      stage: 'membrane',
      place: { element: 'wall:back' },
      kind: 'open-lap',
      severity: 'fix',
      words: 'lifted',
      photos: [PHOTO],
      ...more,
    } as Body<'defect-found'>);
  const of = (t: Tablet, id: string) => fold(t.entries).defects.get(id)!;

  it('told of a reading that opened it: kind, words, pictures and severity are added; a milder one only by a manager', () => {
    const t = begun();
    const low = lapReading(t, foot, 'wall:back', 300, 40);
    found(t, {
      about: low,
      severity: 'note',
      cause: { family: 'workmanship', confidence: 'suspected' },
      stageMade: 'base',
    });
    expect(of(t, low)).toMatchObject({
      kind: 'open-lap',
      words: 'lifted',
      severity: 'stop',
      check: 'lap',
      cause: { family: 'workmanship' },
      stageMade: 'base',
      valueMm: 40,
    });
    expect(of(t, low).photos).toHaveLength(1);
    expect(last(fold(t.entries).orphans).why).toBe('not-allowed');
    // What was told before stays where nothing new is said of it; pictures add up.
    found(t, { about: low, severity: 'stop', words: 'lifted again', escape: { family: 'not-done' }, repeats: 'older' });
    expect(of(t, low)).toMatchObject({
      words: 'lifted again',
      cause: { family: 'workmanship' },
      escape: { family: 'not-done' },
      repeats: 'older',
    });
    expect(of(t, low).photos).toHaveLength(2);
    byOther(t, MANAGER, (boss) => found(boss, { about: low, severity: 'note' }));
    expect(of(t, low).severity).toBe('note');
    found(t, { about: 'nothing' });
    expect(last(fold(t.entries).orphans).why).toBe('target-unknown');
    expect(fold(t.entries).defects.size).toBe(1);
  });
  it('found by itself it has its own place and no check; assigned, answered, closed it keeps all that was said', () => {
    const t = begun();
    const id = found(t, { cause: { family: 'workmanship', confidence: 'admitted' } });
    expect(of(t, id)).toMatchObject({
      check: null,
      places: [{ element: 'wall:back' }],
      severity: 'fix',
      valueMm: null,
    });
    expect(of(t, id).cause).toMatchObject({ family: 'workmanship' });
    t.write('defect-assigned', { defect: id, crewId: 'crew', dueAt: '2026-01-02T00:00:00Z', words: 'today' });
    t.write('defect-assigned', { defect: id, crewId: 'other' });
    expect(of(t, id).assignments).toMatchObject([
      { crewId: 'crew', dueAtMs: Date.parse('2026-01-02T00:00:00Z'), words: 'today', again: false, by: INSPECTOR.name },
      { crewId: 'other', dueAtMs: null, words: '', again: false },
    ]);
    t.write('redo', { stage: 'membrane', places: [{ element: 'wall:back' }], reason: 'redone', defect: id });
    expect(of(t, id).redoneAt).not.toBeNull();
    t.write('defect-assigned', { defect: id, crewId: 'crew', again: true });
    expect(of(t, id).redoneAt).toBeNull();
    t.write('defect-answered', { defect: id, words: 'done', photos: [PHOTO] });
    expect(of(t, id).answers).toMatchObject([{ words: 'done', photos: [PHOTO], author: CREW.name }]);
    t.write('defect-closed', {
      defect: id,
      cost: { hours: 2, materials: 5 },
      photos: [PHOTO],
      escape: { family: 'not-done' },
    });
    expect(of(t, id)).toMatchObject({
      closedBy: INSPECTOR.name,
      cost: { hours: 2 },
      cause: { family: 'workmanship' },
      escape: { family: 'not-done' },
      photosAfter: [PHOTO],
    });
    t.write('defect-closed', { defect: 'nothing', ...BOTH_ANSWERS });
    expect(last(fold(t.entries).orphans).why).toBe('target-unknown');
  });
  it('a finding that was withdrawn is told apart from one that never was', () => {
    const t = begun();
    const id = found(t);
    t.write('correction', { target: id, action: 'withdraw' } as Body<'correction'>);
    t.write('defect-answered', { defect: id, words: 'done', photos: [] });
    expect(fold(t.entries).orphans.map((o) => o.why)).toEqual(['target-withdrawn']);
  });
});

describe('the story of a flood', () => {
  const begin = (t: Tablet, more: object = {}) =>
    t.write('flood-started', { waterLineMm: FILL_MM, plannedHours: 24, ...more } as Body<'flood-started'>);
  const test = (t: Tablet) => fold(t.entries).flood!;
  it('begins with the step of its gauge, the rule book’s leak, and no fewer hours than the book’s', () => {
    const t = readyForWater(begun());
    begin(t);
    expect(test(t)).toMatchObject({
      stage: 'flood-test',
      method: 'marks',
      resolutionMm: MARK_STEP_MM,
      panResolutionMm: null,
      smallestLeakMmPerDay: 1,
      plannedHours: 24,
      prepared: [],
      running: true,
      waterLineMm: FILL_MM,
      filledToMm: FILL_MM,
      layersMissing: [],
      end: null,
      voided: null,
      provedBelowMm: null,
      by: INSPECTOR.name,
    });
    expect(test(t).inputs).toEqual([test(t).entry]);
    begin(t, { method: 'logger', plannedHours: 1, prepared: ['plug'] });
    expect(test(t)).toMatchObject({ resolutionMm: LOGGER_STEP_MM, plannedHours: 24, prepared: ['plug'] });
    begin(t, { method: 'logger', resolutionMm: 0.5, panResolutionMm: 0.2, plannedHours: 48 });
    expect(test(t)).toMatchObject({ resolutionMm: 0.5, panResolutionMm: 0.2, plannedHours: 48 });
    expect(fold(t.entries).earlierFloods).toHaveLength(2);
  });
  it('before rules are known it is kept, of no stage; what comes without a test is left out', () => {
    const t = tablet(1);
    t.write('shower-created', { name: 'x', job: 'y', crewId: 'c', timeZone: 'UTC' });
    t.write('flood-reading', { levelMm: 70, instrument: 'mark' } as Body<'flood-reading'>);
    expect(fold(t.entries).flood).toBeNull();
    begin(t);
    expect(test(t)).toMatchObject({ stage: null, smallestLeakMmPerDay: null, layersMissing: [] });
    t.write('flood-ended', { lowestLevelMm: 70, verdict: 'pass', inputs: [] } as Body<'flood-ended'>);
    expect(test(t).end).toMatchObject({
      verdict: 'undecided',
      stated: 'pass',
      figures: null,
      short: [],
      words: '',
      calculation: null,
    });
    expect(test(t)).toMatchObject({ running: false, waterLineMm: 70 });
    t.write('flood-reading', { levelMm: 60, instrument: 'mark' } as Body<'flood-reading'>);
    expect(test(t).levels).toEqual([]);
  });
  it('keeps readings, disturbances, air and looks, each at its hour', () => {
    const t = readyForWater(begun());
    begin(t, { method: 'marks' });
    const startMs = test(t).startMs;
    const at = (hours: number) => new Date(startMs + hours * HOUR_MS).toISOString();
    t.until(startMs + 5 * HOUR_MS);
    const read = t.write('flood-reading', { levelMm: 75, instrument: 'mark', readAt: at(2) } as Body<'flood-reading'>);
    t.write('flood-reading', { levelMm: 60, instrument: 'mark', of: 'pan', readAt: at(2) } as Body<'flood-reading'>);
    const file = t.write('flood-reading', {
      levelMm: 73,
      instrument: 'logger',
      series: { startAt: at(1), minutes: [0, 90], levelMm: [74, 73], file: 'w.csv' },
    } as Body<'flood-reading'>);
    const event = t.write('flood-event', {
      event: 'refill',
      of: 'pan',
      at: at(3),
      words: 'cat',
    } as Body<'flood-event'>);
    t.write('flood-event', { event: 'power-cut', at: at(4) } as Body<'flood-event'>);
    t.write('climate-reading', { airC: 21, relativeHumidity: 0.4, waterC: 19 } as Body<'climate-reading'>);
    t.write('climate-reading', { airC: 22, relativeHumidity: 0.5 } as Body<'climate-reading'>);
    t.write('moisture-look', { where: PLACES[0]!, found: false } as Body<'moisture-look'>);
    const found = test(t);
    expect(found.levels).toEqual([
      { entry: read, of: 'water', atHours: 2, levelMm: 75, by: INSPECTOR.name },
      expect.objectContaining({ of: 'pan', atHours: 2, levelMm: 60 }),
    ]);
    expect(found.series).toEqual([
      {
        entry: file,
        of: 'water',
        resolutionMm: LOGGER_STEP_MM,
        file: 'w.csv',
        hours: [1, 2.5],
        levelMm: [74, 73],
        by: INSPECTOR.name,
      },
    ]);
    expect(found.events).toEqual([
      { entry: event, kind: 'refill', of: 'pan', atHours: 3, words: 'cat' },
      expect.objectContaining({ kind: 'power-cut', of: 'water', atHours: 4, words: '' }),
    ]);
    expect(found.climate).toHaveLength(1);
    expect(found.climate[0]).toMatchObject({ waterC: 19, airC: 21, relativeHumidity: 0.4 });
    expect(found.climate[0]!.atHours).toBeCloseTo(5, 1);
    expect(found.looks).toMatchObject([{ where: PLACES[0], answer: 'dry', moment: null, words: '' }]);
    expect(found.waterLineMm).toBe(73);
    expect(found.inputs).toHaveLength(8);
  });
  it('a look that found water says so, before as after the new words for it', () => {
    const t = readyForWater(begun());
    waterIn(t);
    const wet = (body: object) => {
      t.write('moisture-look', { where: PLACES[0]!, moment: 'leaving', ...body } as Body<'moisture-look'>);
      return last(test(t).looks).answer;
    };
    expect(wet({ found: true })).toBe('wet');
    expect(wet({ found: false })).toBe('dry');
    expect(wet({ found: false, answer: 'could-not-see', words: 'boxed in' })).toBe('could-not-see');
    expect(last(test(t).looks).words).toBe('boxed in');
  });
  it('ended it keeps its figures; the leak that it showed is closed by the next one that passes', () => {
    const t = readyForWater(begun());
    waterIn(t);
    logged(t, { leakMmPerDay: 6 });
    t.write('flood-ended', { lowestLevelMm: 60, verdict: 'pass', inputs: [], words: 'odd' } as Body<'flood-ended'>);
    const { end, waterLineMm } = test(t);
    expect(end).toMatchObject({ verdict: 'fail', stated: 'pass', words: 'odd', by: INSPECTOR.name });
    expect(end!.figures!.netLossMmPerDay).toBeGreaterThan(4);
    expect(end!.figures!.lowMmPerDay).toBeLessThan(end!.figures!.highMmPerDay!);
    expect(waterLineMm).toBe(60);
    const leak = [...fold(t.entries).defects.values()].find((d) => d.check === 'holds-water')!;
    expect(leak).toMatchObject({ places: [{ element: WHOLE_SHOWER }], stage: 'flood-test', closedAt: null });
    passFlood(t);
    expect(test(t).provedBelowMm).toBeCloseTo(test(t).waterLineMm - 5, 6);
    expect(fold(t.entries).defects.get(leak.id)!.closedAt).toBe(test(t).end!.at);
  });
});

describe('what a layer covers and what waits for it', () => {
  it('what was not shown below it, apart from notes, waits and what was released', () => {
    const t = begun();
    climb(t, 'boards');
    const covered = () => fold(t.entries).covered;
    t.write('work-done', { stage: 'boards', crewId: 'crew', who: 'crew', day: '2026-01-02' } as Body<'work-done'>);
    expect(covered().size).toBe(0);
    t.write('work-done', { stage: 'membrane', crewId: 'crew', who: 'crew', day: '2026-01-02' } as Body<'work-done'>);
    const boards = fold(t.entries).requirements.filter((r) => r.stage.key === 'boards');
    expect(boards.length).toBeGreaterThan(0);
    for (const r of boards)
      if (r.check.severity !== 'note' && r.check.kind !== 'wait' && r.stage.holdPoint)
        expect(covered().get(r.element)).toEqual([{ fromMm: 0, toMm: r.lengthMm }]);
    for (const element of covered().keys())
      expect(boards.concat(fold(t.entries).requirements).some((r) => r.element === element)).toBe(true);
    // Once seen it was covered all the same: it never goes away.
    pass(t, 'boards');
    expect(covered().size).toBeGreaterThan(0);
    t.write('work-done', { stage: 'unheard-of', crewId: 'crew', who: 'crew', day: '2026-01-02' } as Body<'work-done'>);
    expect(fold(t.entries).stages.get('unheard-of')!.work).toHaveLength(1);
  });
  it('a release that nothing speaks against is one; with a word over it that a manager gave, or not', () => {
    const t = begun();
    pass(t, 'base', (r) => r.check.id === 'bedding');
    t.write('stage-released', releaseBody('base'));
    expect(fold(t.entries).stages.get('base')).toMatchObject({
      word: 'contested',
      because: { cause: 'came-to-light' },
    });
    t.write('stage-released', releaseBody('base', 'I say so'));
    expect(fold(t.entries).stages.get('base')!.word).toBe('contested');
    expect(last(fold(t.entries).orphans).why).toBe('not-allowed');
    expect(last(fold(t.entries).releases).upheld).toBeNull();
    byOther(t, MANAGER, (boss) => boss.write('stage-released', releaseBody('base', 'glued before')));
    expect(fold(t.entries).stages.get('base')!.word).toBe('released');
    expect(last(fold(t.entries).releases)).toMatchObject({ upheld: 'glued before', by: MANAGER.name, imported: false });
    // A defect that comes after the word is not what it was given over.
    t.write('look', { stage: 'base', checks: ['bedding'], places: [{ element: 'floor' }], answer: 'defect' });
    expect(fold(t.entries).stages.get('base')!.word).toBe('contested');
    t.write('stage-reopened', { stage: 'base', reason: 'again' } as Body<'stage-reopened'>);
    expect(fold(t.entries).stages.get('base')).toMatchObject({
      word: 'held',
      because: { cause: 'reopened' },
      release: null,
    });
  });
  it('an upheld defect is upheld alone', () => {
    const t = begun();
    pass(t, 'base');
    const defect = (words: string) =>
      t.write('defect-found', {
        stage: 'base',
        place: { element: 'floor' },
        kind: 'open-lap',
        severity: 'fix',
        words,
        photos: [],
      } as Body<'defect-found'>);
    defect('one');
    byOther(t, MANAGER, (boss) => boss.write('stage-released', releaseBody('base', 'it is known')));
    expect(fold(t.entries).stages.get('base')!.word).toBe('released');
    defect('two');
    expect(fold(t.entries).stages.get('base')!.word).toBe('contested');
    expect(blockersOf(fold(t.entries), 'base').filter((b) => b.kind === 'defect')).toHaveLength(2);
  });
  it('a stage that the rules no longer have is held for them; without rules nothing is asked', () => {
    const t = begun();
    climb(t, 'boards');
    const other = structuredClone(BOOK);
    other.version = 99;
    other.methods[0]!.stages = other.methods[0]!.stages.filter((s) => s.key !== 'base');
    byOther(t, MANAGER, (boss) =>
      boss.write('rules-pinned', { ruleBook: BOOK.id, version: 99, method: 'bonded-sheet' }),
    );
    const state = foldShower(t.entries, (_, version) => (version === 99 ? other : BOOK));
    expect(state.stages.get('base')).toMatchObject({
      word: 'held',
      because: { cause: 'rules', entry: null, blockers: [] },
    });
    expect(state.requirements.some((r) => r.stage.key === 'base')).toBe(false);
    expect(fold(t.entries).orphans.map((o) => o.why)).toEqual(['rules-unknown']);
  });
  it('a look that is asked for waits until somebody looked', () => {
    const t = begun();
    t.write('look-requested', { stage: 'base', crewId: 'crew' } as Body<'look-requested'>);
    const state = fold(t.entries);
    expect(state.lookRequests).toHaveLength(1);
    expect(state.stages.get('base')).toMatchObject({ begun: true, word: 'held' });
  });
});
