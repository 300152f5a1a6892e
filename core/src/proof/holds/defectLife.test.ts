import { describe, expect, it } from 'vitest';
import {
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
import { atMoment } from '../fold/foldShower';
import { defectStep, isOverdue, repeatsOf, toProveAgain } from './defectLife';
import { blockersOf } from './release';

const DAY_MS = 86_400_000;
const PHOTO = { hash: 'a'.repeat(64), widthPx: 10, heightPx: 10, marks: [] };

/** A short lap on a released climb, and the words that follow it. */
function withShortLap(): { t: Tablet; defect: string; element: string } {
  const t = begun();
  climb(t, 'membrane');
  pass(t, 'membrane');
  const element = seamId(fold(t.entries), 'floor-wall');
  const defect = lapReading(t, element, 'floor', 300, 40);
  return { t, defect, element };
}
const stepOf = (t: Tablet, id: string) => defectStep(fold(t.entries).defects.get(id)!);

describe('the life of a defect', () => {
  it('goes from found to closed, and back when a look finds it wrong still', () => {
    const { t, defect, element } = withShortLap();
    expect(stepOf(t, defect)).toBe('found');
    t.write('defect-assigned', { defect, crewId: 'crew', words: 'Cut it out' });
    expect(stepOf(t, defect)).toBe('assigned');
    t.write('defect-answered', { defect, words: 'Done', photos: [PHOTO] });
    expect(stepOf(t, defect)).toBe('answered');
    t.write('defect-assigned', { defect, crewId: 'crew', words: 'Still short at 12 in', again: true });
    expect(stepOf(t, defect)).toBe('again');
    t.write('defect-answered', { defect, words: 'Done again', photos: [] });
    const places = [placeOf(fold(t.entries), element, { fromMm: 200, toMm: 400 })];
    t.write('redo', { stage: 'membrane', places, reason: 'banded again', defect });
    expect(stepOf(t, defect)).toBe('redone');
    t.write('defect-closed', {
      defect,
      cause: { family: 'workmanship', confidence: 'admitted' },
      escape: { family: 'not-done' },
      cost: { hours: 1.5, materials: 20 },
      photos: [PHOTO],
    });
    const closed = fold(t.entries).defects.get(defect)!;
    expect(defectStep(closed)).toBe('closed');
    expect(closed).toMatchObject({
      cause: { family: 'workmanship' },
      escape: { family: 'not-done' },
      cost: { hours: 1.5 },
      photosAfter: [PHOTO],
    });
    expect(closed.assignments).toHaveLength(2);
    expect(closed.answers).toHaveLength(2);
  });

  it('a look that sends it back takes the redo out of force', () => {
    const { t, defect, element } = withShortLap();
    const places = [placeOf(fold(t.entries), element, { fromMm: 200, toMm: 400 })];
    t.write('redo', { stage: 'membrane', places, reason: 'banded again', defect });
    t.write('defect-assigned', { defect, crewId: 'crew', again: true });
    expect(stepOf(t, defect)).toBe('again');
  });

  it('overdue stops the next layer, also when it was only to be fixed before its own release', () => {
    const t = begun();
    climb(t, 'membrane');
    const element = seamId(fold(t.entries), 'curb-floor');
    const defect = t.write('defect-found', {
      stage: 'boards',
      place: placeOf(fold(t.entries), element),
      kind: 'gap',
      severity: 'fix',
      words: '',
      photos: [],
    });
    t.write('stage-released', releaseBody('boards', 'seen and left'));
    const dueAt = new Date(Date.parse(t.entries.at(-1)!.observedAt) + DAY_MS).toISOString();
    t.write('defect-assigned', { defect, crewId: 'crew', dueAt });
    const state = fold(t.entries);
    const holdsMembrane = (nowMs: number) =>
      blockersOf(atMoment(state, nowMs), 'membrane').some((b) => b.kind === 'defect');
    expect([holdsMembrane(state.clockMs), holdsMembrane(Date.parse(dueAt) + 1)]).toEqual([false, true]);
    expect(isOverdue({ ...state.defects.get(defect)!, severity: 'note' }, Date.parse(dueAt) + 1)).toBe(false);
  });

  it('lists after a redo exactly what must be shown again, until it was', () => {
    const { t, defect, element } = withShortLap();
    const places = [placeOf(fold(t.entries), element, { fromMm: 200, toMm: 400 })];
    t.write('redo', { stage: 'membrane', places, reason: 'banded again', defect });
    const asked = toProveAgain(fold(t.entries), fold(t.entries).defects.get(defect)!);
    expect(new Set(asked.map((j) => j.requirement.element))).toContain(element);
    expect(asked.every((j) => j.requirement.stage.order >= 10)).toBe(true);
    pass(t, 'membrane');
    expect(toProveAgain(fold(t.entries), fold(t.entries).defects.get(defect)!)).toEqual([]);
  });

  it('finds what it repeats: the same stretch, or what a person linked', () => {
    const { t, defect, element } = withShortLap();
    const other = seamId(fold(t.entries), 'curb-floor');
    const place = (at: string, fromMm: number) => placeOf(fold(t.entries), at, { fromMm, toMm: fromMm + 100 });
    const body = { stage: 'membrane', kind: 'open-lap', severity: 'fix' as const, words: '', photos: [] };
    const near = t.write('defect-found', { ...body, place: place(element, 250) });
    const far = t.write('defect-found', { ...body, place: place(element, 900) });
    const linked = t.write('defect-found', { ...body, place: place(other, 0), repeats: defect });
    const state = fold(t.entries);
    const repeats = (id: string) => repeatsOf(state, state.defects.get(id)!).map((d) => d.id);
    expect([repeats(near), repeats(far), repeats(linked)]).toEqual([[defect], [], [defect]]);
  });

  it('entries of the first version are read as before', () => {
    const { t, defect } = withShortLap();
    const manager = tablet(7, undefined, MANAGER);
    manager.hears(t.entries);
    manager.write('defect-assigned', { defect, crewId: 'crew', due: '2026-01-01' });
    manager.write('defect-closed', { defect, words: 'fine', ...BOTH_ANSWERS });
    const old = manager.entries.map((e) => ({ ...e, v: 1 }));
    const closed = fold([...t.entries, ...old]).defects.get(defect)!;
    expect([defectStep(closed), closed.cost, closed.assignments[0]?.dueAtMs]).toEqual(['closed', null, null]);
  });
});
