import { LANGUAGES, type Language } from '@careful-seam/words/texts/language';

/** The language of the device, when the application speaks it. */
export const ofDevice = (): Language => LANGUAGES.find((l) => navigator.language.startsWith(l)) ?? 'en';
