import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { judge } from '../../checks/judge';
import type { Entry } from '../../log/entry';
import type { Judgement } from '../../log/judgement';
import type { ShowerState } from '../../log/state';
import { sampleShower } from '../../tests/sampleShower';
import {
  BOOK,
  BOTH_ANSWERS,
  begun,
  climb,
  fold,
  lapReading,
  MANAGER,
  pass,
  placeOf,
  releaseBody,
  seamId,
  type Tablet,
  tablet,
} from '../../tests/sampleTablet';
import { blockersOf } from '../holds/release';

const IN = 25.4;
const foot = 'floor-wall|floor|wall:back';
const word = (entries: readonly Entry[], stage: string) => fold(entries).stages.get(stage)?.word;

function lapOn(state: ShowerState, element: string, side: string): Judgement {
  return judge(
    state,
    state.requirements.find((r) => r.check.id === 'lap' && r.element === element && r.side === side)!,
  );
}
const lookAt = (t: Tablet, element: string, checks: string[], stage = 'membrane', more = {}) =>
  t.write('look', { stage, checks, places: [placeOf(fold(t.entries), element, more)], answer: 'ok' });

describe('evidence', () => {
  it('is unseen, then undecided, then a pass: a look and three readings on each side', () => {
    const t = begun();
    const verdict = () => lapOn(fold(t.entries), foot, 'wall:back').verdict;
    expect(verdict()).toBe('unseen');
    lookAt(t, foot, ['lap']);
    expect(verdict()).toBe('unseen');
    lapReading(t, foot, 'wall:back', 150, 55);
    expect(verdict()).toBe('undecided');
    lapReading(t, foot, 'wall:back', 750, 55);
    lapReading(t, foot, 'wall:back', 1374, 55);
    expect(verdict()).toBe('undecided');
    lapReading(t, foot, 'wall:back', 1100, 55);
    expect(verdict()).toBe('pass');
    expect(lapOn(fold(t.entries), foot, 'floor').verdict).toBe('unseen');
  });

  it('of one check says nothing about another', () => {
    const t = begun();
    for (const at of [150, 600, 1000, 1374]) lapReading(t, foot, 'wall:back', at, 55);
    const bond = fold(t.entries).requirements.find((r) => r.check.id === 'bond' && r.element === foot)!;
    expect(judge(fold(t.entries), bond).verdict).toBe('unseen');
  });

  it('could not see is no answer, and the latest look wins on its stretch', () => {
    const t = begun();
    const bond = () =>
      judge(fold(t.entries), fold(t.entries).requirements.find((r) => r.check.id === 'bond' && r.element === foot)!);
    lookAt(t, foot, ['bond']);
    expect(bond().verdict).toBe('pass');
    t.write('look', {
      stage: 'membrane',
      checks: ['bond'],
      places: [placeOf(fold(t.entries), foot, { fromMm: 100, toMm: 300 })],
      answer: 'could-not-see',
    });
    expect(bond()).toMatchObject({ verdict: 'unseen', missing: [{ fromMm: 100, toMm: 300 }] });
    lookAt(t, foot, ['bond'], 'membrane', { fromMm: 90, toMm: 310 });
    expect(bond().verdict).toBe('pass');
  });

  it('a short reading opens a defect with its place, value and severity', () => {
    const t = begun();
    const id = lapReading(t, foot, 'wall:back', 14 * IN, 1.875 * IN);
    const state = fold(t.entries);
    expect(state.defects.get(id)).toMatchObject({
      stage: 'membrane',
      check: 'lap',
      severity: 'stop',
      valueMm: 1.875 * IN,
      closedAt: null,
    });
    expect(lapOn(state, foot, 'wall:back')).toMatchObject({ verdict: 'fail', worstAtMm: 14 * IN });
  });

  it('not applicable needs a reason, satisfies, and is told apart from a pass by its answer', () => {
    const t = begun();
    t.write('look', {
      stage: 'base',
      checks: ['base-mortar'],
      places: [{ element: 'floor' }],
      answer: 'not-applicable',
      reason: 'set dry on purpose',
    });
    const state = fold(t.entries);
    const j = judge(state, state.requirements.find((r) => r.check.id === 'base-mortar')!);
    expect(j).toMatchObject({ verdict: 'pass', satisfied: true });
    expect(state.evidence.get('floor')![0]).toMatchObject({ answer: 'not-applicable', reason: 'set dry on purpose' });
  });
});

