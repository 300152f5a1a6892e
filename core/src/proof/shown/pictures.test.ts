import { describe, expect, it } from 'vitest';
import { judge } from '../../checks/judge';
import { placeOf } from '../../checks/place';
import { defaultRuleBook } from '../../rules/defaultRuleBook';
import { sampleShower } from '../../tests/sampleShower';
import { tablet } from '../../tests/sampleTablet';
import { foldShower } from '../fold/foldShower';
import { picturesMissing, picturesOf } from './pictures';

const BOOK = defaultRuleBook();
const picture = (k: number) => ({ hash: k.toString(16).padStart(64, '0'), widthPx: 640, heightPx: 480, marks: [] });

/** A shower with a liner, of which pictures are asked. */
function liner(method = 'liner-mortar') {
  const t = tablet(1);
  t.write('shower-created', { name: 'Liner', job: 'Job', crewId: 'crew', timeZone: 'UTC' });
  t.write('geometry-set', { version: 1, geometry: sampleShower() });
  t.write('rules-pinned', { ruleBook: BOOK.id, version: BOOK.version, method });
  const state = () => foldShower(t.entries, () => BOOK);
  const asked = (check: string) => state().requirements.find((r) => r.check.id === check)!;
  const look = (check: string, more: object) => {
    const { stage, element } = asked(check);
    return t.write('look', {
      stage: stage.key,
      checks: [check],
      places: [placeOf(state(), element)],
      answer: 'ok',
      ...more,
    });
  };
  return { t, state, asked, look, stands: (check: string) => judge(state(), asked(check)).satisfied };
}

describe('a check whose proof is a picture', () => {
  it('holds one: neither the word "sound" alone nor where a picture is kept is enough', () => {
    const { look, stands } = liner();
    look('liner-whole', {});
    expect(stands('liner-whole')).toBe(false);
    look('liner-whole', { shownBy: 'On my phone' });
    expect(stands('liner-whole')).toBe(false);
    look('liner-whole', { photos: [picture(1)] });
    expect(stands('liner-whole')).toBe(true);
  });
  it('is a defect, not seen or not applicable without one', () => {
    const { look, state, asked } = liner();
    look('liner-whole', { answer: 'defect' });
    expect(judge(state(), asked('liner-whole')).verdict).toBe('fail');
  });
  it('stands as it was told when a look could hold no picture', () => {
    const { t, look, state, asked } = liner();
    look('liner-whole', { shownBy: 'Picture 14' });
    const last = t.entries.at(-1)!;
    const old = foldShower([...t.entries.slice(0, -1), { ...last, v: 3 }], () => BOOK);
    expect(judge(old, asked('liner-whole')).satisfied).toBe(true);
    expect(judge(state(), asked('liner-whole')).satisfied).toBe(false);
  });
  it('another proof is named, or shown by a picture of it', () => {
    const { look, stands, state } = liner();
    const paper = state().requirements.find((r) => r.check.kind === 'looked' && r.check.proof === 'document')!.check.id;
    look(paper, {});
    expect(stands(paper)).toBe(false);
    look(paper, { shownBy: 'Permit 12' });
    expect(stands(paper)).toBe(true);
  });
});

describe('the pictures of a shower', () => {
  it('stand once each, with what they are of, in their order', () => {
    const { t, state, look } = liner();
    t.write('photo', { photo: picture(2), stage: 'membrane', words: 'Before cover' });
    look('liner-whole', { photos: [picture(3)] });
    const seam = state().geometry!.model.seams[0]!.id;
    t.write('defect-found', {
      stage: 'membrane',
      place: placeOf(state(), seam),
      kind: 'other',
      severity: 'fix',
      words: 'Fold',
      photos: [picture(4)],
    });
    expect(
      picturesOf(state()).map(({ photo, of, elements, stage }) => [photo.hash.at(-1), of, elements, stage]),
    ).toEqual([
      ['2', 'sound', [], 'membrane'],
      ['3', 'sound', ['floor'], 'membrane'],
      ['4', 'before', [seam], 'membrane'],
    ]);
  });
  it('one that was taken by mistake is gone', () => {
    const { t, state } = liner();
    const id = t.write('photo', { photo: picture(2), stage: 'membrane' });
    t.write('correction', { target: id, action: 'withdraw' });
    expect(picturesOf(state())).toEqual([]);
  });
});

describe('what the next layer hides', () => {
  it('is named until a picture of the place, of its look or of the whole stage shows it', () => {
    const { t, state, look } = liner();
    const missing = () => picturesMissing(state(), 'drain-tie-in').map((m) => m.check.id);
    expect(missing()).toEqual(['weeps-open']);
    // Looked at, and not pictured.
    look('weeps-open', {});
    expect(missing()).toEqual(['weeps-open']);
    look('weeps-open', { photos: [picture(1)] });
    expect(missing()).toEqual([]);
    const other = liner();
    other.t.write('photo', { photo: picture(2), stage: 'drain-tie-in' });
    expect(picturesMissing(other.state(), 'drain-tie-in')).toEqual([]);
    // A picture of another stage shows nothing of it.
    const third = liner();
    third.t.write('photo', { photo: picture(2), stage: 'base' });
    expect(picturesMissing(third.state(), 'drain-tie-in')).toHaveLength(1);
    expect(t.entries.length).toBeGreaterThan(0);
  });
  it('is named again once it was built again, and not where it does not apply', () => {
    const { t, state, look, asked } = liner();
    look('weeps-open', { photos: [picture(1)] });
    t.write('redo', {
      stage: 'drain-tie-in',
      places: [placeOf(state(), asked('weeps-open').element)],
      reason: 'New gravel',
    });
    expect(picturesMissing(state(), 'drain-tie-in')).toHaveLength(1);
    look('weeps-open', { answer: 'not-applicable', reason: 'No weeps in this drain' });
    expect(picturesMissing(state(), 'drain-tie-in')).toEqual([]);
  });
});
