import { describe, expect, it } from 'vitest';
import { judge } from '../checks/judge';
import { builtAs } from '../checks/position';
import { partOfFace, requirementsOf } from '../checks/requirements';
import { surveyedFloor } from '../checks/survey';
import { waterProof } from '../checks/waterProof';
import type { Body } from '../log/bodies';
import { lapLeg } from '../membrane/laps';
import { defaultRuleBook } from '../rules/defaultRuleBook';
import { positionEffect } from '../rules/positions';
import { showerModel } from '../shower/geometry/showerModel';
import { endFlood, flooded, HOUR_MS, PLACES, readyForWater, waterIn } from '../tests/sampleFlood';
import { sampleModel, sampleShower } from '../tests/sampleShower';
import {
  BOOK,
  BOTH_ANSWERS,
  begun,
  byOther,
  climb,
  fold,
  lapReading,
  MANAGER,
  pass,
  placeOf,
  releaseBody,
  SHOWER,
  type Tablet,
  tablet,
} from '../tests/sampleTablet';
import { atMoment, foldShower } from './fold/foldShower';
import { toProveAgain } from './holds/defectLife';
import { blockersOf } from './holds/release';
import { currentStage } from './shown/seamLine';
import { showerTakeOff } from './shown/takeOffOfShower';
import { notInspected, waysOf } from './shown/waysOf';

const SHIPPED = defaultRuleBook();
const back = 'floor-wall|floor|wall:back';
const left = 'floor-wall|floor|wall:left';
const find = (t: Tablet, check: string, element: string, side: string | null = null) => {
  const state = fold(t.entries);
  return judge(
    state,
    state.requirements.find((r) => r.check.id === check && r.element === element && r.side === side)!,
  );
};
const defectOn = (t: Tablet, places: string[], more: Partial<Body<'defect-found'>> = {}) =>
  t.write('defect-found', {
    stage: 'membrane',
    place: placeOf(fold(t.entries), places[0]!, { fromMm: 100, toMm: 300 }),
    kind: 'gap',
    severity: 'stop',
    words: '',
    photos: [],
    ...more,
  });

describe('rules that are not known', () => {
  it('a method or a book that nobody has is told, and what was pinned before stands', () => {
    const t = begun();
    t.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'no-such-method' });
    t.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version + 1, method: 'bonded-sheet' });
    const state = fold(t.entries);
    expect(state.orphans.map((o) => o.why)).toEqual(['rules-unknown', 'rules-unknown']);
    expect(state.rules!.pinned.method).toBe('bonded-sheet');
    expect(blockersOf(state, 'base').length).toBeGreaterThan(0);
    expect(blockersOf(state, 'no-such-stage')).toEqual([]);
  });
  it('without rules or dimensions nothing is asked, used or said', () => {
    const bare = tablet(9);
    bare.write('shower-created', { name: 'n', job: 'j', crewId: 'c', timeZone: 'UTC' });
    const drawn = tablet(10);
    drawn.write('shower-created', { name: 'n', job: 'j', crewId: 'c', timeZone: 'UTC' });
    drawn.write('geometry-set', { version: 1, geometry: sampleShower() });
    const pinned = tablet(11);
    pinned.write('shower-created', { name: 'n', job: 'j', crewId: 'c', timeZone: 'UTC' });
    pinned.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'bonded-sheet' });
    for (const t of [bare, drawn, pinned]) {
      const state = fold(t.entries);
      expect(state.created!.showerId).toBe(SHOWER);
      expect([state.requirements, showerTakeOff(state), waysOf(state)]).toEqual([[], [], []]);
    }
    expect(notInspected(fold(bare.entries))).toEqual([]);
    expect(currentStage(fold(bare.entries))).toBeNull();
  });
});

