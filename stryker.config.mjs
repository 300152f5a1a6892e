const room = process.env.MUTANTS_ROOM ?? 'proof';
const fileName = `mutants-${room.replace('/', '-')}`;

/** For tools/mutants.mjs: one room at a time, with the tests of the rooms that judge it. */
export default {
  testRunner: 'vitest',
  tsconfigFile: 'tsconfig.none.json',
  vitest: { configFile: 'vitest.mutants.config.ts', related: true },
  plugins: ['@stryker-mutator/vitest-runner'],
  mutate: process.env.MUTANTS_PLACES?.split(' ') ?? [
    `core/src/${room}/**/*.ts`,
    '!core/src/**/*.test.ts',
    '!core/src/water/siteScenarios.ts',
    '!core/src/water/simulateFlood.ts',
  ],
  mutator: { excludedMutations: ['StringLiteral'] },
  coverageAnalysis: 'perTest',
  ignoreStatic: process.env.MUTANTS_PLACES !== undefined,
  concurrency: Number(process.env.MUTANTS_AT_ONCE ?? 1),
  timeoutMS: 20_000,
  timeoutFactor: 3,
  reporters: ['clear-text', 'json', 'progress-append-only'],
  jsonReporter: { fileName: `test-results/${fileName}.json` },
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false },
  tempDirName: `.tmp/${fileName}`,
  ignorePatterns: ['web', 'server', 'e2e', 'docs', 'demo', 'data', 'instruments', 'test-results', '.git', '.tmp'],
  allowConsoleColors: false,
};
