import { describe, expect, it } from 'vitest';
import { readingCorrected, statementsAt } from '../log/mistyped';
import { begun, climb, fold, INSPECTOR, MANAGER, placeOf, seamId, tablet } from '../tests/sampleTablet';
import { defectToJoin } from './fold/foldEvidence';

/** A shower up to its membrane; short laps are read along a foot, each as a tablet would write it. */
function shortLaps() {
  const t = begun();
  climb(t, 'membrane');
  const foot = seamId(fold(t.entries), 'floor-wall');
  const asked = fold(t.entries).requirements.find((r) => r.check.id === 'lap' && r.element === foot)!;
  const read = (atMm: number, valueMm: number, defect?: string) =>
    t.write('reading', {
      stage: 'membrane',
      check: 'lap',
      place: placeOf(fold(t.entries), foot, asked.side ? { side: asked.side } : {}),
      atMm,
      valueMm,
      typed: String(valueMm),
      instrument: 'tape',
      ...(defect ? { defect } : {}),
    });
  const joins = () => defectToJoin(fold(t.entries), 'membrane', asked.check, foot)?.id;
  const open = () => [...fold(t.entries).defects.values()].filter((d) => d.closedAt === null);
  return { t, foot, read, joins, open };
}

describe('a run of bad readings', () => {
  it('is one defect with all its places and the worst value', () => {
    const { read, joins, open } = shortLaps();
    expect(joins()).toBeUndefined();
    const first = read(100, 40);
    for (const [at, value] of [
      [300, 22],
      [500, 35],
    ] as const)
      read(at, value, joins());
    expect(open().map((d) => [d.id, d.places.length, d.valueMm])).toEqual([[first, 3, 22]]);
  });
  it('hides nothing: what claims to belong to another defect opens its own', () => {
    const { t, read, open } = shortLaps();
    const first = read(100, 40);
    // A defect of something else, a made-up one, one that was given to a crew, one that was built again.
    const other = t.write('defect-found', {
      stage: 'membrane',
      place: { element: 'floor' },
      kind: 'other',
      severity: 'fix',
      words: 'Scratch',
      photos: [],
    });
    read(200, 30, other);
    read(250, 30, '00000000-0000-4000-8000-999999999999');
    expect(open()).toHaveLength(4);
    t.write('defect-assigned', { defect: first, crewId: 'crew', words: 'Cut it out' });
    read(300, 20, first);
    expect(open()).toHaveLength(5);
    expect(open().find((d) => d.id === first)!.valueMm).toBe(40);
  });
  it('a defect that a manager made milder takes no worse one in', () => {
    const { t, foot, read, joins, open } = shortLaps();
    const first = read(100, 45);
    const manager = tablet(9, t.nowMs(), MANAGER);
    manager.hears(t.entries);
    const place = open()[0]!.places[0]!;
    manager.write('defect-found', {
      stage: 'membrane',
      place: { ...place, element: foot },
      kind: 'short-lap',
      severity: 'note',
      words: 'May stay',
      photos: [],
      about: first,
    });
    const all = () => fold([...t.entries, ...manager.entries]);
    expect(all().defects.get(first)!.severity).toBe('note');
    t.hears(manager.entries);
    const second = read(300, 10, first);
    expect(joins()).toBe(first);
    const found = all().defects;
    expect(found.has(second)).toBe(true);
    expect(found.get(second)!.severity).toBe('stop');
  });
  it('loses the place of a reading that was mistyped; without the first the next one stands for the rest', () => {
    const { t, foot, read, joins, open } = shortLaps();
    const first = read(100, 40);
    const second = read(300, 22, joins());
    read(500, 35, joins());
    const said = (id: string) => {
      const found = statementsAt(t.entries, 'membrane', foot, INSPECTOR).find((s) => s.statement.id === id)!.statement;
      if (found.kind !== 'reading') throw new Error('a reading');
      return found;
    };
    t.write('correction', readingCorrected(said(second), { valueMm: 60, typed: '60', atMm: 300 }, 'mistyped'));
    expect(open().map((d) => [d.id, d.places.length, d.valueMm])).toEqual([[first, 2, 35]]);
    t.write('correction', readingCorrected(said(first), { valueMm: 60, typed: '60', atMm: 100 }, 'mistyped'));
    expect(open().map((d) => [d.places.length, d.valueMm])).toEqual([[1, 35]]);
  });
});
