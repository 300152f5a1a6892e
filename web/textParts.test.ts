import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { textsOf } from './textParts';

/** Every text of a tree by its whole name. */
const names = (texts: object, before = ''): string[] =>
  Object.entries(texts).flatMap(([name, said]) =>
    typeof said === 'string' ? [`${before}${name}`] : names(said as object, `${before}${name}.`),
  );
const read = (file: string, language: string) =>
  JSON.parse(readFileSync(new URL(`${file}/${language}.json`, import.meta.url), 'utf8')) as object;

describe('the parts of the texts', () => {
  it.each(['en', 'es'])('together say every text, and each screen text once (%s)', (language) => {
    const parts = ['door', 'site', 'sums', 'tools', 'office'].map((part) => names(textsOf(part, language)));
    const all = [...names(read('src/texts', language)), ...names(read('../words/src/texts', language))];
    expect(new Set(parts.flat())).toEqual(new Set(all));
    const screens = new Set(names(read('src/texts', language)));
    const said = parts.flat().filter((name) => screens.has(name));
    expect(said.length).toBe(screens.size);
  });

  it('leave what only an office or a sheet says to them', () => {
    const site = names(textsOf('site', 'en'));
    expect(site.some((name) => /^(floorSum|audit|across\.question|new)\.(?!open)/.test(name))).toBe(false);
    expect(site).toEqual(expect.arrayContaining(['across.title', 'cure.open', 'sum.open', 'stage.released']));
    expect(names(textsOf('record', 'en'))).toContain('shared.title');
  });
});
