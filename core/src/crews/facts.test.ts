import { describe, expect, it } from 'vitest';
import type { Body } from '../log/bodies';
import { lapVerdict, patternPlaces } from '../membrane/laps';
import { foldShower } from '../proof/fold/foldShower';
import { isOf } from '../rules/checks/check';
import { totalMm } from '../shower/seams/intervals';
import {
  BOOK,
  BOTH_ANSWERS,
  begun,
  byOther,
  CREW,
  climb,
  fold,
  INSPECTOR,
  lapReading,
  MANAGER,
  pass,
  placeOf,
  seamId,
  type Tablet,
} from '../tests/sampleTablet';
import { type Facts, factsOf } from './facts';
import { makerOf, stageMadeOf } from './maker';
import { plannedReadings } from './plannedReadings';

const dayOf = (ms: number): string => new Date(ms).toISOString().slice(0, 10);
const facts = (t: Tablet): Facts => factsOf(fold(t.entries), t.entries, dayOf);
const nextDay = (t: Tablet) => t.until(t.nowMs() + 86_400_000);
const sum = (list: readonly { mm: number }[]) => list.reduce((all, r) => all + r.mm, 0);
/** The foot of a wall. */
const foot = (t: Tablet): string => seamId(fold(t.entries), 'floor-wall');
const look = (t: Tablet, element: string, fromMm: number, toMm: number, answer: 'ok' | 'could-not-see' = 'ok') =>
  t.write('look', {
    stage: 'membrane',
    checks: ['lap-flat'],
    places: [placeOf(fold(t.entries), element, { fromMm, toMm })],
    answer,
  });

/** A defect that somebody saw at the foot of a wall. */
const seen = (t: Tablet): Body<'defect-found'> => ({
  stage: 'membrane',
  place: { element: foot(t) },
  kind: 'short-lap',
  severity: 'fix',
  words: '',
  photos: [],
});

describe('what was looked at', () => {
  it('counts a stretch once, on the day that added it', () => {
    const t = begun();
    const seam = foot(t);
    look(t, seam, 0, 400);
    nextDay(t);
    look(t, seam, 200, 700);
    look(t, seam, 0, 700);
    const rows = facts(t).inspected.filter((r) => r.stage === 'membrane');
    expect(rows.map((r) => r.mm)).toEqual([400, 300]);
    expect(new Set(rows.map((r) => r.day)).size).toBe(2);
  });
  it('counts nothing that nobody could see, and a reading for as far as it speaks', () => {
    const t = begun();
    const seam = foot(t);
    look(t, seam, 0, 400, 'could-not-see');
    expect(facts(t).inspected).toEqual([]);
    lapReading(t, seam, 'floor', 300, 60);
    expect(sum(facts(t).inspected)).toBeCloseTo(300);
  });
  it('counts what was looked at again after a redo as no more seam', () => {
    const t = begun();
    const seam = foot(t);
    look(t, seam, 0, 400);
    t.write('redo', {
      stage: 'membrane',
      places: [placeOf(fold(t.entries), seam, { fromMm: 0, toMm: 400 })],
      reason: 'wrinkle',
    });
    look(t, seam, 0, 400);
    expect(sum(facts(t).inspected)).toBeCloseTo(400);
  });
  it('is all of a stage that was passed: every seam once, every corner once', () => {
    const t = begun();
    climb(t, 'membrane');
    pass(t, 'membrane');
    const state = fold(t.entries);
    const asked = new Map(
      state.requirements
        .filter((r) => r.stage.key === 'membrane' && r.hasLength)
        .map((r) => [r.element, { fromMm: 0, toMm: r.lengthMm }]),
    );
    const all = facts(t).inspected.filter((r) => r.stage === 'membrane');
    const expected = [...asked.values()].reduce((mm, s) => mm + totalMm([s]), 0);
    expect(sum(all)).toBeCloseTo(expected, 3);
    const points = new Set(
      state.requirements.filter((r) => r.stage.key === 'membrane' && !r.hasLength).map((r) => r.element),
    );
    expect(all.reduce((n, r) => n + r.points, 0)).toBe(points.size);
  });
});

