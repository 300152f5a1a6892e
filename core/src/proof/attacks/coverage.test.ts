import { describe, expect, it } from 'vitest';
import { judge } from '../../checks/judge';
import { sampleShower } from '../../tests/sampleShower';
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
} from '../../tests/sampleTablet';
import { defectStep } from '../holds/defectLife';

const IN = 25.4;
const foot = 'floor-wall|floor|wall:back';
const left = 'floor-wall|floor|wall:left';
const lapOn = (t: Tablet, element = foot, side = 'wall:back') => {
  const state = fold(t.entries);
  return judge(
    state,
    state.requirements.find((r) => r.check.id === 'lap' && r.element === element && r.side === side)!,
  );
};
const whole = (t: Tablet, element = foot) =>
  t.write('look', {
    stage: 'membrane',
    checks: ['lap', 'bond'],
    places: [placeOf(fold(t.entries), element)],
    answer: 'ok',
  });

function accept(t: Tablet, check: string, stage: string, element: string, more: object = {}): string {
  const state = fold(t.entries);
  const side = (more as { side?: string }).side ?? null;
  const j = judge(
    state,
    state.requirements.find((r) => r.check.id === check && r.element === element && r.side === side)!,
  );
  const asked = t.write('deviation-asked', {
    stage,
    check,
    place: placeOf(state, element, more),
    geometryVersion: state.geometry!.version,
    ruleVersion: BOOK.version,
    verdict: j.verdict,
    reason: 'it will hold',
  });
  byOther(t, MANAGER, (boss) => boss.write('deviation-decided', { asked, accepted: true, reason: 'yes' }));
  return asked;
}

describe('an acceptance covers what was shown', () => {
  it('and ends with anything lower, where the limit is a least', () => {
    const t = begun();
    whole(t);
    for (const at of [150, 700, 1000, 1374]) lapReading(t, foot, 'wall:back', at, at === 700 ? 45 : 55);
    accept(t, 'lap', 'membrane', foot, { side: 'wall:back' });
    expect(lapOn(t).satisfied).toBe(true);
    lapReading(t, foot, 'wall:back', 720, 40);
    expect(lapOn(t).satisfied).toBe(false);
  });

  it('and ends with anything higher, where the limit is a most', () => {
    const t = begun();
    const fall = () => {
      const state = fold(t.entries);
      return judge(state, state.requirements.find((r) => r.check.id === 'base-fall')!);
    };
    const read = (valueMm: number) =>
      t.write('reading', {
        stage: 'base',
        check: 'base-fall',
        place: placeOf(fold(t.entries), 'floor'),
        atMm: 0,
        valueMm,
        typed: '',
        instrument: 'level',
      });
    for (const mm of [20, 20, 20, 27]) read(mm);
    accept(t, 'base-fall', 'base', 'floor');
    expect(fall().satisfied).toBe(true);
    read(26);
    expect(fall().satisfied).toBe(true);
    read(60);
    expect(fall().satisfied).toBe(false);
  });

  it('and says nothing of the other direction', () => {
    const t = begun();
    const read = (valueMm: number) =>
      t.write('reading', {
        stage: 'base',
        check: 'base-fall',
        place: placeOf(fold(t.entries), 'floor'),
        atMm: 0,
        valueMm,
        typed: '',
        instrument: 'level',
      });
    for (const mm of [20, 20, 20, 27]) read(mm);
    accept(t, 'base-fall', 'base', 'floor');
    read(5);
    const state = fold(t.entries);
    expect(judge(state, state.requirements.find((r) => r.check.id === 'base-fall')!).satisfied).toBe(false);
  });

  it('and only the stretch it was asked for', () => {
    const t = begun();
    whole(t);
    for (const at of [150, 700, 1000, 1374]) lapReading(t, foot, 'wall:back', at, at === 700 ? 45 : 55);
    accept(t, 'lap', 'membrane', foot, { side: 'wall:back', fromMm: 500, toMm: 900 });
    expect(lapOn(t).satisfied).toBe(true);
    lapReading(t, foot, 'wall:back', 1300, 46);
    expect(lapOn(t).satisfied).toBe(false);
  });

  it('and is not moved to something else by correcting what was asked', () => {
    const t = begun();
    whole(t);
    lapReading(t, foot, 'wall:back', 700, 45);
    whole(t, left);
    lapReading(t, left, 'wall:left', 300, 20);
    const asked = accept(t, 'lap', 'membrane', foot, { side: 'wall:back' });
    const before = t.entries.find((e) => e.id === asked)!.body as object;
    t.write('correction', {
      target: asked,
      action: 'replace',
      body: { ...before, place: placeOf(fold(t.entries), left, { side: 'wall:left' }) },
    });
    expect(lapOn(t, left, 'wall:left').satisfied).toBe(false);
    expect(lapOn(t).satisfied).toBe(false);
  });

  it('the worst place is the worst, not the first that failed', () => {
    const t = begun();
    lapReading(t, foot, 'wall:back', 300, 48);
    lapReading(t, foot, 'wall:back', 900, 30);
    expect(lapOn(t)).toMatchObject({ worstAtMm: 900, lowestMm: 30 });
  });
});