describe('what a redo takes', () => {
  it('a reading at the very end of the stretch goes with it, one beside it stays', () => {
    const t = begun();
    for (const at of [499, 500, 700, 701]) lapReading(t, back, 'wall:back', at, 55);
    t.write('redo', {
      stage: 'membrane',
      places: [placeOf(fold(t.entries), back, { fromMm: 500, toMm: 700 })],
      reason: 'again',
    });
    expect(find(t, 'lap', back, 'wall:back').readings.map((r) => r.atMm)).toEqual([499, 701]);
  });
  it('what must be shown again is what it took the proof from: of that check, on that element and side', () => {
    const t = begun();
    climb(t, 'membrane');
    pass(t, 'membrane');
    const defect = defectOn(t, [back]);
    t.write('redo', { stage: 'membrane', places: [placeOf(fold(t.entries), back)], reason: 'again', defect });
    // Elsewhere something was never shown: that is not the redo's.
    t.write('redo', { stage: 'membrane', places: [placeOf(fold(t.entries), left)], reason: 'another thing' });
    const state = fold(t.entries);
    const again = toProveAgain(state, state.defects.get(defect)!);
    const own = state.requirements.filter((r) => r.stage.key === 'membrane' && r.element === back);
    expect(own.length).toBeGreaterThan(2);
    const names = (list: readonly { check: { id: string }; side: string | null }[]) =>
      list.map((r) => `${r.check.id} ${r.side}`).sort();
    expect(names(again.map((j) => j.requirement).filter((r) => r.element === back))).toEqual(names(own));
    expect(again.every((j) => j.requirement.element !== left)).toBe(true);
    // One side of it was read again and looked at: the other one is left.
    pass(t, 'membrane', (r) => r.element !== back || r.side === 'floor');
    const rest = fold(t.entries);
    const open = toProveAgain(rest, rest.defects.get(defect)!).map((j) => j.requirement);
    expect(open.length).toBeGreaterThan(0);
    expect(open.every((r) => r.side === 'floor' || r.element !== back)).toBe(true);
  });
  it('a redo or a look of the same stretch of another seam closes no defect', () => {
    const t = begun();
    const defect = defectOn(t, [back]);
    const elsewhere = placeOf(fold(t.entries), left, { fromMm: 0, toMm: 400 });
    t.write('redo', { stage: 'membrane', places: [elsewhere], reason: 'again' });
    t.write('defect-closed', { defect, ...BOTH_ANSWERS });
    expect(fold(t.entries).defects.get(defect)!.closedAt).toBeNull();
    t.write('redo', {
      stage: 'membrane',
      places: [elsewhere, placeOf(fold(t.entries), back, { fromMm: 100, toMm: 300 })],
      reason: 'again',
    });
    t.write('defect-closed', { defect, ...BOTH_ANSWERS });
    expect(fold(t.entries).defects.get(defect)!.closedAt).not.toBeNull();
  });
  it('a defect of a face or a corner closes by a look at that face, not at another one', () => {
    const t = begun();
    const defect = defectOn(t, ['wall:back'], { stage: 'boards', place: { element: 'wall:back' } });
    const seen = (element: string) =>
      t.write('look', { stage: 'boards', checks: ['board-kind'], places: [{ element }], answer: 'ok' });
    seen('wall:left');
    t.write('redo', { stage: 'boards', places: [{ element: 'wall:right' }], reason: 'x' });
    t.write('defect-closed', { defect, ...BOTH_ANSWERS });
    expect(fold(t.entries).defects.get(defect)!.closedAt).toBeNull();
    seen('wall:back');
    t.write('defect-closed', { defect, ...BOTH_ANSWERS });
    expect(fold(t.entries).defects.get(defect)!.closedAt).not.toBeNull();
  });
});

describe('a reading on a seam that was longer when it was taken', () => {
  it('counts as it was drawn then; beyond either length it is listed and not counted', () => {
    const lengths = () => fold(wide.entries).seamById.get(back)!.lengthMm;
    const wide = begun({ widthMm: 1000 });
    const drawn = lengths();
    const read = (atMm: number, lengthMm: number) =>
      wide.write('reading', {
        stage: 'membrane',
        check: 'lap',
        place: { element: back, side: 'wall:back', lengthMm },
        atMm,
        valueMm: 55,
        typed: '55',
        instrument: 'tape',
      });
    read(drawn + 150, drawn + 200);
    read(drawn + 250, drawn + 200);
    read(drawn - 10, drawn - 100);
    read(drawn + 10, drawn - 100);
    expect(fold(wide.entries).orphans.map((o) => o.why)).toEqual(['off-element', 'off-element']);
    expect(
      fold(wide.entries)
        .evidence.get(back)!
        .map((e) => e.atMm),
    ).toEqual([drawn, drawn - 10]);
  });
});

