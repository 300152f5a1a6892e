import { describe, expect, it } from 'vitest';
import { begun, fold, lapReading, pass, releaseBody, seamId } from '../tests/sampleTablet';
import { dayEnd } from './dayEnd';

const DAY_MS = 86_400_000;

describe('the end of a day', () => {
  it('tells what was built, what of it nobody signed off, what is asked for, and what must be redone', () => {
    const t = begun();
    const work = (stage: string) =>
      t.write('work-done', { stage, crewId: 'crew', who: 'Two people', day: '2023-11-14' });
    work('base');
    pass(t, 'base');
    t.write('stage-released', releaseBody('base'));
    work('boards');
    t.write('look-requested', { stage: 'boards' });
    const late = lapReading(t, seamId(fold(t.entries), 'floor-wall'), 'floor', 300, 40);
    const place = { element: 'floor' };
    const soon = t.write('defect-found', {
      stage: 'base',
      place,
      kind: 'flat',
      severity: 'fix',
      words: '',
      photos: [],
    });
    t.write('defect-found', { stage: 'base', place, kind: 'flat', severity: 'note', words: '', photos: [] });
    const from = Date.parse(t.entries[0]!.observedAt);
    t.write('defect-assigned', { defect: soon, crewId: 'crew', dueAt: new Date(from + DAY_MS).toISOString() });
    const state = fold(t.entries);
    const end = dayEnd(state, from, from + DAY_MS);
    expect(end.work.map((w) => w.body.stage)).toEqual(['base', 'boards']);
    expect(end.unseenStages).toEqual(['base', 'boards']);
    expect(end.released.map((r) => r.stage)).toEqual(['base']);
    expect(end.asked.map((a) => a.body.stage)).toEqual(['boards']);
    expect(end.open.map((d) => d.id)).toEqual([soon, late]);
    expect(dayEnd(state, from + DAY_MS, from + 2 * DAY_MS).work).toEqual([]);
  });
});
