import { execFileSync, spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';

describe('the command line', () => {
  const calc = (args: string[], input = '') =>
    spawnSync('npx', ['tsx', 'words/src/calc/cli.ts', ...args], { input, encoding: 'utf8' });
  it('lists, answers and refuses with exit codes', () => {
    expect(
      execFileSync('npx', ['tsx', 'words/src/calc/cli.ts', '--list'], { encoding: 'utf8' }).split('\n')[0],
    ).toMatch(/^length-parse\t/);
    const good = calc(['lap-leg'], JSON.stringify({ bandWidthMm: 130, lossMm: 6, offCentreMm: 0 }));
    expect([good.status, JSON.parse(good.stdout)]).toEqual([0, { legsMm: [62, 62] }]);
    const bad = calc(['lap-leg'], 'not json');
    const { error } = JSON.parse(bad.stdout);
    expect([bad.status, error.code, error.field]).toEqual([1, 'input-not-json', 'input']);
    expect(error.message).toBe('Standard input is not JSON. Send one JSON object.');
  });
});
