import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { PROGRAMS } from '../programs/programs';

const SOURCE = join(import.meta.dirname, '..');

/** Every program that the server starts beside itself is built beside it too: as a source it runs in tests, where nobody would notice. */
it('every process that is started beside the server is part of the build', () => {
  const config = readFileSync(join(SOURCE, '../vite.config.ts'), 'utf8');
  const built = new Map([...config.matchAll(/^\s+(\w+): '([\w/.]+\.ts)',$/gm)].map((m) => [m[1], m[2]]));
  for (const [name, source] of Object.entries(PROGRAMS)) expect(built.get(name)).toBe(join('src', source));
  // Nobody begins one by another way.
  const others = readdirSync(SOURCE, { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.ts') && !name.endsWith('.test.ts') && name !== 'programs/programs.ts')
    .filter((name) => / fork\(/.test(readFileSync(join(SOURCE, name), 'utf8')));
  // It shares its own work out to itself.
  expect(others).toEqual([join('verify', 'main.ts')]);
});