describe('release', () => {
  it('is held by exactly what is missing', () => {
    const t = begun();
    expect(
      blockersOf(fold(t.entries), 'base')
        .map((b) => b.kind === 'check' && b.check)
        .sort(),
    ).toEqual(['base-fall', 'base-mortar', 'base-perimeter', 'bedding']);
    pass(t, 'base', (r) => r.check.id === 'bedding');
    expect(blockersOf(fold(t.entries), 'base')).toMatchObject([{ kind: 'check', check: 'bedding', verdict: 'unseen' }]);
    lookAt(t, 'floor', ['bedding'], 'base');
    expect(blockersOf(fold(t.entries), 'base')).toEqual([]);
  });

  it('goes from open to held to released, from the bottom up', () => {
    const t = begun();
    expect(word(t.entries, 'base')).toBe('open');
    pass(t, 'base');
    expect(word(t.entries, 'base')).toBe('held');
    pass(t, 'boards');
    expect(blockersOf(fold(t.entries), 'boards')).toMatchObject([{ kind: 'lower-stage', lower: 'base' }]);
    t.write('stage-released', releaseBody('base'));
    expect(word(t.entries, 'base')).toBe('released');
    expect(blockersOf(fold(t.entries), 'boards')).toEqual([]);
  });

  it('an open stop defect holds the stages above, a note nothing', () => {
    const t = begun();
    climb(t, 'curb');
    const found = (severity: 'stop' | 'note') =>
      t.write('defect-found', {
        stage: 'boards',
        place: { element: 'wall:back' },
        kind: 'gap',
        severity,
        words: '',
        photos: [],
      });
    found('note');
    pass(t, 'curb');
    expect(blockersOf(fold(t.entries), 'curb')).toEqual([]);
    const id = found('stop');
    expect(blockersOf(fold(t.entries), 'curb').some((b) => b.kind === 'defect' && b.defect.id === id)).toBe(true);
    lookAt(t, 'wall:back', ['board-kind'], 'boards');
    t.write('defect-closed', { defect: id, ...BOTH_ANSWERS });
    expect(blockersOf(fold(t.entries), 'curb').filter((b) => b.kind === 'defect')).toEqual([]);
  });

  it('becomes contested by a failing entry that arrives late but was written before', () => {
    const other = tablet(2, 1_700_000_000_000);
    const t = begun();
    climb(t, 'membrane');
    other.hears(t.entries.slice(0, 3));
    pass(t, 'membrane');
    t.write('stage-released', releaseBody('membrane'));
    expect(word(t.entries, 'membrane')).toBe('released');
    other.write('reading', {
      stage: 'membrane',
      check: 'lap',
      place: placeOf(fold(t.entries), foot, { side: 'wall:back' }),
      atMm: 700,
      valueMm: 40,
      typed: '40',
      instrument: 'tape',
    });
    expect(other.entries[0]!.orderAt < t.entries.at(-1)!.orderAt).toBe(true);
    const both = [...t.entries, ...other.entries];
    expect(word(both, 'membrane')).toBe('contested');
    expect(fold(both).stages.get('membrane')!.release!.blockedBy.length).toBeGreaterThan(0);
    const boss = tablet(4, undefined, MANAGER);
    boss.hears(both);
    boss.write(
      'stage-released',
      releaseBody('membrane', 'The tape was read at the wrong edge; measured again on site'),
    );
    expect(word([...both, ...boss.entries], 'membrane')).toBe('released');
    t.hears(boss.entries);
    t.write('stage-reopened', { stage: 'membrane', reason: 'second thoughts' });
    expect(word([...t.entries, ...other.entries, ...boss.entries], 'membrane')).toBe('held');
  });

  it('becomes contested when a correction reaches behind it', () => {
    const t = begun();
    pass(t, 'base');
    const reading = t.entries.findLast((e) => e.kind === 'reading')!;
    t.write('stage-released', releaseBody('base'));
    const wrong = t.write('correction', {
      target: reading.id,
      action: 'replace',
      body: { ...(reading.body as object), valueMm: 3 },
    });
    expect(word(t.entries, 'base')).toBe('contested');
    t.write('correction', { target: wrong, action: 'withdraw' });
    expect(word(t.entries, 'base')).toBe('released');
  });

  it('a defect found on a released stage contests it', () => {
    const t = begun();
    climb(t, 'boards');
    t.write('defect-found', {
      stage: 'base',
      place: { element: 'floor' },
      kind: 'birdbath',
      severity: 'fix',
      words: '',
      photos: [],
    });
    expect(word(t.entries, 'base')).toBe('contested');
  });
});

