import type { Language } from '@careful-seam/words/texts/language';
import { z } from 'zod';

/** The screens that have a help sheet. */
export const HELP_SCREENS = [
  'day',
  'new',
  'shower',
  'flood',
  'film',
  'cure',
  'call',
  'survey',
  'materials',
  'record',
  'office',
  'across',
  'week',
  'crew',
] as const;
/** One of them. */
export type HelpScreen = (typeof HELP_SCREENS)[number];

/** What is said of a screen: what it is for, what to do in order, and which words are meant. Keys stand between two pairs of stars. */
const ScreenHelp = z.object({
  title: z.string(),
  for: z.string(),
  do: z.array(z.string()).min(1),
  words: z.array(z.string()).min(1),
  /** What a newcomer is shown on it, one after the other: what is pointed at, as a selector, and what is said of it. */
  tour: z.array(z.object({ at: z.string(), text: z.string() })).optional(),
});
/** A word of the trade with its meaning. */
const Word = z.object({ word: z.string(), means: z.string() });
/** All help in one language. */
export const HelpTexts = z.object({
  screens: z.record(z.enum(HELP_SCREENS), ScreenHelp),
  glossary: z.record(z.string(), Word),
});
/** All help in one language. */
export type HelpTexts = z.infer<typeof HelpTexts>;

/** The texts of the help, fetched when it is first asked for: nobody waits for them before. */
export async function helpIn(language: Language): Promise<HelpTexts> {
  const texts = language === 'es' ? await import('../texts/help/es.json') : await import('../texts/help/en.json');
  return texts.default as HelpTexts;
}

/** The screen that an address shows. */
export function helpScreenOf(pathname: string, isCrew: boolean): HelpScreen {
  const [first, , part] = pathname.split('/').filter(Boolean);
  if (first === 'new' || part === 'dimensions') return 'new';
  if (first === 'office' || first === 'across' || first === 'week') return first;
  if (first === 'crew') return 'crew';
  if (first === 'showers')
    return (HELP_SCREENS as readonly string[]).includes(part ?? '') ? (part as HelpScreen) : 'shower';
  return isCrew ? 'crew' : 'day';
}
