import { nameTimesIn } from '@careful-seam/words/sentences/moments';
import type { Language } from '@careful-seam/words/texts/language';
import { useEffect } from 'react';
import { useStore } from '../tablet/store';
import { usePreferences } from '../ui/preferences';
import { speakIn } from '../ui/words';
import { ofDevice } from './deviceLanguage';

/** The language in force: the person's own choice, else the firm's, else the device's. */
export function useLanguage(): Language {
  const chosen = usePreferences((s) => s.language);
  const firm = useStore((s) => s.settings?.language);
  return chosen ?? firm ?? ofDevice();
}

/** The firm's unit, until this person chooses one. */
export function useFirmUnit(): void {
  const { unitChosen, set } = usePreferences();
  const unit = useStore((s) => s.settings?.unit);
  useEffect(() => {
    if (unit && !unitChosen) set({ unit });
  }, [unit, unitChosen, set]);
}

/** Speaks the language in force everywhere: words, days and months, and the rule book's own texts. */
export function useSpokenLanguage(): void {
  const language = useLanguage();
  const speak = useStore((s) => s.speak);
  useEffect(() => {
    nameTimesIn(language, Intl.DateTimeFormat().resolvedOptions().timeZone);
    document.documentElement.lang = language;
    // A language that was never here and can't be had now: the one before goes on.
    void speakIn(language).catch(() => undefined);
    void speak(language);
  }, [language, speak]);
}
