import { describe, expect, it } from 'vitest';
import printedEn from '../../../../words/src/texts/en.json' with { type: 'json' };
import printedEs from '../../../../words/src/texts/es.json' with { type: 'json' };
import { HELP_SCREENS, HelpTexts, helpScreenOf } from '../../shared/helpTexts';
import screensEn from '../en.json' with { type: 'json' };
import screensEs from '../es.json' with { type: 'json' };
import en from './en.json' with { type: 'json' };
import es from './es.json' with { type: 'json' };

/** All texts of a tree. */
const texts = (tree: unknown): string[] =>
  typeof tree === 'string' ? [tree] : tree && typeof tree === 'object' ? Object.values(tree).flatMap(texts) : [];

const LANGUAGES = [
  { name: 'English', help: en, said: [...texts(screensEn), ...texts(printedEn)] },
  { name: 'Spanish', help: es, said: [...texts(screensEs), ...texts(printedEs)] },
];

describe.each(LANGUAGES)('the help in $name', ({ help, said }) => {
  it('has a sheet for every screen, and every word that it means', () => {
    const read = HelpTexts.parse(help);
    expect(Object.keys(read.screens).sort()).toEqual([...HELP_SCREENS].sort());
    for (const { words } of Object.values(read.screens))
      for (const word of words) expect(read.glossary[word], word).toBeDefined();
  });
  it('names keys as they stand on the screens', () => {
    const keys = Object.values(help.screens).flatMap((s) => s.do.flatMap((line) => line.match(/\*\*(.+?)\*\*/g) ?? []));
    expect(keys.length).toBeGreaterThan(20);
    const unknown = keys
      .map((key) => key.replaceAll('*', ''))
      // A key that names its stage or count begins with what the help says.
      .filter((key) => !said.includes(key) && !said.some((text) => text.startsWith(`${key}: {{`)));
    expect(unknown).toEqual([]);
  });
});

describe('the help', () => {
  it('has the same screens, steps and words in both languages', () => {
    const shape = (help: typeof en | typeof es) =>
      Object.entries(help.screens).map(([key, s]) => [
        key,
        s.do.length,
        s.words,
        'tour' in s ? s.tour.map((t) => t.at) : [],
      ]);
    expect(shape(es)).toEqual(shape(en));
    expect(Object.keys(es.glossary)).toEqual(Object.keys(en.glossary));
  });
  it('finds the sheet of an address', () => {
    expect(helpScreenOf('/', false)).toBe('day');
    expect(helpScreenOf('/', true)).toBe('crew');
    expect(helpScreenOf('/showers/1', false)).toBe('shower');
    expect(helpScreenOf('/showers/1/flood', false)).toBe('flood');
    expect(helpScreenOf('/showers/1/dimensions', false)).toBe('new');
    expect(helpScreenOf('/office/rules', false)).toBe('office');
  });
});
