import { makeWords } from '@careful-seam/words/texts/words';
import ical from 'ical.js';
import { expect, test } from 'vitest';
import { floodCalendar } from './floodCalendar';

test('an independent parser of RFC 5545 reads the visits with their times, places and reminders', () => {
  const startMs = Date.parse('2026-11-22T15:53:00Z');
  const text = floodCalendar(
    [
      {
        uid: 'flood-1@careful-seam',
        title: 'Flood, read: 3B; "hall", row\\9',
        description: `${'A long line that must be folded after 75 octets, as the standard says. '.repeat(3)}é`,
        location: 'Larkspur House',
        startMs,
        endMs: startMs + 7_200_000,
        remindMinutes: 30,
      },
    ],
    'Flood readings',
    startMs - 1000,
  );
  for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(76);
  const calendar = new ical.Component(ical.parse(text));
  expect(calendar.getFirstPropertyValue('version')).toBe('2.0');
  const event = new ical.Event(calendar.getFirstSubcomponent('vevent')!);
  expect(event.uid).toBe('flood-1@careful-seam');
  expect(event.summary).toBe('Flood, read: 3B; "hall", row\\9');
  expect(event.description).toContain('as the standard says');
  expect(event.location).toBe('Larkspur House');
  expect(event.startDate.toJSDate().getTime()).toBe(startMs);
  expect(event.endDate.toJSDate().getTime()).toBe(startMs + 7_200_000);
  const alarm = event.component.getFirstSubcomponent('valarm')!;
  expect(String(alarm.getFirstPropertyValue('trigger'))).toBe('-PT30M');
  expect(makeWords('en').t('calendar.read', { where: 'X' })).toContain('X');
});
