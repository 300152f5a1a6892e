import { speakTimesIn } from '@careful-seam/words/sentences/sentences';
import { LANGUAGES, type Language } from '@careful-seam/words/texts/words';
import { useEffect } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from '../tablet/store';
import { usePreferences } from '../ui/preferences';

/** The language of the device, when the application speaks it. */
const ofDevice = (): Language => LANGUAGES.find((l) => navigator.language.startsWith(l)) ?? 'en';

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
  const { i18n } = useTranslation();
  const speak = useStore((s) => s.speak);
  useEffect(() => {
    speakTimesIn(language);
    document.documentElement.lang = language;
    void i18n.changeLanguage(language);
    void speak(language);
  }, [language, i18n, speak]);
}
