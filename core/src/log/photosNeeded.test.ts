import { expect, it } from 'vitest';
import { BOTH_ANSWERS, begun } from '../tests/sampleTablet';
import { photosNeeded } from './photosNeeded';

it('names every picture that an entry needs, each once, whichever kind of entry names it', () => {
  const t = begun();
  expect(photosNeeded(t.entries)).toEqual([]);
  const photo = (digit: string) => ({ hash: digit.repeat(64), widthPx: 4, heightPx: 3, marks: [] });
  const [wide, near, fixed, closed] = [photo('1'), photo('2'), photo('3'), photo('4')];
  t.write('photo', { photo: wide });
  const found = t.write('defect-found', {
    stage: 'membrane',
    place: { element: 'floor' },
    kind: 'open-lap',
    severity: 'fix',
    words: '',
    photos: [near, wide],
  });
  t.write('defect-answered', { defect: found, words: 'Set anew', photos: [fixed] });
  t.write('defect-closed', { defect: found, photos: [closed], ...BOTH_ANSWERS });
  t.write('note', { words: 'no picture' });
  expect(photosNeeded(t.entries)).toEqual([wide, near, fixed, closed].map((p) => p.hash));
  // A defect that was closed by the first version of this program names none.
  t.write('defect-closed', { defect: found, ...BOTH_ANSWERS });
  expect(photosNeeded(t.entries)).toHaveLength(4);
  // Where an entry is replaced, the picture stands deeper in what is said.
  const corrected = photo('5');
  t.write('correction', {
    target: found,
    action: 'replace',
    body: {
      stage: 'membrane',
      place: { element: 'floor' },
      kind: 'open-lap',
      severity: 'fix',
      words: '',
      photos: [corrected],
    },
  });
  expect(photosNeeded(t.entries)).toContain(corrected.hash);
});