describe('a redo', () => {
  function redone() {
    const t = begun();
    climb(t, 'membrane');
    pass(t, 'membrane');
    const state = fold(t.entries);
    const redo = t.write('redo', {
      stage: 'membrane',
      places: [placeOf(state, foot, { fromMm: 250, toMm: 450 })],
      reason: 'cut out',
    });
    return { t, redo };
  }

  it('takes away what was proved on its stretch, and only there', () => {
    const { t } = redone();
    const after = lapOn(fold(t.entries), foot, 'wall:back');
    expect(after.verdict).not.toBe('pass');
    expect(after.missing).toEqual([{ fromMm: 250, toMm: 450 }]);
    expect(after.readings.every((r) => r.atMm < 250 || r.atMm > 450)).toBe(true);
    expect(after.readings.length).toBeGreaterThan(0);
  });

  it('asks for a reading on the stretch itself, though its neighbours stand close enough', () => {
    const { t } = redone();
    lookAt(t, foot, ['lap', 'bond']);
    expect(lapOn(fold(t.entries), foot, 'wall:back')).toMatchObject({ verdict: 'undecided', nextAtMm: 350 });
    lapReading(t, foot, 'wall:back', 400, 55);
    expect(lapOn(fold(t.entries), foot, 'wall:back').verdict).toBe('pass');
    expect(lapOn(fold(t.entries), foot, 'floor').verdict).toBe('undecided');
  });

  it('returns its stage to held, and a look and readings bring it back', () => {
    const { t } = redone();
    expect(word(t.entries, 'membrane')).toBe('held');
    pass(t, 'membrane');
    expect(blockersOf(fold(t.entries), 'membrane')).toEqual([]);
  });

  it('withdrawn revives the evidence', () => {
    const { t, redo } = redone();
    t.write('correction', { target: redo, action: 'withdraw' });
    expect(blockersOf(fold(t.entries), 'membrane')).toEqual([]);
  });

  it('of a lower stage reaches later elements within 150 mm, not beyond', () => {
    const t = begun();
    climb(t, 'drain-tie-in');
    const joint = seamId(fold(t.entries), 'board-joint|wall:back');
    const lap = seamId(fold(t.entries), 'sheet-lap|wall:back');
    t.write('redo', { stage: 'boards', places: [placeOf(fold(t.entries), joint)], reason: 'board replaced' });
    const state = fold(t.entries);
    expect(state.stages.get('boards')!.word).toBe('held');
    expect(state.stages.get('membrane')!.word).toBe('held');
    const upright = seamId(state, 'wall-wall-inside|wall:back|wall:left');
    const gone = lapOn(state, upright, 'wall:back').missing[0]!;
    expect(gone.fromMm).toBeCloseTo(48 * IN - 150, -1);
    expect(gone.toMm).toBeCloseTo(48 * IN + 150, -1);
    const sheet = judge(state, state.requirements.find((r) => r.check.id === 'lap' && r.element === lap)!);
    expect(sheet.verdict).toBe('pass');
    expect(state.stages.get('base')!.word).toBe('released');
  });

  it('below the water line ends a running flood', () => {
    const t = begun();
    t.write('flood-started', { waterLineMm: 76, plannedHours: 24 });
    t.write('redo', {
      stage: 'membrane',
      places: [placeOf(fold(t.entries), foot, { fromMm: 0, toMm: 100 })],
      reason: 'x',
    });
    expect(fold(t.entries).flood).toMatchObject({ running: false, voided: { cause: 'redo' } });
  });
});

