import { defineConfig } from 'vitest/config';
import { textParts } from './web/textParts.ts';

/** Modules are loaded once for each worker and not anew for each file: a third of the time went into that. */
const usual = {
  testTimeout: 180_000,
  hookTimeout: 180_000,
  isolate: false,
  setupFiles: ['tools/properties/seeded.ts'],
};

export default defineConfig({
  test: {
    // One more than the smallest machine has cores: a good part of a test of the server is waiting for the database.
    maxWorkers: 3,
    projects: [
      {
        plugins: [textParts],
        test: {
          ...usual,
          name: 'unit',
          include: ['core', 'contract', 'words', 'files', 'demo', 'web', 'tools'].map(
            (folder) => `${folder}/**/*.test.ts`,
          ),
          exclude: ['**/node_modules/**', 'demo/src/load/**'],
        },
      },
      {
        plugins: [textParts],
        test: {
          ...usual,
          name: 'components',
          include: ['web/src/**/*.test.tsx'],
          environment: 'jsdom',
          setupFiles: [...usual.setupFiles, 'web/src/tests/setUpScreens.ts'],
        },
      },
      { test: { ...usual, name: 'api', include: ['server/src/**/*.test.ts', 'demo/src/load/*.test.ts'] } },
    ],
  },
});
