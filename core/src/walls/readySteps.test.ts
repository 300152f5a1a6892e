import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { defaultRuleBook } from '../rules/defaultRuleBook';
import { READY_STEPS, readySteps, SUBSTRATES, substrateReady } from './readySteps';

const METHODS = defaultRuleBook().methods.map((m) => m.key);

describe('a substrate before the next layer', () => {
  it('of thirsty board is dampened before a sheet, primed before a liquid coat', () => {
    expect(readySteps('bonded-sheet', 'cement-board')).toContain('dampened');
    expect(readySteps('liquid', 'cement-board')).toEqual(['sound', 'swept', 'wiped', 'primed']);
    expect(readySteps('bonded-sheet', 'foam')).not.toContain('dampened');
  });
  it('under a mortar bed is primed and slurried, on wood and concrete alike', () => {
    for (const on of ['wood', 'concrete'] as const)
      expect(readySteps('liner-mortar', on)).toEqual(['sound', 'swept', 'primed', 'slurried']);
  });
  it('of metal is degreased whatever the method', () => {
    for (const method of METHODS) expect(readySteps(method, 'metal-flange')).toContain('degreased');
  });
  it('is ready exactly when nothing it asks for is missing', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...METHODS),
        fc.constantFrom(...SUBSTRATES),
        fc.subarray([...READY_STEPS]),
        (method, substrate, done) => {
          const asked = readySteps(method, substrate);
          const { ready, missing } = substrateReady(method, substrate, done);
          expect(asked.length).toBeGreaterThan(0);
          expect(ready).toBe(asked.every((s) => done.includes(s)));
          expect([...missing, ...asked.filter((s) => done.includes(s))].sort()).toEqual([...asked].sort());
        },
      ),
    );
  });
});