describe('deviations', () => {
  function asked() {
    const t = begun();
    pass(t, 'base', (r) => r.check.id === 'bedding');
    const body = {
      stage: 'base',
      check: 'bedding',
      place: { element: 'floor' },
      geometryVersion: 1,
      ruleVersion: BOOK.version,
      verdict: 'unseen' as const,
      reason: 'tray glued before the visit',
    };
    return { t, id: t.write('deviation-asked', body) };
  }
  it('asked and not decided keep the hold; accepted by another they satisfy', () => {
    const { t, id } = asked();
    expect(blockersOf(fold(t.entries), 'base').map((b) => b.kind)).toContain('deviation-pending');
    const boss = tablet(3, 1_700_000_100_000, MANAGER);
    boss.hears(t.entries);
    boss.write('deviation-decided', { asked: id, accepted: true, reason: 'hammer test sound' });
    expect(blockersOf(fold([...t.entries, ...boss.entries]), 'base')).toEqual([]);
  });
  it('are never decided by who asked', () => {
    const { t, id } = asked();
    t.write('deviation-decided', { asked: id, accepted: true, reason: 'me' });
    expect(blockersOf(fold(t.entries), 'base').length).toBeGreaterThan(0);
    expect(fold(t.entries).orphans).toHaveLength(1);
  });
  it('end with a redo', () => {
    const { t, id } = asked();
    const boss = tablet(3, 1_700_000_100_000, MANAGER);
    boss.hears(t.entries);
    boss.write('deviation-decided', { asked: id, accepted: true, reason: 'ok' });
    t.hears(boss.entries);
    t.write('redo', { stage: 'base', places: [{ element: 'floor' }], reason: 'tray out' });
    expect(blockersOf(fold([...t.entries, ...boss.entries]), 'base').length).toBeGreaterThan(0);
  });
});

describe('covered without evidence', () => {
  it('is marked when a later layer is done over it, and stays for good', () => {
    const t = begun();
    climb(t, 'boards');
    pass(t, 'boards', (r) => r.check.id === 'board-joints');
    t.write('work-done', { stage: 'membrane', crewId: 'crew', who: 'crew', day: '2026-01-02' });
    const joint = seamId(fold(t.entries), 'board-joint|wall:back');
    expect(fold(t.entries).covered.get(joint)).toEqual([
      { fromMm: 0, toMm: fold(t.entries).seamById.get(joint)!.lengthMm },
    ]);
    pass(t, 'boards');
    expect(fold(t.entries).covered.has(joint)).toBe(true);
    expect(fold(t.entries).covered.has(seamId(fold(t.entries), foot))).toBe(false);
  });
});