describe('places', () => {
  it('a reading beside its element is refused and listed', () => {
    const t = begun();
    const state = fold(t.entries);
    const length = state.seamById.get(foot)!.lengthMm;
    const id = t.write('reading', {
      stage: 'membrane',
      check: 'lap',
      place: { ...placeOf(state, foot, { side: 'wall:back' }) },
      atMm: length + 400,
      valueMm: 55,
      typed: '',
      instrument: 'tape',
    });
    expect(lapOn(t).readings).toHaveLength(0);
    expect(fold(t.entries).orphans).toEqual([{ entry: id, why: 'off-element' }]);
  });

  it('readings of one spot count once', () => {
    const t = begun();
    const state = fold(t.entries);
    const short = 'floor-wall|floor|wall:left';
    const mm = state.seamById.get(short)!.lengthMm;
    whole(t, short);
    for (const at of [140, 150, 160, mm - 150, mm - 145]) lapReading(t, short, 'wall:left', at, 55);
    expect(lapOn(t, short, 'wall:left').verdict).toBe('undecided');
    lapReading(t, short, 'wall:left', mm / 2, 55);
    expect(lapOn(t, short, 'wall:left').verdict).toBe('pass');
  });

  it('a failed reading speaks as far as a good one', () => {
    const t = begun();
    lapReading(t, foot, 'wall:back', 700, 40);
    expect(lapOn(t).failed).toEqual([{ fromMm: 550, toMm: 850 }]);
    expect([...fold(t.entries).defects.values()][0]!.places[0]).toMatchObject({ fromMm: 550, toMm: 850 });
  });

  it('a stretch redone that was typed backwards can be proved again', () => {
    const t = begun();
    climb(t, 'drain-tie-in');
    t.write('redo', {
      stage: 'membrane',
      places: [placeOf(fold(t.entries), foot, { fromMm: 450, toMm: 250 })],
      reason: 'x',
    });
    expect(lapOn(t).missing).toEqual([{ fromMm: 250, toMm: 450 }]);
    pass(t, 'membrane');
    expect(lapOn(t).verdict).toBe('pass');
  });

  it('a stretch redone beyond the end of a seam that became shorter can be proved again', () => {
    const t = begun();
    climb(t, 'drain-tie-in');
    const end = fold(t.entries).seamById.get(foot)!.lengthMm;
    t.write('redo', {
      stage: 'membrane',
      places: [placeOf(fold(t.entries), foot, { fromMm: end - 10, toMm: end })],
      reason: 'x',
    });
    t.write('geometry-set', { version: 2, geometry: sampleShower({ widthMm: 60 * IN - 20 }) });
    for (const stage of ['base', 'boards', 'penetrations', 'curb', 'membrane']) pass(t, stage);
    expect(lapOn(t).verdict).toBe('pass');
  });

  it('a look typed backwards covers the same stretch', () => {
    const t = begun();
    t.write('look', {
      stage: 'membrane',
      checks: ['bond'],
      places: [placeOf(fold(t.entries), foot, { fromMm: 900, toMm: 100 })],
      answer: 'ok',
    });
    const state = fold(t.entries);
    expect(judge(state, state.requirements.find((r) => r.check.id === 'bond' && r.element === foot)!).seen).toEqual([
      { fromMm: 100, toMm: 900 },
    ]);
  });
});

describe('dimensions changed under evidence', () => {
  const stale = (change: object, element: string, stage: string) => {
    const t = begun();
    climb(t, 'drain-tie-in');
    pass(t, 'drain-tie-in');
    t.write('geometry-set', { version: 2, geometry: { ...sampleShower(), ...change } as never });
    return fold(t.entries)
      .evidence.get(element)!
      .filter((e) => e.stage === stage)
      .every((e) => e.lookAgain);
  };
  it('ask for another look at a face of another size', () => {
    const wider = sampleShower({ widthMm: 70 * IN });
    expect(stale(wider, 'floor', 'base')).toBe(true);
    expect(stale(wider, 'wall:back', 'boards')).toBe(true);
    expect(stale(wider, 'wall:left', 'boards')).toBe(false);
    expect(stale(sampleShower({ widthMm: 60 * IN + 10 }), 'floor', 'base')).toBe(false);
  });
  it('ask for another look at a drain that moved, and at an opening that moved', () => {
    const { drain, penetrations } = sampleShower();
    expect(stale({ drain: { ...drain, xMm: drain.xMm + 60 } }, 'drain:d', 'drain-tie-in')).toBe(true);
    expect(stale({ drain: { ...drain, xMm: drain.xMm + 10 } }, 'drain:d', 'drain-tie-in')).toBe(false);
    const moved = penetrations!.map((p) => ({ ...p, heightMm: p.heightMm + 100 }));
    expect(stale({ penetrations: moved }, 'penetration:valve', 'penetrations')).toBe(true);
  });
});

describe('order, not clocks', () => {
  it('an answer after an assignment counts as one, whatever the clock of the phone says', () => {
    const t = begun();
    const defect = t.write('defect-found', {
      stage: 'boards',
      place: { element: 'wall:back' },
      kind: 'gap',
      severity: 'fix',
      words: '',
      photos: [],
    });
    t.write('defect-assigned', { defect, crewId: 'crew' });
    byOther(t, { id: 'crew', name: 'Cy', role: 'crew-lead' }, (crew) =>
      crew.write('defect-answered', { defect, words: 'done', photos: [] }),
    );
    const behind = t.entries.map((e) =>
      e.kind === 'defect-answered' ? { ...e, observedAt: '2001-01-01T00:00:00.000Z' } : e,
    );
    expect(defectStep(fold(behind).defects.get(defect)!)).toBe('answered');
  });
});

describe('a release', () => {
  it('is asked for again where every stage above would otherwise stand on it', () => {
    const t = begun();
    climb(t, 'boards');
    pass(t, 'boards');
    t.write('stage-released', releaseBody('penetrations'));
    expect(fold(t.entries).stages.get('penetrations')!.word).not.toBe('released');
  });
});