describe('who made it', () => {
  /** Two crews, one after the other, each told its own stage. */
  function twoCrews(): { t: Tablet; defect: string } {
    const t = begun();
    const work = (stage: string, crewId: string) =>
      t.write('work-done', { stage, crewId, who: 'They', day: '2026-05-01' });
    work('base', 'crew-base');
    work('membrane', 'crew-sheet');
    work('drain-tie-in', 'crew-base');
    return { t, defect: lapReading(t, foot(t), 'floor', 300, 40) };
  }
  it('is the crew whose work was told at that stage, not the one that came after', () => {
    const { t, defect } = twoCrews();
    const state = fold(t.entries);
    expect(makerOf(state, state.defects.get(defect)!)).toEqual({
      madeBy: { of: 'crew', crewId: 'crew-sheet' },
      from: 'work',
    });
    expect(facts(t).defects[0]).toMatchObject({
      crew: 'crew-sheet',
      madeByTold: false,
      fixer: null,
      stageMade: 'membrane',
    });
  });
  it('is what a person says, before anything else; the one who fixes it is somebody else', () => {
    const { t, defect } = twoCrews();
    const found = seen(t);
    t.write('defect-found', { ...found, about: defect, stageMade: 'base', madeBy: { of: 'trade', trade: 'plumber' } });
    t.write('defect-assigned', { defect, crewId: 'crew-base' });
    expect(facts(t).defects[0]).toMatchObject({
      madeBy: 'trade',
      crew: null,
      trade: 'plumber',
      madeByTold: true,
      fixer: 'crew-base',
      stageMade: 'base',
      stageFound: 'membrane',
    });
  });
  it('is the crew of the shower where no work was told', () => {
    const t = begun();
    const defect = lapReading(t, foot(t), 'floor', 300, 40);
    const state = fold(t.entries);
    expect(makerOf(state, state.defects.get(defect)!).from).toBe('shower');
  });
  it('is the crew that the stage was handed to, by a manager alone, until work was told there', () => {
    const t = begun();
    const created = t.entries.find((e) => e.kind === 'shower-created')!;
    const hand = (author: typeof MANAGER, stageCrews: Record<string, string>) =>
      byOther(t, author, (other) =>
        other.write('correction', {
          ...{ target: created.id, action: 'replace', body: { ...created.body, stageCrews } },
        }),
      );
    const defect = lapReading(t, foot(t), 'floor', 300, 40);
    const maker = () => {
      const state = fold(t.entries);
      return makerOf(state, state.defects.get(defect)!);
    };
    // The inspector who wrote the first entry may correct it, and not hand anything over by that.
    hand(INSPECTOR, { membrane: 'crew-sheet' });
    expect(maker().from).toBe('shower');
    hand(MANAGER, { membrane: 'crew-sheet', curb: 'crew-base' });
    expect(maker()).toEqual({ madeBy: { of: 'crew', crewId: 'crew-sheet' }, from: 'work' });
    hand(INSPECTOR, {});
    expect(maker().madeBy).toEqual({ of: 'crew', crewId: 'crew-sheet' });
    t.write('work-done', { stage: 'membrane', crewId: 'crew', who: 'They', day: '2026-05-01' });
    expect(maker().madeBy).toEqual({ of: 'crew', crewId: 'crew' });
  });
  it('is never at a later stage than where it was found, whatever its kind says', () => {
    const t = begun();
    const defect = lapReading(t, foot(t), 'floor', 300, 40);
    const state = fold(t.entries);
    const book = { ...BOOK, defectKinds: BOOK.defectKinds.map((k) => ({ ...k, made: 'drain-tie-in' })) };
    const later = { ...state, rules: { ...state.rules!, book } };
    expect(stageMadeOf(later, state.defects.get(defect)!)).toBe('membrane');
  });
});

