import { describe, expect, it } from 'vitest';
import { allEvidence } from '../../log/state';
import { begun, fold, placeOf, seamId, type Tablet } from '../../tests/sampleTablet';
import { toldTogether } from './toldTogether';

const read = (t: Tablet, element: string, atMm: number, together?: number) =>
  t.write('reading', {
    stage: 'membrane',
    check: 'lap',
    place: placeOf(fold(t.entries), element, { side: 'floor' }),
    atMm,
    valueMm: 60,
    typed: '60',
    instrument: 'tape',
    ...(together ? { together } : {}),
  });
const counted = (t: Tablet) => toldTogether(allEvidence(fold(t.entries)));

describe('readings that were told with one word', () => {
  it('are told apart from those that were told one by one, among what counts', () => {
    const t = begun();
    const seam = seamId(fold(t.entries), 'floor-wall');
    expect(counted(t)).toEqual({ together: 0, of: 0 });
    read(t, seam, 50);
    for (const at of [300, 500]) read(t, seam, at, 2);
    expect(counted(t)).toEqual({ together: 2, of: 3 });
    // What was built again, or taken back, does not count either way.
    t.write('correction', { target: t.entries.at(-1)!.id, action: 'withdraw' });
    expect(counted(t)).toEqual({ together: 1, of: 2 });
    t.write('redo', { stage: 'membrane', places: [{ element: seam }], reason: 'cut out' });
    expect(counted(t)).toEqual({ together: 0, of: 0 });
  });
});
