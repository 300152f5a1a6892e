import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { guidePages } from './guide.mjs';

it('the guide and the list of words say what the help on the screens says', () => {
  for (const [path, text] of Object.entries(guidePages() as Record<string, string>))
    expect(readFileSync(new URL(`../docs/${path}`, import.meta.url), 'utf8'), `${path}: npm run guide`).toBe(text);
});
