import { describe, expect, it } from 'vitest';
import { judge } from '../../checks/judge';
import type { Entry } from '../../log/entry';
import { logged, readyForWater, waterIn } from '../../tests/sampleFlood';
import {
  BOOK,
  BOTH_ANSWERS,
  begun,
  byOther,
  CREW,
  climb,
  fold,
  lapReading,
  MANAGER,
  notApplicable,
  pass,
  placeOf,
  releaseBody,
  seamId,
  type Tablet,
} from '../../tests/sampleTablet';
import { blockersOf } from '../holds/release';

const foot = 'floor-wall|floor|wall:back';
const word = (entries: readonly Entry[], stage: string) => fold(entries).stages.get(stage)?.word;
const refused = (entries: readonly Entry[]) =>
  fold(entries)
    .orphans.filter((o) => o.why === 'not-allowed')
    .map((o) => o.entry);
const on = (t: Tablet, check: string, element: string) => {
  const state = fold(t.entries);
  return judge(state, state.requirements.find((r) => r.check.id === check && r.element === element)!);
};

describe('"not applicable"', () => {
  it('on a stop check waits for a manager, and their own look settles it', () => {
    const t = begun();
    notApplicable(t, 'base', ['bedding'], ['floor']);
    expect(on(t, 'bedding', 'floor')).toMatchObject({ verdict: 'undecided', satisfied: false, waitsForManager: true });
    byOther(t, MANAGER, (boss) => notApplicable(boss, 'base', ['bedding'], ['floor']));
    expect(on(t, 'bedding', 'floor')).toMatchObject({ verdict: 'pass', satisfied: true });
  });

  it('on a wait or a flood waits too', () => {
    const t = begun();
    climb(t, 'cure');
    notApplicable(t, 'cure', ['mortar-cure'], ['shower']);
    notApplicable(t, 'flood-test', ['holds-water'], ['shower']);
    expect([on(t, 'mortar-cure', 'shower').verdict, on(t, 'holds-water', 'shower').verdict]).toEqual([
      'undecided',
      'undecided',
    ]);
  });

  it('for one thing of a lesser check stands by itself; for two walls at once it waits', () => {
    const t = begun();
    notApplicable(t, 'boards', ['board-fasteners'], ['wall:back']);
    expect(on(t, 'board-fasteners', 'wall:back').verdict).toBe('pass');
    notApplicable(t, 'boards', ['board-fasteners'], ['wall:back', 'wall:left']);
    expect(on(t, 'board-fasteners', 'wall:left').verdict).toBe('undecided');
  });

  it('on a part of a seam is not the same as seen', () => {
    const t = begun();
    t.write('look', {
      stage: 'membrane',
      checks: ['bond'],
      places: [placeOf(fold(t.entries), foot, { fromMm: 200 })],
      answer: 'ok',
    });
    const places = [placeOf(fold(t.entries), foot, { fromMm: 0, toMm: 200 })];
    t.write('look', { stage: 'membrane', checks: ['bond'], places, answer: 'not-applicable', reason: 'x' });
    expect(on(t, 'bond', foot).verdict).toBe('undecided');
  });

  it('never hides a reading that failed, nor a flood that leaked', () => {
    const t = begun();
    lapReading(t, foot, 'wall:back', 700, 40);
    byOther(t, MANAGER, (boss) => notApplicable(boss, 'membrane', ['lap'], [foot]));
    const state = fold(t.entries);
    const lap = judge(
      state,
      state.requirements.find((r) => r.check.id === 'lap' && r.element === foot && r.side === 'wall:back')!,
    );
    expect(lap.verdict).toBe('fail');
    const wet = begun();
    readyForWater(wet);
    waterIn(wet);
    logged(wet, { leakMmPerDay: 8 });
    wet.write('flood-ended', { lowestLevelMm: 60, verdict: 'pass' });
    byOther(wet, MANAGER, (boss) => notApplicable(boss, 'flood-test', ['holds-water'], ['shower']));
    expect(on(wet, 'holds-water', 'shower').verdict).toBe('fail');
  });
});

