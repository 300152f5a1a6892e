import fc from 'fast-check';
import { DateTime } from 'luxon';
import { describe, expect, it } from 'vitest';
import { dayWords, momentWords, nameTimesIn, TIME_LOCALES } from './moments';

describe('moments in words', () => {
  it('are as a library of dates writes them, in both languages and any zone', () => {
    const zones = ['America/New_York', 'Europe/Vienna', 'Asia/Kolkata', 'Pacific/Apia', 'UTC'];
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 4_000_000_000_000 }),
        fc.constantFrom(...zones),
        fc.constantFrom<'en' | 'es'>('en', 'es'),
        (ms, zone, language) => {
          nameTimesIn(language);
          const told = DateTime.fromMillis(ms, { zone }).setLocale(TIME_LOCALES[language]);
          expect(momentWords(ms, zone)).toBe(told.toFormat('ccc d LLL, HH:mm'));
          expect(dayWords(ms, zone)).toBe(told.toFormat('ccc d LLL'));
        },
      ),
    );
    nameTimesIn('en');
  });
});
