import { describe, expect, it } from 'vitest';
import { begun, byOther, climb, fold, INSPECTOR, MANAGER, placeOf, type Tablet } from '../tests/sampleTablet';
import { agreement, type BlindQuestion, blindQuestions, pairsOf, shownByOthers } from './blindLook';

/** A shower whose membrane lies and was not looked at. */
function laid(): Tablet {
  const t = begun();
  climb(t, 'curb');
  t.write('work-done', { stage: 'membrane', crewId: 'heron', who: 'Cy', day: '2026-05-01' });
  return t;
}
const flat = (t: Tablet): BlindQuestion => {
  const found = blindQuestions(fold(t.entries)).find((q) => q.check === 'bond');
  if (!found) throw new Error('nothing to ask');
  return found;
};
const look = (t: Tablet, element: string, answer: 'ok' | 'defect' = 'ok') =>
  t.write('look', {
    stage: 'membrane',
    checks: ['bond'],
    places: [placeOf(fold(t.entries), element)],
    answer,
  });

describe('what can be asked blind', () => {
  it('is what is answered by looking, of a stage on which work was told, where the record says nothing', () => {
    expect(blindQuestions(fold(begun().entries)).some((q) => q.stage === 'membrane')).toBe(false);
    const t = laid();
    const state = fold(t.entries);
    const asked = state.requirements.filter((r) => r.check.id === 'bond').map((r) => r.element);
    expect(flat(t).places).toEqual([...new Set(asked)]);
    for (const q of blindQuestions(state))
      expect(state.requirements.find((r) => r.check.id === q.check)!.check.kind).toBe('looked');
  });

  it('leaves out a place that was answered, a part of which was, or where a defect stands', () => {
    const t = laid();
    const [one, two, three, four] = flat(t).places;
    look(t, one!);
    t.write('look', {
      stage: 'membrane',
      checks: ['bond'],
      places: [placeOf(fold(t.entries), two!, { fromMm: 0, toMm: 50 })],
      answer: 'ok',
    });
    t.write('defect-found', {
      ...{ stage: 'membrane', place: { element: three! }, kind: 'wrinkle', severity: 'fix', words: '', photos: [] },
    });
    const left = flat(t).places;
    for (const taken of [one, two, three]) expect(left).not.toContain(taken);
    expect(left).toContain(four);
  });

  it('asks nothing of a stage that was answered', () => {
    const t = begun();
    climb(t, 'membrane');
    expect(blindQuestions(fold(t.entries)).some((q) => q.stage === 'membrane')).toBe(false);
  });
});

describe('a place that somebody else’s record shows', () => {
  it('is one that another looked at or found a defect on, also where it was taken back; never one’s own', () => {
    const t = laid();
    const question = flat(t);
    const [one, two, three, four] = question.places;
    byOther(t, MANAGER, (other) => {
      const said = look(other, one!, 'defect');
      other.write('correction', { target: said, action: 'withdraw' });
      other.write('defect-found', {
        ...{ stage: 'curb', place: { element: two! }, kind: 'wrinkle', severity: 'note', words: '', photos: [] },
      });
      other.write('look', {
        ...{ stage: 'membrane', checks: ['termination'], places: [placeOf(fold(t.entries), four!)], answer: 'ok' },
      });
    });
    look(t, three!);
    expect(shownByOthers(t.entries, question, INSPECTOR.id)).toEqual([one, two]);
    expect(shownByOthers(t.entries, question, MANAGER.id)).toEqual([three]);
  });
});

describe('agreement', () => {
  it('is counted of places that both could see, and is Cohen’s textbook case', () => {
    const first: Record<string, 'ok' | 'defect' | 'could-not-see'> = {};
    const second: typeof first = {};
    let n = 0;
    const add = (count: number, a: 'ok' | 'defect' | 'could-not-see', b: 'ok' | 'defect' | 'could-not-see') => {
      for (let k = 0; k < count; k += 1) {
        n += 1;
        first[`p${n}`] = a;
        second[`p${n}`] = b;
      }
    };
    add(20, 'ok', 'ok');
    add(5, 'ok', 'defect');
    add(10, 'defect', 'ok');
    add(15, 'defect', 'defect');
    add(7, 'could-not-see', 'defect');
    add(3, 'ok', 'could-not-see');
    second.elsewhere = 'defect';
    const found = agreement(pairsOf(first, second));
    expect(found).toMatchObject({
      ok: true,
      value: { places: 50, same: 35, onlySecond: 5, onlyFirst: 10, both: 15 },
    });
    expect(found.ok && found.value.kappa).toBeCloseTo(0.4, 10);
    expect(found.ok && found.value.sameAtLeast).toBeCloseTo(0.5539, 3);
  });

  it('is not told of nothing, nor of one answer alone', () => {
    expect(agreement([])).toMatchObject({ value: { places: 0, kappa: null } });
    expect(agreement(Array.from({ length: 30 }, () => ({ first: 'ok', second: 'ok' }) as const))).toMatchObject({
      value: { places: 30, same: 30, kappa: null, low: null },
    });
  });
});
