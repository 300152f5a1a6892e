import { defineConfig } from 'vitest/config';

const rooms = process.env.MUTANTS_TESTS ?? 'proof,water,cure,membrane/film,log';

/** For `npm run mutants`: the tests of the rooms that judge, each quick enough to be run thousands of times. */
export default defineConfig({
  test: {
    include: rooms.split(',').map((room) => `core/src/${room}/**/*.test.ts`),
    exclude: [
      '**/node_modules/**',
      ...(process.env.MUTANTS_SECOND_JUDGE === 'no' ? ['core/src/proof/secondJudge.test.ts'] : []),
    ],
    // Minutes of simulation, for each change anew: they say how often a verdict is right, not what it is.
    testNamePattern:
      /^(?!.*(200 seeded|what a plan can exclude|a plan promises|a leak of 2 mm a day never|mostly found)).*$/,
    testTimeout: 60_000,
    env: { SECOND_JUDGE_RUNS: '60', SECOND_JUDGE_QUICK: '1' },
    maxWorkers: 1,
  },
});