describe('why', () => {
  it('moves from a suspicion to what the crew admits, and the story keeps both', () => {
    const t = begun();
    const defect = lapReading(t, foot(t), 'floor', 300, 40);
    const found = seen(t);
    t.write('defect-found', { ...found, about: defect, cause: { family: 'tool', confidence: 'suspected' } });
    byOther(t, CREW, (crew) =>
      crew.write('defect-answered', {
        defect,
        words: 'Cut it out',
        photos: [],
        cause: { family: 'workmanship', confidence: 'admitted' },
      }),
    );
    const { cause, causesTold } = fold(t.entries).defects.get(defect)!;
    expect(cause).toMatchObject({ family: 'workmanship', confidence: 'admitted' });
    expect(causesTold.map((c) => [c.cause.family, c.by])).toEqual([
      ['tool', 'Ada Test'],
      ['workmanship', CREW.name],
    ]);
    expect(facts(t).defects[0]).toMatchObject({ cause: 'workmanship', sure: 'admitted', escape: '' });
  });
  it('must be said before what stops or is fixed is closed, by a manager too; "not known" is an answer', () => {
    const t = begun();
    const defect = lapReading(t, foot(t), 'floor', 300, 40);
    const open = () => fold(t.entries).defects.get(defect)!.closedAt === null;
    const half = { defect, cause: BOTH_ANSWERS.cause };
    byOther(t, MANAGER, (boss) => {
      boss.write('defect-closed', { defect });
      boss.write('defect-closed', half);
    });
    expect(open()).toBe(true);
    expect(fold(t.entries).orphans.map((o) => o.why)).toEqual(['answers-missing', 'answers-missing']);
    expect(fold(t.entries).defects.get(defect)!.cause).toBeNull();
    byOther(t, MANAGER, (boss) =>
      boss.write('defect-closed', {
        defect,
        cause: { family: 'unknown', confidence: 'suspected' },
        escape: { family: 'unknown' },
      }),
    );
    expect(open()).toBe(false);
    expect(facts(t).defects[0]).toMatchObject({ cause: 'unknown', escape: 'unknown', step: 'closed' });
  });
  it('is not asked of a note, nor of a closing from before it was asked', () => {
    const t = begun();
    const note = { ...seen(t), kind: 'wrinkle' };
    const a = t.write('defect-found', { ...note, severity: 'note' });
    const b = t.write('defect-found', { ...note, severity: 'fix' });
    t.write('defect-closed', { defect: a });
    t.write('defect-closed', { defect: b });
    const old = t.entries.map((e) => (e.kind === 'defect-closed' && e.body.defect === b ? { ...e, v: 2 } : e));
    expect(fold(t.entries).defects.get(a)!.closedAt).not.toBeNull();
    expect(fold(t.entries).defects.get(b)!.closedAt).toBeNull();
    expect(fold(old).defects.get(b)!.closedAt).not.toBeNull();
  });
  it('is counted as what the firm merged it into; what was retired is still read', () => {
    const t = begun();
    const place = { element: foot(t) };
    t.write('defect-found', {
      stage: 'membrane',
      place,
      kind: 'wrinkle',
      severity: 'fix',
      words: '',
      photos: [],
      cause: { family: 'tool', confidence: 'suspected' },
    });
    const merged = {
      ...BOOK,
      defectKinds: BOOK.defectKinds.map((k) => (k.id === 'wrinkle' ? { ...k, into: 'air-pocket' } : k)),
      causes: [
        { id: 'tool', label: 'Tool', into: 'method' },
        { id: 'method', label: 'Method', into: 'tool' },
      ],
    };
    const state = foldShower(t.entries, () => merged);
    const [fact] = factsOf(state, t.entries, dayOf).defects;
    // Two that were merged into each other are each themselves: nothing turns in a circle.
    expect(fact).toMatchObject({ kind: 'air-pocket', cause: 'tool' });
  });
});

describe('a plan of where to look harder', () => {
  it('asks for so many times the places of the pattern, on the seams of that crew alone, and never for fewer', () => {
    const t = begun();
    const state = fold(t.entries);
    const lap = state.requirements.find((r) => r.check.id === 'lap' && r.element === foot(t))!;
    if (!isOf(lap.check, 'measured')) throw new Error('a lap is measured');
    const usual = patternPlaces(lap.lengthMm, lap.check.pattern).length;
    const plan = (crew: string, times: number) => plannedReadings(state, [{ crew, group: 'floor', times }], lap);
    expect(usual).toBeGreaterThanOrEqual(lap.check.pattern.readingsAtLeast);
    expect(plan('crew', 2.5)).toBe(Math.ceil(usual * 2.5));
    expect(plan('another', 3)).toBeNull();
    expect(plan('crew', 0.25)).toBeNull();
    expect(plannedReadings(state, [], lap)).toBeNull();
    // The crew whose work was told there is asked, not the one whose shower it is.
    t.write('work-done', { stage: 'membrane', crewId: 'another', who: 'They', day: '2026-05-01' });
    const told = fold(t.entries);
    expect(plannedReadings(told, [{ crew: 'another', group: 'floor', times: 2 }], lap)).toBe(usual * 2);
  });
  it('lets the pattern be met by the places it names', () => {
    const pattern = { speaksForMm: 150, readingsAtLeast: 3, endWithinMm: 150, gapAtMostMm: 600 };
    for (const lengthMm of [80, 400, 1500, 3000]) {
      const readings = patternPlaces(lengthMm, pattern).map((atMm) => ({ atMm, lapMm: 60 }));
      const found = lapVerdict({ lengthMm, limitMm: 50, readings, ...pattern, lookOnWhole: true });
      expect(found.ok && found.value.verdict).toBe('pass');
    }
  });
});

describe('minutes', () => {
  it('are those between entries that followed each other; a long pause is none', () => {
    const t = begun();
    const seam = foot(t);
    const from = facts(t).minutes.reduce((n, r) => n + r.minutes, 0);
    t.until(t.nowMs() + 3_600_000);
    look(t, seam, 0, 100);
    t.until(t.nowMs() + 4 * 60_000);
    look(t, seam, 100, 200);
    const rows = facts(t).minutes;
    expect(rows.reduce((n, r) => n + r.minutes, 0) - from).toBeCloseTo(4 + 1 / 60, 5);
    expect(rows.find((r) => r.stage === 'membrane')?.minutes).toBeCloseTo(4 + 1 / 60, 5);
  });
});
