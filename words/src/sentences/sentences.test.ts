import { judge } from '@careful-seam/core/checks/judge';
import { blockersOf } from '@careful-seam/core/proof/holds/release';
import { showerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { sampleShower } from '@careful-seam/core/tests/sampleShower';
import { BOOK, begun, fold, lapReading, pass, placeOf } from '@careful-seam/core/tests/sampleTablet';
import { describe, expect, it } from 'vitest';
import { elementName, faceName } from '../texts/names';
import { makeWords } from '../texts/words';
import { blockerSentence, verdictSentence } from './sentences';

const t = makeWords('en').t;
const foot = 'floor-wall|floor|wall:back';
const lap = (entries: Parameters<typeof fold>[0], side = 'wall:back') => {
  const state = fold(entries);
  return {
    state,
    j: judge(state, state.requirements.find((r) => r.check.id === 'lap' && r.element === foot && r.side === side)!),
  };
};
const say = (entries: Parameters<typeof fold>[0], unit: 'in' | 'mm' = 'in') => {
  const { state, j } = lap(entries);
  return verdictSentence(t, state.geometry!.model, j, unit);
};

describe('names of the parts', () => {
  it('are given to every element, all different but for the two ends of a kind', () => {
    for (const corner of [false, true]) {
      const model = showerModel(sampleShower({ corner, niche: true }));
      if (!model.ok) throw new Error(model.problem.code);
      const ids = [...model.value.seams, ...model.value.corners, ...model.value.penetrations, ...model.value.faces].map(
        (e) => e.id,
      );
      for (const id of ids) expect(elementName(t, model.value, id)).not.toMatch(/seam\.|part\.|undefined|\{\{/);
      const seams = model.value.seams
        .filter((s) => !s.kind.startsWith('niche'))
        .map((s) => elementName(t, model.value, s.id));
      expect(new Set(seams).size).toBe(seams.length);
    }
  });
  it('letter the walls in walking order from the left as seen from inside', () => {
    const model = showerModel(sampleShower());
    if (!model.ok) throw new Error(model.problem.code);
    expect(['wall:left', 'wall:back', 'wall:right', 'curb:front:top'].map((f) => faceName(t, model.value, f))).toEqual([
      'wall A',
      'wall B',
      'wall C',
      'curb D top',
    ]);
    expect(elementName(t, model.value, foot)).toBe('Foot of wall B');
    expect(elementName(t, model.value, 'penetration:valve')).toBe('Valve, wall A');
  });
});

describe('verdicts are sentences with a number and a reason', () => {
  it('short', () => {
    const tablet = begun();
    lapReading(tablet, foot, 'wall:back', 14 * 25.4, 1.875 * 25.4);
    expect(say(tablet.entries)).toBe('Hold: lap 1 7/8 in at 14 in from the left end; needs at least 2 in.');
    expect(say(tablet.entries, 'mm')).toBe('Hold: lap 48 mm at 356 mm from the left end; needs at least 51 mm.');
  });
  it('unseen, undecided, look missing, pass', () => {
    const tablet = begun();
    expect(say(tablet.entries)).toBe('Not measured yet: Lap, at least 2 in.');
    lapReading(tablet, foot, 'wall:back', 150, 55);
    expect(say(tablet.entries)).toBe('Lap: 1 reading so far, none short. Next at 54 1/8 in.');
    for (const at of [700, 1374, 1100]) lapReading(tablet, foot, 'wall:back', at, 55);
    expect(say(tablet.entries)).toBe('Lap: readings are enough; look over the whole seam.');
    tablet.write('look', {
      stage: 'membrane',
      checks: ['lap'],
      places: [placeOf(fold(tablet.entries), foot)],
      answer: 'ok',
    });
    expect(say(tablet.entries)).toBe('Lap: holds, lowest 2 3/16 in.');
  });
  it('every blocker of an untouched shower has words without gaps', () => {
    const tablet = begun();
    tablet.write('defect-found', {
      stage: 'membrane',
      place: { element: foot },
      kind: 'wrinkle',
      severity: 'stop',
      words: '',
      photos: [],
    });
    pass(tablet, 'boards');
    const state = fold(tablet.entries);
    for (const stage of state.rules!.method.stages) {
      for (const b of blockersOf(state, stage.key))
        expect(blockerSentence(t, state.geometry!.model, BOOK, b, 'in')).not.toMatch(
          /\{\{|undefined|sentence\.|blocker\./,
        );
    }
  });

  it('the membrane beside the shower head: its margin over it, or how far it stays under', () => {
    const headMm = 1900;
    const geometry = sampleShower();
    const [valve] = geometry.penetrations!;
    geometry.penetrations = [{ ...valve!, id: 'arm', kind: 'shower-arm', heightMm: headMm }];
    const sentence = (heightMm: number) => {
      const tablet = begun();
      tablet.write('geometry-set', { version: 2, geometry });
      const state = () => fold(tablet.entries);
      const wall = state().requirements.find((r) => r.check.id === 'membrane-height')!;
      tablet.write('reading', {
        stage: 'membrane',
        check: 'membrane-height',
        place: placeOf(state(), wall.element),
        atMm: 0,
        valueMm: heightMm,
        typed: '',
        instrument: 'tape',
      });
      return verdictSentence(t, state().geometry!.model, judge(state(), wall), 'in');
    };
    // The head is drawn from the wall's foot, the membrane is measured from the drain.
    const overDrainMm = headMm + geometry.perimeterRiseMm!;
    expect(sentence(overDrainMm + 25.4 * 6)).toContain('That is 6 in over the shower head.');
    expect(sentence(overDrainMm - 25.4 * 2)).toContain('That is 2 in under the shower head.');
  });
});
