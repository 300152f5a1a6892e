import contractEn from '@careful-seam/words/texts/en.json';
import contractEs from '@careful-seam/words/texts/es.json';
import { describe, expect, it } from 'vitest';
import en from './en.json';
import es from './es.json';

type Texts = { [key: string]: string | Texts };

/** Every text by its whole key. */
function flat(texts: Texts, prefix = ''): Map<string, string> {
  const all = new Map<string, string>();
  for (const [key, value] of Object.entries(texts)) {
    if (typeof value === 'string') all.set(prefix + key, value);
    else for (const [k, v] of flat(value, `${prefix}${key}.`)) all.set(k, v);
  }
  return all;
}
const holes = (text: string) => [...text.matchAll(/\{\{(\w+)\}\}/g)].map((m) => m[1]!).sort();

describe.each([
  ['the interface', flat(en), flat(es)],
  ['what interface and record share', flat(contractEn), flat(contractEs)],
])('texts of %s', (_name, english, spanish) => {
  it('none is missing in Spanish, and none is there for nothing', () => {
    expect([...english.keys()].filter((key) => !spanish.get(key)?.trim())).toEqual([]);
    expect([...spanish.keys()].filter((key) => !english.has(key))).toEqual([]);
  });
  it('name the same figures in both languages', () => {
    const differ = [...english].filter(([key, text]) => String(holes(text)) !== String(holes(spanish.get(key) ?? '')));
    expect(differ.map(([key]) => key)).toEqual([]);
  });
  it('are not the English ones left standing', () => {
    const words = [...english].filter(([, text]) =>
      /[a-z]{4,}.*\s.*[a-z]{4,}/i.test(text.replaceAll(/\{\{\w+\}\}/g, '')),
    );
    expect(words.filter(([key, text]) => key !== 'app.name' && spanish.get(key) === text).map(([key]) => key)).toEqual(
      [],
    );
  });
});

describe('what the screens ask for', () => {
  const sources = import.meta.glob<string>('../**/*.{ts,tsx}', { query: '?raw', import: 'default', eager: true });
  const known = new Set(
    [...flat(en).keys(), ...flat(contractEn).keys()].map((key) => key.replace(/_(zero|one|other)$/, '')),
  );
  it('is there: every text that a screen names by its whole key', () => {
    const asked = Object.entries(sources)
      .filter(([path]) => !path.includes('.test.'))
      .flatMap(([path, text]) => [...text.matchAll(/\bt\(\s*'([\w.-]+)'/g)].map((m) => [path, m[1]!] as const));
    expect(asked.length).toBeGreaterThan(300);
    expect(asked.filter(([, key]) => !known.has(key))).toEqual([]);
  });
});