describe("a manager's decisions", () => {
  it('upholding a contested release', () => {
    const t = begun();
    climb(t, 'drain-tie-in');
    lapReading(t, foot, 'wall:back', 700, 40);
    const mine = t.write('stage-released', releaseBody('membrane', 'it is fine'));
    expect(word(t.entries, 'membrane')).toBe('contested');
    expect(refused(t.entries)).toEqual([mine]);
    byOther(t, MANAGER, (boss) => boss.write('stage-released', releaseBody('membrane', 'measured again on site')));
    expect(word(t.entries, 'membrane')).toBe('released');
    lapReading(t, foot, 'wall:back', 900, 30);
    expect(word(t.entries, 'membrane')).toBe('contested');
  });

  it('making a defect milder, by a second finding or by a correction', () => {
    const t = begun();
    const found = t.write('defect-found', {
      stage: 'boards',
      place: { element: 'wall:back' },
      kind: 'gap',
      severity: 'stop',
      words: '',
      photos: [],
    });
    const milder = {
      stage: 'boards',
      place: { element: 'wall:back' },
      kind: 'gap',
      severity: 'note' as const,
      words: 'seen',
      photos: [],
      about: found,
    };
    t.write('defect-found', milder);
    expect(fold(t.entries).defects.get(found)).toMatchObject({ severity: 'stop', words: 'seen' });
    t.until(t.nowMs() + 3_600_000);
    const { about: _, ...alone } = milder;
    const wrong = t.write('correction', { target: found, action: 'replace', body: alone });
    const gone = t.write('correction', { target: found, action: 'withdraw' });
    expect(fold(t.entries).defects.get(found)!.severity).toBe('stop');
    expect(refused(t.entries)).toEqual(expect.arrayContaining([wrong, gone]));
    byOther(t, MANAGER, (boss) => boss.write('defect-found', milder));
    expect(fold(t.entries).defects.get(found)!.severity).toBe('note');
  });

  it('closing a stop defect that nobody built again or looked at', () => {
    const t = begun();
    const find = () =>
      t.write('defect-found', {
        stage: 'boards',
        place: { element: 'wall:back' },
        kind: 'gap',
        severity: 'stop',
        words: '',
        photos: [],
      });
    const [a, b, c, d] = [find(), find(), find(), find()];
    t.write('defect-closed', { defect: a!, ...BOTH_ANSWERS });
    expect(fold(t.entries).defects.get(a!)!.closedAt).toBeNull();
    t.write('look', { stage: 'boards', checks: ['board-kind'], places: [{ element: 'wall:left' }], answer: 'ok' });
    t.write('defect-closed', { defect: b!, ...BOTH_ANSWERS });
    expect(fold(t.entries).defects.get(b!)!.closedAt).toBeNull();
    t.write('look', { stage: 'boards', checks: ['board-kind'], places: [{ element: 'wall:back' }], answer: 'ok' });
    t.write('defect-closed', { defect: c!, ...BOTH_ANSWERS });
    expect(fold(t.entries).defects.get(c!)!.closedAt).not.toBeNull();
    byOther(t, MANAGER, (boss) => boss.write('defect-closed', { defect: d!, ...BOTH_ANSWERS }));
    expect(fold(t.entries).defects.get(d!)!.closedAt).not.toBeNull();
  });

  it('pinning a later first stage or another method over what was seen', () => {
    const t = begun();
    pass(t, 'base', (r) => r.check.id !== 'base-fall');
    t.write('reading', {
      stage: 'base',
      check: 'base-fall',
      place: placeOf(fold(t.entries), 'floor'),
      atMm: 0,
      valueMm: 3,
      typed: '3',
      instrument: 'level',
    });
    const later = { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet', beginsAt: 'membrane' };
    const one = t.write('rules-pinned', later);
    const two = t.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'sealant-board' });
    const state = fold(t.entries);
    expect(refused(t.entries)).toEqual([one, two]);
    expect(state.rules!.pinned.beginsAt).toBeUndefined();
    expect(blockersOf(state, 'base').length).toBeGreaterThan(0);
    byOther(t, MANAGER, (boss) => boss.write('rules-pinned', later));
    const after = fold(t.entries);
    expect(after.rules!.pinned.beginsAt).toBe('membrane');
    expect([...after.defects.values()].filter((d) => d.closedAt === null)).toHaveLength(1);
    expect(after.evidence.get('floor')!.length).toBe(state.evidence.get('floor')!.length);
  });

  it('a look or a redo at a corner of its place closes no defect that stops: all of it must be seen anew', () => {
    const t = begun();
    const seam = 'floor-wall|floor|wall:back';
    const at = (fromMm: number, toMm: number) => placeOf(fold(t.entries), seam, { fromMm, toMm });
    const find = (fromMm: number, toMm: number) =>
      t.write('defect-found', {
        stage: 'membrane',
        place: at(fromMm, toMm),
        kind: 'open-lap',
        severity: 'stop',
        words: 'open',
        photos: [],
      });
    const look = (fromMm: number, toMm: number, checks = ['bond']) =>
      t.write('look', { stage: 'membrane', checks, places: [at(fromMm, toMm)], answer: 'ok' });
    const closed = (defect: string) => {
      t.write('defect-closed', { defect, ...BOTH_ANSWERS });
      return fold(t.entries).defects.get(defect)!.closedAt !== null;
    };
    const wide = find(100, 900);
    look(100, 101);
    expect(closed(wide)).toBe(false);
    look(100, 500);
    look(600, 900);
    expect(closed(wide)).toBe(false);
    t.write('redo', { stage: 'membrane', places: [at(490, 610)], reason: 'banded again' });
    // The looks beside it still speak; the redo reaches over what they left.
    expect(closed(wide)).toBe(true);
    // Tile that is laid again leaves the lap below it as it is.
    const under = find(100, 200);
    t.write('redo', { stage: 'tile', places: [at(0, 1524)], reason: 'cracked' });
    t.write('redo', { stage: 'tile', places: [{ element: 'shower' }], reason: 'all of it' });
    expect(closed(under)).toBe(false);
    t.write('redo', { stage: 'boards', places: [at(90, 210)], reason: 'board out' });
    expect(closed(under)).toBe(true);
    const low = lapReading(t, seam, 'wall:back', 300, 40);
    t.write('redo', { stage: 'membrane', places: [at(0, 250)], reason: 'beside it' });
    expect(closed(low)).toBe(false);
    look(0, 1524, ['bond']);
    expect(closed(low)).toBe(false);
    t.write('redo', { stage: 'membrane', places: [at(250, 350)], reason: 'where it was read' });
    expect(closed(low)).toBe(true);
  });

  it('a role writes only what it may, and corrects only what is its own', () => {
    const t = begun();
    byOther(t, CREW, (crew) => {
      crew.write('look', { stage: 'base', checks: ['bedding'], places: [{ element: 'floor' }], answer: 'ok' });
    });
    expect(on(t, 'bedding', 'floor').verdict).toBe('unseen');
    const look = t.write('look', {
      stage: 'base',
      checks: ['bedding'],
      places: [{ element: 'floor' }],
      answer: 'defect',
    });
    byOther(t, CREW, (crew) => crew.write('correction', { target: look, action: 'withdraw' }));
    expect(on(t, 'bedding', 'floor').verdict).toBe('fail');
    expect(refused(t.entries)).toHaveLength(2);
  });
});

