import fc from 'fast-check';
import { DateTime } from 'luxon';
import { describe, expect, it } from 'vitest';
import { atHour, dayAt, WorkCalendar, workTime } from './workCalendar';

const ZONE = 'America/Chicago';
const at = (iso: string, zone = ZONE) => DateTime.fromISO(iso, { zone }).toMillis();
const week = WorkCalendar.parse({ timeZone: ZONE, fromHour: 7, toHour: 15, holidays: ['2026-12-25'] });

describe('the working calendar', () => {
  it('carries work over nights, weekends and holidays', () => {
    const work = workTime(week, at('2026-12-21T06:00'));
    // Thursday two hours before the end; Friday is a holiday, then the weekend.
    expect(work.addWork(at('2026-12-24T13:00'), 3)).toBe(at('2026-12-28T08:00'));
    expect(work.nextWork(at('2026-12-24T15:00'))).toBe(at('2026-12-28T07:00'));
    expect(work.backWork(at('2026-12-28T08:00'), 3)).toBe(at('2026-12-24T13:00'));
    expect(work.hoursBetween(at('2026-12-24T13:00'), at('2026-12-28T08:00'))).toBe(3);
    expect(work.daysBetween(at('2026-12-24T13:00'), at('2026-12-28T08:00'))).toBe(2);
    expect(work.daysBetween(at('2026-12-24T13:00'), at('2026-12-24T15:00'))).toBe(1);
  });

  it('ends a day of work where it ends, not in the morning after', () => {
    const work = workTime(week, at('2026-12-21T06:00'));
    expect(work.addWork(at('2026-12-21T07:00'), 8)).toBe(at('2026-12-21T15:00'));
    expect(work.backWork(at('2026-12-21T15:00'), 8)).toBe(at('2026-12-21T07:00'));
  });

  it('has no day off that it was not told, and gives up after three years', () => {
    const seldom = WorkCalendar.parse({ workdays: [3], fromHour: 8, toHour: 8.5 });
    expect(workTime(seldom, 0).addWork(0, 400)).toBe(Infinity);
    expect(WorkCalendar.safeParse({ fromHour: 15, toHour: 7 }).success).toBe(false);
    expect(WorkCalendar.safeParse({ timeZone: 'Nowhere/Town' }).success).toBe(false);
    expect(WorkCalendar.safeParse({ workdays: [] }).success).toBe(false);
  });

  it.each(['America/Chicago', 'Europe/Berlin', 'Australia/Lord_Howe', 'Asia/Kathmandu', 'Pacific/Apia'])(
    'knows the hour on the wall in %s, also when the clocks change',
    (zone) => {
      fc.assert(
        fc.property(fc.integer({ min: 0, max: 3650 }), fc.integer({ min: 0, max: 47 }), (days, halves) => {
          const day = DateTime.fromISO('2020-01-01', { zone: 'utc' }).plus({ days }).toISODate()!;
          const told = DateTime.fromISO(`${day}T00:00`, { zone: 'utc' }).plus({ minutes: halves * 30 });
          const wall = DateTime.fromObject(
            { year: told.year, month: told.month, day: told.day, hour: told.hour, minute: told.minute },
            { zone },
          );
          const isShown = wall.hour === told.hour && wall.minute === told.minute;
          // Where a clock leaves an hour out nothing shows it; where it shows one twice, either will do.
          if (!isShown) return;
          const ms = atHour(zone, day, halves / 2);
          expect(DateTime.fromMillis(ms, { zone }).toFormat('yyyy-MM-dd HH:mm')).toBe(
            told.toFormat('yyyy-MM-dd HH:mm'),
          );
          expect(dayAt(zone, ms)).toBe(day);
        }),
      );
    },
  );

  it('turns forward and back into one another', () => {
    const work = workTime(week, at('2026-12-20T00:00'));
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 20 * 24 * 4 }), fc.integer({ min: 1, max: 400 }), (quarters, tenths) => {
        const from = work.nextWork(at('2026-12-20T00:00') + quarters * 15 * 60_000);
        const end = work.addWork(from, tenths / 10);
        expect(work.hoursBetween(from, end)).toBeCloseTo(tenths / 10, 9);
        // The latest begin that still ends then: not before the begin, and nothing is worked in between.
        const back = work.backWork(end, tenths / 10);
        expect(back).toBeGreaterThanOrEqual(from - 1);
        expect(work.hoursBetween(from, back)).toBeLessThan(1e-6);
      }),
    );
  });
});
