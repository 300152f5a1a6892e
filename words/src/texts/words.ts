import i18next, { type i18n } from 'i18next';
import en from './en.json' with { type: 'json' };
import es from './es.json' with { type: 'json' };
import { LANGUAGES, type Language } from './language';

/** A fresh set of words for one language: the texts shared by the interface and the printed record, plus more. */
export function makeWords(language: Language, more: Record<Language, object> | null = null): i18n {
  const instance = i18next.createInstance();
  void instance.init({
    lng: language,
    fallbackLng: 'en',
    initAsync: false,
    interpolation: { escapeValue: false },
    resources: { en: { translation: en }, es: { translation: es } },
  });
  for (const key of LANGUAGES) if (more) instance.addResourceBundle(key, 'translation', more[key], true, true);
  return instance;
}