describe('a correction of a correction', () => {
  const HOUR_MS = 3_600_000;
  const severityOf = (t: Tablet, id: string) => fold(t.entries).defects.get(id)?.severity ?? 'gone';
  const bodyOf = (t: Tablet, id: string) => t.entries.find((e) => e.id === id)!.body as Record<string, unknown>;
  const found = (t: Tablet, severity = 'stop'): [id: string, body: Record<string, unknown>] => {
    const body = {
      stage: 'base',
      place: { element: 'floor' },
      kind: 'wrinkle',
      severity,
      words: 'a',
      photos: [],
    };
    return [t.write('defect-found', body as never), body];
  };
  it('does by a detour nothing that its author may not do at once: a defect is made no milder and not taken back', () => {
    const t = begun();
    const [id, body] = found(t);
    const words = t.write('correction', { target: id, action: 'replace', body: { ...body, words: 'b' } });
    t.until(t.nowMs() + HOUR_MS);
    const milder = { target: id, action: 'replace', body: { ...body, severity: 'note' } };
    t.write('correction', { target: words, action: 'replace', body: milder });
    expect(severityOf(t, id)).toBe('stop');
    t.write('correction', { target: words, action: 'replace', body: { target: id, action: 'withdraw' } });
    expect(severityOf(t, id)).toBe('stop');
    byOther(t, MANAGER, (boss) => boss.write('correction', milder as never));
    expect(severityOf(t, id)).toBe('note');
  });
  it('a defect that was made stricter is not made milder again by taking that back later', () => {
    const t = begun();
    const [id, body] = found(t, 'note');
    const raised = t.write('correction', { target: id, action: 'replace', body: { ...body, severity: 'stop' } });
    t.until(t.nowMs() + HOUR_MS);
    t.write('correction', { target: raised, action: 'withdraw' });
    expect(severityOf(t, id)).toBe('stop');
    t.write('correction', { target: id, action: 'replace', body });
    expect(severityOf(t, id)).toBe('stop');
    byOther(t, MANAGER, (boss) => boss.write('correction', { target: raised, action: 'withdraw' }));
    expect(severityOf(t, id)).toBe('note');
  });
  it('a reading that was corrected wrongly comes back by taking that correction back', () => {
    const t = begun();
    climb(t, 'membrane');
    const foot = seamId(fold(t.entries), 'floor-wall');
    const id = lapReading(t, foot, 'floor', 300, 60);
    const wrong = t.write('correction', { target: id, action: 'replace', body: { ...bodyOf(t, id), valueMm: 6 } });
    const valueNow = () =>
      fold(t.entries)
        .evidence.get(foot)!
        .find((e) => e.entry === id)?.valueMm;
    expect(valueNow()).toBe(6);
    t.until(t.nowMs() + HOUR_MS);
    t.write('correction', { target: wrong, action: 'withdraw' });
    expect(valueNow()).toBe(60);
  });
  it('a shower that a manager handed over does not come back by its first writer’s old words', () => {
    const t = begun();
    const created = t.entries.find((e) => e.kind === 'shower-created')!;
    const say = (change: object) => ({
      target: created.id,
      action: 'replace' as const,
      body: { ...created.body, ...change },
    });
    const crewOf = () => fold(t.entries).created!.body.crewId;
    const name = t.write('correction', say({ name: 'Renamed' }));
    byOther(t, MANAGER, (boss) => boss.write('correction', say({ crewId: 'crew-otter' })));
    expect(crewOf()).toBe('crew-otter');
    t.write('correction', say({ name: 'Again' }));
    expect(crewOf()).toBe('crew-otter');
    t.write('correction', { target: name, action: 'replace', body: say({ crewId: 'crew-heron' }) });
    expect(crewOf()).toBe('crew-otter');
    // What leaves the crew as it is may be said by its writer.
    t.write('correction', say({ name: 'Right', crewId: 'crew-otter' }));
    expect(fold(t.entries).created!.body).toMatchObject({ name: 'Right', crewId: 'crew-otter' });
  });
});
