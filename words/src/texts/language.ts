import type { TFunction } from 'i18next';

/** Languages that all of it is written in. */
export const LANGUAGES = ['en', 'es'] as const;
/** One of them. */
export type Language = (typeof LANGUAGES)[number];
/** Texts of one language, by their keys. */
export type Words = TFunction;