describe('an edit of the dimensions', () => {
  it('keeps evidence where the seam changed by less than 25 mm, else asks to look again', () => {
    const t = begun();
    climb(t, 'boards');
    lapReading(t, foot, 'wall:back', 700, 55);
    t.write('geometry-set', { version: 2, geometry: sampleShower({ widthMm: 60 * IN + 20 }) });
    expect(
      fold(t.entries)
        .evidence.get(foot)!
        .every((e) => !e.lookAgain),
    ).toBe(true);
    t.write('geometry-set', { version: 3, geometry: sampleShower({ widthMm: 70 * IN }) });
    expect(
      fold(t.entries)
        .evidence.get(foot)!
        .every((e) => e.lookAgain),
    ).toBe(true);
  });

  it('holds a released stage that it touches', () => {
    const t = begun();
    climb(t, 'penetrations');
    t.write('geometry-set', { version: 2, geometry: sampleShower({ widthMm: 70 * IN }) });
    expect(word(t.entries, 'boards')).toBe('held');
    t.write('geometry-set', { version: 3, geometry: sampleShower({ widthMm: 60 * IN + 10 }) });
    expect(word(t.entries, 'boards')).toBe('released');
  });

  it('that can not be built is listed and changes nothing', () => {
    const t = begun();
    const bad = { ...sampleShower(), drain: { kind: 'point' as const, xMm: -500, yMm: 0 } };
    const id = t.write('geometry-set', { version: 2, geometry: bad });
    expect(fold(t.entries).geometry!.version).toBe(1);
    expect(fold(t.entries).orphans).toEqual([{ entry: id, why: 'geometry-invalid' }]);
  });
});

describe('the fold', () => {
  it('gives the same state for any arrival order of the same entries', () => {
    const a = begun({}, 1);
    climb(a, 'curb');
    const b = tablet(2, 1_600_000_000_000);
    b.hears(a.entries.slice(0, 12));
    const short = b.write('reading', {
      stage: 'membrane',
      check: 'lap',
      place: placeOf(fold(a.entries), foot, { side: 'wall:back' }),
      atMm: 300,
      valueMm: 40,
      typed: '40',
      instrument: 'tape',
    });
    b.write('defect-found', {
      stage: 'membrane',
      place: { element: foot },
      kind: 'short-lap',
      severity: 'stop',
      words: 'x',
      photos: [],
      about: short,
    });
    b.write('redo', {
      stage: 'boards',
      places: [placeOf(fold(a.entries), seamId(fold(a.entries), 'board-joint|wall:back'))],
      reason: 'r',
    });
    b.write('correction', { target: short, action: 'withdraw' });
    const all = [...a.entries, ...b.entries];
    const expected = fold(all);
    const mixed = fc.shuffledSubarray(all, { minLength: all.length });
    fc.assert(
      fc.property(mixed, (entries) => {
        expect(fold(entries)).toEqual(expected);
      }),
      { numRuns: 60 },
    );
    expect(expected.orphans).toEqual([{ entry: b.entries[1]!.id, why: 'target-withdrawn' }]);
  });

  it('does not change its input', () => {
    const t = begun();
    pass(t, 'base');
    const before = JSON.stringify(t.entries);
    fold(t.entries);
    expect(JSON.stringify(t.entries)).toBe(before);
  });

  it('keeps what it can not place: an unknown rule book leaves the shower drawn', () => {
    const t = tablet(1);
    t.write('geometry-set', { version: 1, geometry: sampleShower() });
    t.write('rules-pinned', { ruleBook: BOOK.id, version: 99, method: 'bonded-sheet' });
    expect(fold(t.entries)).toMatchObject({ rules: null, requirements: [], orphans: [{ why: 'rules-unknown' }] });
  });

  it('takes two people releasing at once as one release, whichever arrives first; both stand in the record', () => {
    const t = begun();
    pass(t, 'base');
    const [one, two] = [tablet(8), tablet(9, undefined, MANAGER)];
    for (const other of [one, two]) {
      other.hears(t.entries);
      other.write('stage-released', releaseBody('base'));
    }
    const states = [
      fold([...t.entries, ...one.entries, ...two.entries]),
      fold([...two.entries, ...one.entries, ...t.entries]),
    ];
    expect(states[1]).toEqual(states[0]);
    expect([states[0]!.stages.get('base')!.word, states[0]!.releases.length]).toEqual(['released', 2]);
  });
});
