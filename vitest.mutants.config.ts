import { defineConfig } from 'vitest/config';

/** For `npm run mutants`: the tests of the core that judge, each quick enough to be run thousands of times. */
export default defineConfig({
  test: {
    include: ['core/src/{proof,flood,cure,film,ledger,entries,plan}/**/*.test.ts'],
    exclude: ['**/node_modules/**', 'core/src/flood/siteScenarios.test.ts'],
    testTimeout: 60_000,
    env: { SECOND_JUDGE_RUNS: '60', SECOND_JUDGE_QUICK: '1' },
    maxWorkers: 1,
  },
});
