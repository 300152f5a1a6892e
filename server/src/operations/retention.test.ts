import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { backupName, isDue, mayGo } from './retention';

const DAY = 86_400_000;
const nights = (count: number, from = Date.parse('2026-01-01T02:30:00Z')) =>
  Array.from({ length: count }, (_, k) => backupName(new Date(from + k * DAY)));

describe('which backups may go', () => {
  it('all but the newest fourteen and the first of each of the last twelve months', () => {
    const names = nights(400);
    const gone = new Set(mayGo(names, { daily: 14, monthly: 12 }));
    const kept = names.filter((n) => !gone.has(n));
    expect(kept.slice(-14)).toEqual(names.slice(-14));
    // 400 nights from 1 January end on 4 February: of fourteen months the first two are over, and two firsts are among the newest.
    expect(kept).toHaveLength(14 + 11);
    expect(kept[0]).toContain('2026-03-01');
  });
  it('never what is not a backup, and never the newest', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 90 }), fc.nat(20), fc.nat(5), (count, daily, monthly) => {
        const names = nights(count);
        const gone = mayGo([...names, 'notes.txt', 'careful-seam-old.tar'], { daily, monthly });
        expect(gone).not.toContain('notes.txt');
        expect(gone).not.toContain('careful-seam-old.tar');
        expect(gone).not.toContain(names.at(-1));
        expect(gone.length).toBeLessThanOrEqual(Math.max(0, count - Math.max(1, daily)));
      }),
    );
  });
});

describe('the night’s work is due', () => {
  const now = new Date('2026-03-10T03:00:00Z');
  it.each([
    ['never begun', null, true],
    ['begun tonight', '2026-03-10T02:31:00Z', false],
    ['begun last night', '2026-03-09T02:31:00Z', true],
    ['begun by hand last evening', '2026-03-09T20:00:00Z', true],
    ['begun by a clock that stood years ahead', '2031-01-01T00:00:00Z', true],
  ])('%s', (_what, began, due) => {
    expect(isDue('02:30', began ? new Date(began) : null, now)).toBe(due);
  });
  it('not before its hour, where last night’s was made', () => {
    const evening = new Date('2026-03-10T01:00:00Z');
    expect(isDue('02:30', new Date('2026-03-09T02:31:00Z'), evening)).toBe(false);
    expect(isDue('02:30', new Date('2026-03-08T02:31:00Z'), evening)).toBe(true);
  });
});
