import { describe, expect, it } from 'vitest';
import { whoIsAwake } from './awake';
import { emptyShower, type StoredShower } from './stored';

const NOW = Date.parse('2026-11-28T10:00:00Z');
const DAY = 86_400_000;
const shower = (id: string, daysAgo: number, change: Partial<NonNullable<StoredShower['row']>> = {}): StoredShower => ({
  ...emptyShower(id),
  row: {
    id,
    name: id,
    job: 'j',
    crewId: 'heron',
    headSeq: 1,
    headHash: null,
    updatedAt: new Date(NOW - daysAgo * DAY).toISOString(),
    inspectorId: null,
    visitOn: null,
    bookOrigin: '',
    isSigned: false,
    ...change,
  },
});
const moment = (waiting: string[] = []) => ({ personId: 'me', nowMs: NOW, waiting: new Set(waiting) });

describe('what a tablet holds ready', () => {
  it('is what waits here first, then the day’s visits, then mine, then the newest change', () => {
    const showers = [
      shower('old', 30),
      shower('new', 1),
      shower('mine', 20, { inspectorId: 'me' }),
      shower('visited today', 40, { visitOn: '2026-11-28' }),
      shower('visited in a week', 41, { visitOn: '2026-12-05' }),
      shower('waits', 50, { isSigned: true }),
      { ...emptyShower('made here') },
    ];
    const { awake, asleep } = whoIsAwake(showers, moment(['waits']));
    expect([...awake.slice(0, 2)].sort()).toEqual(['made here', 'waits']);
    expect(awake.slice(2)).toEqual(['visited today', 'mine', 'new', 'old', 'visited in a week']);
    expect(asleep).toEqual([]);
  });
  it('is not what was finished some time ago, unless somebody visits it', () => {
    const showers = [
      shower('finished', 3, { isSigned: true }),
      shower('finished today', 0.5, { isSigned: true }),
      shower('called back', 300, { isSigned: true, visitOn: '2026-11-29' }),
    ];
    const { awake, asleep } = whoIsAwake(showers, moment());
    expect(awake).toEqual(['called back', 'finished today']);
    expect(asleep.map((s) => s.id)).toEqual(['finished']);
  });
  it('ends at so many, and still leaves nothing out that waits', () => {
    const showers = Array.from({ length: 1000 }, (_, k) => shower(`s${k}`, k / 10));
    expect(whoIsAwake(showers, moment()).awake).toHaveLength(200);
    expect(whoIsAwake(showers, moment()).asleep).toHaveLength(800);
    const all = showers.map((s) => s.id);
    expect(whoIsAwake(showers, moment(all)).awake).toHaveLength(1000);
    expect(whoIsAwake(showers, moment(['s999']), 5).awake).toEqual(['s999', 's0', 's1', 's2', 's3']);
  });
});