describe('days that pass', () => {
  it('one thing that falls due among others that do not holds the next layer', () => {
    const t = begun();
    climb(t, 'membrane');
    const give = (dueInHours: number | null) => {
      const defect = t.write('defect-found', {
        stage: 'base',
        place: { element: 'floor' },
        kind: 'gap',
        severity: 'fix',
        words: '',
        photos: [],
      });
      if (dueInHours !== null)
        t.write('defect-assigned', {
          defect,
          crewId: 'crew',
          dueAt: new Date(t.nowMs() + dueInHours * HOUR_MS).toISOString(),
        });
      return defect;
    };
    give(null);
    give(500);
    const state = fold(t.entries);
    // The open ones hold their own stage; none of them another yet.
    const word = (hours: number, of = state) => atMoment(of, of.clockMs + hours * HOUR_MS).stages.get('boards')!;
    give(24);
    const due = fold(t.entries);
    const blockers = (hours: number) =>
      (word(hours, due).because?.blockers ?? []).filter((b) => b.kind === 'defect').length;
    expect(blockers(1)).toBe(0);
    expect(blockers(25)).toBe(1);
    expect((word(25).because?.blockers ?? []).filter((b) => b.kind === 'defect')).toEqual([]);
  });
  it('a wait that was released before it was over stays contested when the hours have passed since', () => {
    const t = begun();
    climb(t, 'drain-tie-in');
    pass(t, 'drain-tie-in');
    t.write('stage-released', releaseBody('drain-tie-in'));
    t.until(t.nowMs() + 5 * HOUR_MS);
    t.write('stage-released', releaseBody('cure'));
    expect(fold(t.entries).stages.get('cure')).toMatchObject({
      word: 'contested',
      because: { cause: 'came-to-light' },
    });
    t.until(t.nowMs() + 100 * HOUR_MS);
    t.write('note', { words: 'days later' });
    const later = fold(t.entries).stages.get('cure')!;
    expect(later.word).toBe('contested');
    expect(later.because!.blockers.map((b) => b.kind)).toContain('check');
    // Released by its clock, by a tablet whose clock was set right afterwards: it was not over.
    const ahead = begun();
    climb(ahead, 'drain-tie-in');
    pass(ahead, 'drain-tie-in');
    ahead.write('stage-released', releaseBody('drain-tie-in'));
    ahead.until(ahead.nowMs() + 30 * HOUR_MS);
    const release = ahead.write('stage-released', releaseBody('cure'));
    const came = (skewHours: number) =>
      new Map([[release, { skewMs: -skewHours * HOUR_MS, receivedAtMs: null, imported: false }]]) as never;
    expect(fold(ahead.entries, came(0)).stages.get('cure')!.word).toBe('released');
    expect(fold(ahead.entries, came(20)).stages.get('cure')!.word).toBe('contested');
    ahead.until(ahead.nowMs() + 100 * HOUR_MS);
    ahead.write('note', { words: 'days later' });
    const known = fold(ahead.entries, came(20)).stages.get('cure')!;
    expect(known).toMatchObject({ word: 'contested', because: { cause: 'came-to-light' } });
    expect(known.because!.blockers).toMatchObject([{ kind: 'check', check: 'mortar-cure' }]);
  });
});

describe('what a manager upheld', () => {
  it('is not held against them again when something else comes up: not even what is to be looked at again', () => {
    const t = begun();
    climb(t, 'membrane');
    pass(t, 'membrane', (r) => r.element !== back);
    lapReading(t, back, 'wall:back', 700, 55);
    t.write('geometry-set', { version: 2, geometry: sampleShower({ widthMm: 64 * 25.4 }) });
    expect(blockersOf(fold(t.entries), 'membrane').map((b) => b.kind)).toContain('look-again');
    byOther(t, MANAGER, (boss) => boss.write('stage-released', releaseBody('membrane', 'I stood there')));
    const own = () =>
      (fold(t.entries).stages.get('membrane')!.because?.blockers ?? [])
        .filter((b) => b.kind !== 'lower-stage')
        .map((b) => b.kind);
    expect(own()).toEqual([]);
    lapReading(t, left, 'wall:left', 300, 30);
    expect(own().sort()).toEqual(['check', 'defect']);
  });
});

