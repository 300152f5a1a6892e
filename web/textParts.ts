import { readFileSync } from 'node:fs';
import type { Plugin } from 'vite';

/** Texts by their names, one in another. */
type Texts = { [name: string]: string | Texts };

/** What stands on the doors: before anybody signed in, and while something is on its way. */
const DOOR = ['signIn', 'today', 'broken', 'sheet', 'update', 'links', 'help'];
/** What only some screens say, by the part of the texts that they bring. What no part names is said on site. */
const PARTS: Readonly<Record<string, readonly string[]>> = {
  door: DOOR,
  sums: ['floorSum', 'sum', 'detail', 'random', 'mix'],
  tools: ['flood', 'survey', 'film', 'cure', 'materials', 'new', 'drawing', 'handOver', 'rename', 'call'],
  office: [
    'across',
    'deed',
    'server',
    'backup',
    'audit',
    'people',
    'mail',
    'lines',
    'families',
    'firm',
    'setUp',
    'planSet',
    'leaks',
  ],
};
/** Beside the keys that open them: what others of these names say on site. */
const ON_SITE = [
  'sum.short',
  'flood.beforeStart',
  'flood.inFuture',
  'flood.now',
  'lines.fromLabel',
  'across.title',
  'across.own',
];

/** The part that says a text; `section.name` as in the file of texts. */
function partOf(section: string, name: string): string {
  const part = Object.keys(PARTS).find((p) => PARTS[p]!.includes(section));
  if (!part || (part !== 'door' && (name.startsWith('open') || ON_SITE.includes(`${section}.${name}`)))) return 'site';
  return part;
}

/** Both trees in one. */
function joined(one: Texts = {}, other: Texts): Texts {
  const all = { ...one };
  for (const [name, said] of Object.entries(other)) {
    const known = all[name];
    all[name] = typeof known === 'object' && typeof said === 'object' ? joined(known, said) : said;
  }
  return all;
}

const read = (folder: string, language: string) =>
  JSON.parse(readFileSync(new URL(`${folder}/${language}.json`, import.meta.url), 'utf8')) as Texts;

/** The texts of one part in one language, with those that screens share with the printed record. */
export function textsOf(part: string, language: string): Texts {
  const [screens, printed] = [read('src/texts', language), read('../words/src/texts', language)];
  if (part === 'record') {
    const { links, shared, shower, record } = screens;
    return {
      links,
      shared,
      shower,
      line: printed.line,
      record: { ...(record as Texts), ...(printed.record as Texts) },
    } as Texts;
  }
  const texts: Texts = part === 'door' ? { app: printed.app! } : {};
  // What is said of a shower in print is said of it on site too.
  const onPaper = (section: string) => (partOf(section, '') === 'office' ? 'office' : 'site');
  for (const [section, said] of Object.entries(printed)) if (onPaper(section) === part) texts[section] = said;
  for (const [section, said] of Object.entries(screens)) {
    const mine = Object.entries(said).filter(([name]) => partOf(section, name) === part);
    if (mine.length > 0) texts[section] = joined(texts[section] as Texts | undefined, Object.fromEntries(mine));
  }
  return texts;
}

const NAME = 'virtual:texts/';

/** `virtual:texts/<part>/<language>`: a screen waits for the texts that it says, and for those of its own language. */
export const textParts: Plugin = {
  name: 'text-parts',
  resolveId: (id) => (id.startsWith(NAME) ? `\0${id}` : null),
  load: (id) => {
    if (!id.startsWith(`\0${NAME}`)) return null;
    const [part, language] = id.slice(NAME.length + 1).split('/');
    return `export const texts = ${JSON.stringify(textsOf(part!, language!))};`;
  },
};
