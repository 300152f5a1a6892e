import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: [
      'core/src/**/*.test.ts',
      'contract/src/**/*.test.ts',
      'demo/src/**/*.test.ts',
      'web/src/**/*.test.ts',
      'server/src/**/*.test.ts',
      'tools/**/*.test.ts',
    ],
    testTimeout: 30_000,
    hookTimeout: 60_000,
    maxWorkers: 2,
    // Modules are loaded once for each worker and not anew for each file: a third of the time went into that.
    isolate: false,
  },
});