describe('a flood that was not read enough', () => {
  it('shows no bound where there is none, and what it lacks', () => {
    const t = begun();
    readyForWater(t);
    waterIn(t);
    t.until(t.nowMs() + 25 * HOUR_MS);
    endFlood(t, 'undecided');
    const found = find(t, 'holds-water', 'shower');
    expect(found.verdict).toBe('undecided');
    expect(Object.keys(found.worst)).not.toContain('high');
    expect(Object.values(found.worst).every((x) => Number.isFinite(x))).toBe(true);
    expect(found.worst['nothing read']).toBe(1);
  });
});

describe('water that is found after the flood', () => {
  it('takes the verdict back and stops what lies above, also where a manager pinned a first stage above the flood since', () => {
    const t = flooded(begun());
    expect(fold(t.entries).flood!.provedBelowMm).toBeGreaterThan(60);
    const later = BOOK.methods[0]!.stages.filter((s) => s.order > 0).at(-1)!;
    byOther(t, MANAGER, (boss) =>
      boss.write('rules-pinned', {
        ruleBook: BOOK.id,
        version: BOOK.version,
        method: 'bonded-sheet',
        beginsAt: later.key,
      }),
    );
    expect(fold(t.entries).requirements.some((r) => r.check.kind === 'flood')).toBe(false);
    const wet = t.write('moisture-look', { where: PLACES[0]!, found: true, answer: 'wet', moment: 'end' });
    const state = fold(t.entries);
    expect(state.flood).toMatchObject({ provedBelowMm: null, end: { verdict: 'fail' } });
    expect(state.defects.get(wet)).toMatchObject({ stage: 'flood-test', severity: 'stop', closedAt: null });
    expect(blockersOf(state, later.key).some((b) => b.kind === 'defect' && b.defect.id === wet)).toBe(true);
  });
});

describe('positions', () => {
  const shipped = (book = SHIPPED) => {
    const t = tablet(21);
    t.write('shower-created', { name: 'n', job: 'j', crewId: 'c', timeZone: 'UTC' });
    t.write('geometry-set', { version: 1, geometry: sampleShower() });
    t.write('rules-pinned', { ruleBook: book.id, version: book.version, method: 'liquid' });
    return t;
  };
  const foldIt = (t: Tablet, book = SHIPPED) => foldShower(t.entries, () => book);
  it('one that is a defect fails as one that deviates does; an acceptance is of the one that was found', () => {
    const t = shipped();
    const state = foldIt(t);
    const bad = state.requirements.flatMap((r) => {
      if (r.check.kind !== 'position') return [];
      const { disagreement } = r.check;
      const question = SHIPPED.disagreements.find((d) => d.id === disagreement)!;
      const effects = question.positions.map((p) => ({
        key: p.key,
        effect: positionEffect(SHIPPED, question, builtAs(state), p.key),
      }));
      return effects.filter((e) => e.effect !== 'accept').map((e) => ({ r, ...e }));
    });
    const kinds = new Set(bad.map((b) => b.effect));
    expect([...kinds]).toEqual(expect.arrayContaining(['deviation', 'warning']));
    for (const { r, key, effect } of bad) {
      const said = shipped();
      said.write('look', {
        stage: r.stage.key,
        checks: [r.check.id],
        places: [{ element: r.element }],
        answer: 'ok',
        position: key,
      });
      const now = foldIt(said);
      const j = judge(now, now.requirements.find((x) => x.check.id === r.check.id && x.element === r.element)!);
      expect([r.check.id, key, j.verdict, j.worst]).toEqual([
        r.check.id,
        key,
        effect === 'deviation' || effect === 'defect' ? 'fail' : 'pass',
        { [key]: 1 },
      ]);
    }
    const severe = structuredClone(SHIPPED);
    const first = bad.find((b) => b.effect === 'deviation')!;
    const positions = severe.disagreements.find((d) => d.id === first.r.check.id)!.positions as {
      key: string;
      effect?: string;
    }[];
    for (const p of positions) if (p.key === first.key) Object.assign(p, { effect: 'defect' });
    const graver = shipped(severe);
    graver.write('look', {
      stage: first.r.stage.key,
      checks: [first.r.check.id],
      places: [{ element: first.r.element }],
      answer: 'ok',
      position: first.key,
    });
    const now = foldIt(graver, severe);
    expect(judge(now, now.requirements.find((x) => x.check.id === first.r.check.id)!).verdict).toBe('fail');
  });
});

