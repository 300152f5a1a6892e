import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

/** For `npm run properties`: the files that hold properties, with fast-check replaced by the one that runs many more examples. */
const files = ['core', 'contract', 'words', 'files', 'web', 'tools']
  .flatMap((folder) => readdirSync(folder, { recursive: true, encoding: 'utf8' }).map((name) => `${folder}/${name}`))
  .filter((file) => file.endsWith('.test.ts') && !file.includes('node_modules'))
  .filter((file) => readFileSync(file, 'utf8').includes("from 'fast-check'"));

export default defineConfig({
  resolve: {
    alias: [{ find: /^fast-check$/, replacement: fileURLToPath(new URL('tools/properties/wide.ts', import.meta.url)) }],
  },
  test: { include: files, testTimeout: 3_600_000, isolate: false, maxWorkers: 2 },
});
