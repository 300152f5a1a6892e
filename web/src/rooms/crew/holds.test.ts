import { atMoment, foldShower } from '@careful-seam/core/proof/fold/foldShower';
import { translateBook } from '@careful-seam/core/rules/translateBook';
import { BOOK, begun, fold, lapReading, placeOf, seamId } from '@careful-seam/core/tests/sampleTablet';
import { makeWords } from '@careful-seam/words/texts/words';
import { describe, expect, it } from 'vitest';
import en from '../../texts/en.json';
import es from '../../texts/es.json';
import { holdsOf } from './holds';

const t = makeWords('en', { en, es }).t;

/** A short lap due late, a flat base due soon, a note, and something that was put right already. */
function withHolds() {
  const tablet = begun();
  const element = seamId(fold(tablet.entries), 'floor-wall');
  const lap = lapReading(tablet, element, 'floor', 14 * 25.4, 1.875 * 25.4);
  const body = { stage: 'base', place: { element: 'floor' }, kind: 'flat', words: 'By the drain', photos: [] };
  const flat = tablet.write('defect-found', { ...body, severity: 'fix' });
  tablet.write('defect-found', { ...body, severity: 'note' });
  const place = placeOf(fold(tablet.entries), element, { fromMm: 900, toMm: 1000 });
  const answered = tablet.write('defect-found', {
    ...body,
    stage: 'membrane',
    place,
    kind: 'open-lap',
    severity: 'fix',
  });
  const due = (defect: string, dueAt: string) =>
    tablet.write('defect-assigned', { defect, crewId: 'crew', dueAt, words: 'Before noon' });
  due(lap, '2030-02-02T00:00:00.000Z');
  due(flat, '2030-01-01T00:00:00.000Z');
  tablet.write('defect-answered', { defect: answered, words: 'Done', photos: [] });
  return { tablet, lap, flat, answered };
}

describe('what a crew has to put right, on its phone', () => {
  it('comes in the order in which it is due; what waits for a look comes last; notes are left out', () => {
    const { tablet, lap, flat, answered } = withHolds();
    expect(holdsOf(t, fold(tablet.entries), 'in').map((h) => h.defect.id)).toEqual([flat, lap, answered]);
  });
  it('says where and how much in plain words, what right looks like, and what the inspector wrote', () => {
    const { tablet, lap } = withHolds();
    const hold = holdsOf(t, fold(tablet.entries), 'in').find((h) => h.defect.id === lap)!;
    expect(hold.where).toMatch(/^Foot of wall/);
    expect(hold.what).toMatch(/^Short lap, measured 1 7\/8 in, on floor, from .* to .* from its left end$/);
    expect(hold.right).toBe(
      'Right is: Lap (at least 2 in). A short lap wicks: water walks through the fleece past its edge.',
    );
    expect(hold.words).toBe('Before noon');
  });
  it('says the same in Spanish, rule book and all', () => {
    const { tablet, lap } = withHolds();
    const state = foldShower(tablet.entries, () => translateBook(BOOK, 'es'));
    const spanish = makeWords('es', { en, es }).t;
    const hold = holdsOf(spanish, state, 'in').find((h) => h.defect.id === lap)!;
    expect(hold.right).toMatch(/^Bien es: Traslape \(al menos 2 in\)\. Un traslape corto absorbe/);
    expect(hold.where).toMatch(/^Pie de la pared/);
  });
  it('is nothing while the shower has no dimensions or rules yet', () => {
    const bare = foldShower([], () => BOOK);
    expect(holdsOf(t, atMoment(bare, 1), 'in')).toEqual([]);
  });
});