describe('small things', () => {
  it('the stage that is worked on is the lowest by its order, whatever the order of a list', () => {
    const stage = (key: string, order: number) => ({ key, order, checks: [{}] });
    const of = (released: string[]) =>
      currentStage({
        rules: { method: { stages: [stage('c', 3), stage('a', 1), stage('b', 2)] } },
        stages: new Map(released.map((k) => [k, { word: 'released' }])),
      } as never);
    expect([of([]), of(['a']), of(['a', 'b']), of(['c']), of(['a', 'b', 'c'])]).toEqual(['a', 'b', 'c', 'a', 'c']);
  });
  it('a seam that stays dry, or gets wet, by half a millimetre or less does not count so', () => {
    const upright = (lengthMm: number) =>
      ({
        id: 's',
        kind: 'wall-wall-inside',
        faces: ['a', 'b'],
        lengthMm,
        lowMm: 0,
        highMm: lengthMm,
        points: [
          [0, 0, 0],
          [0, 0, lengthMm],
        ],
      }) as never;
    const of = (heightMm: number) => {
      const { under, above } = waterProof({ seams: [upright(100)] } as never, heightMm);
      return [under.length, above.length];
    };
    expect(of(0.5)).toEqual([0, 1]);
    expect(of(0.51)).toEqual([1, 1]);
    expect(of(99.49)).toEqual([1, 1]);
    expect(of(99.5)).toEqual([1, 0]);
  });
  it('each kind of face is a part of the shower, but for what only closes the body', () => {
    const parts = {
      outside: null,
      floor: 'floor',
      ceiling: 'ceiling',
      'outside-floor': 'outside-floor',
      wall: 'walls',
      'curb-top': 'curb',
      'niche-sill': 'niche',
      'bench-top': 'bench',
    };
    for (const [kind, part] of Object.entries(parts)) expect([kind, partOfFace(kind as never)]).toEqual([kind, part]);
  });
  it('a transition is a seam between parts of two methods; without them there is none', () => {
    const model = sampleModel({ niche: true });
    const on = (methods: Record<string, string> | null) =>
      requirementsOf(
        model,
        {
          stages: [
            {
              key: 's',
              order: 1,
              holdPoint: true,
              checks: [{ id: 'x', kind: 'looked', on: { element: 'transition' } }],
            },
          ],
        } as never,
        methods as never,
      ).map((r) => r.element);
    const all = (method: string) =>
      Object.fromEntries(
        ['floor', 'curb', 'walls', 'niche', 'bench', 'ceiling', 'outside-floor'].map((p) => [p, method]),
      );
    expect(on(null)).toEqual([]);
    expect(on(all('a'))).toEqual([]);
    const mixed = on({ ...all('a'), floor: 'b' });
    expect(mixed).toContain(back);
    const faces = new Map(model.seams.map((s) => [s.id, s.faces]));
    expect(mixed.every((id) => faces.get(id)!.includes('floor'))).toBe(true);
  });
  it('open edges of a floor are known to its survey by their number', () => {
    const geometry = sampleShower();
    const made = showerModel({
      ...geometry,
      edges: geometry.edges.map((e) => (e.kind === 'curb' ? { kind: 'open', id: e.id } : e)),
    } as never);
    if (!made.ok) throw new Error(made.problem.code);
    const curb = geometry.edges.findIndex((e) => e.kind === 'curb');
    expect(surveyedFloor(made.value, true).openEdges).toEqual([curb]);
    expect(surveyedFloor(sampleModel(), true).openEdges).toEqual([]);
  });
});

