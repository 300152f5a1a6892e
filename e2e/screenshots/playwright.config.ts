import { defineConfig } from '@playwright/test';
import usual from '../playwright.config';

/** The pictures of the README, not tests: run by "npm run shots". */
export default defineConfig({
  ...usual,
  testDir: '.',
  testMatch: '*.shots.ts',
  projects: [{ name: 'shots' }],
  outputDir: '../../test-results/shots',
  reporter: 'line',
});