describe('legs, wet lengths, crews, other rules, figures', () => {
  it('a leg is none where the loss takes the whole band, or where the crease lies beside it', () => {
    const leg = (bandWidthMm: number, lossMm: number, offCentreMm: number) =>
      lapLeg({ bandWidthMm, lossMm, offCentreMm }).ok;
    expect([leg(100, 100, 0), leg(100, 99, 0)]).toEqual([false, true]);
    expect([leg(100, 0, 50), leg(100, 0, 50.1), leg(100, 0, -50), leg(100, 0, -50.1)]).toEqual([
      true,
      false,
      true,
      false,
    ]);
  });
  it('a seam that is measured from its dry end is wet for as long as from its wet one', () => {
    const seam = (from: number, to: number) =>
      ({
        id: 's',
        kind: 'wall-wall-inside',
        faces: ['a', 'b'],
        lengthMm: 100,
        lowMm: 0,
        highMm: 100,
        points: [
          [0, 0, from],
          [0, 0, to],
        ],
      }) as never;
    const wet = (s: never) => waterProof({ seams: [s] } as never, 40).wetMm;
    expect([wet(seam(0, 100)), wet(seam(100, 0))]).toEqual([40, 40]);
  });
  it('given to a crew again, a defect waits for its redo again; given to another one, what was redone stays so', () => {
    const t = begun();
    const defect = defectOn(t, [back]);
    t.write('redo', { stage: 'membrane', places: [placeOf(fold(t.entries), back)], reason: 'again', defect });
    const redone = () => fold(t.entries).defects.get(defect)!.redoneAt;
    expect(redone()).not.toBeNull();
    t.write('defect-assigned', { defect, crewId: 'other' });
    expect(redone()).not.toBeNull();
    t.write('defect-assigned', { defect, crewId: 'other', again: true });
    expect(redone()).toBeNull();
  });
  it('a stage that other rules hold says so', () => {
    const t = begun();
    climb(t, 'boards');
    const pin = t.entries.length;
    byOther(t, MANAGER, (boss) =>
      boss.write('rules-pinned', {
        ruleBook: BOOK.id,
        version: BOOK.version,
        method: 'bonded-sheet',
        variants: ['wet-room'],
      }),
    );
    const { stages } = fold(t.entries);
    const held = [...stages.values()].filter((s) => s.word === 'held' && s.release !== null);
    for (const s of held) expect(s.because).toMatchObject({ cause: 'rules', entry: t.entries[pin]!.id });
    const method = begun();
    climb(method, 'boards');
    byOther(method, MANAGER, (boss) =>
      boss.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method: 'sealant-board' }),
    );
    const other = [...fold(method.entries).stages.values()].filter((s) => s.release !== null && s.word !== 'released');
    expect(held.length + other.length).toBeGreaterThan(0);
    for (const s of other) expect(s.because!.cause).toMatch(/rules|came-to-light|lower-stage/);
  });
  it('a figure is bad in the direction of its limit alone', () => {
    const limited = (limit: object) => {
      const book = structuredClone(SHIPPED);
      for (const check of book.methods.flatMap((m) => m.stages.flatMap((x) => x.checks)))
        if (check.kind === 'number' && check.id === 'pipe-tilt') check.limit = limit;
      const t = tablet(31);
      t.write('shower-created', { name: 'n', job: 'j', crewId: 'c', timeZone: 'UTC' });
      t.write('geometry-set', { version: 1, geometry: sampleShower() });
      t.write('rules-pinned', { ruleBook: book.id, version: book.version, method: 'liquid' });
      t.write('look', {
        stage: 'drain-rough-in',
        checks: ['pipe-tilt'],
        places: [{ element: 'drain:d' }],
        answer: 'ok',
        number: 4,
      });
      const state = foldShower(t.entries, () => book);
      return judge(state, state.requirements.find((r) => r.check.id === 'pipe-tilt')!).worst;
    };
    expect(limited({ atMost: 5 })).toEqual({ high: 4 });
    expect(limited({ atLeast: 3 })).toEqual({ low: -4 });
    expect(limited({ atLeast: 3, atMost: 5 })).toEqual({ low: -4, high: 4 });
  });
});
