import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { defaultRuleBook } from '../rules/defaultRuleBook';
import { settingOf } from '../rules/tools';
import { READY_STEPS, readySteps, SETTINGS, SUBSTRATES, substrateReady } from './readySteps';

describe('a substrate before the next layer', () => {
  it('of thirsty board is dampened before a sheet, primed before a liquid coat', () => {
    expect(readySteps('thin-set', 'cement-board')).toContain('dampened');
    expect(readySteps('coat', 'cement-board')).toEqual(['sound', 'swept', 'wiped', 'primed']);
    expect(readySteps('thin-set', 'foam')).not.toContain('dampened');
  });
  it('under a mortar bed is primed and slurried, on wood and concrete alike', () => {
    for (const on of ['wood', 'concrete'] as const)
      expect(readySteps('bed', on)).toEqual(['sound', 'swept', 'primed', 'slurried']);
  });
  it('goes by how each shipped method sets its layer, and the same in books that did not say', () => {
    const { methods } = defaultRuleBook();
    expect(methods.map((m) => `${m.key} ${settingOf(m)}`)).toEqual([
      'bonded-sheet thin-set',
      'sealant-board thin-set',
      'liquid coat',
      'liner-mortar bed',
      'ready-pan thin-set',
      'leak-control-flange coat',
      'not-known fixed',
    ]);
    for (const { setting, ...older } of methods) expect(settingOf(older)).toBe(setting);
    expect(settingOf({ ...methods[0]!, key: 'ours', setting: undefined })).toBe('fixed');
  });
  it('of metal is degreased however the layer is set', () => {
    for (const setting of SETTINGS) expect(readySteps(setting, 'metal-flange')).toContain('degreased');
  });
  it('is ready exactly when nothing it asks for is missing', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...SETTINGS),
        fc.constantFrom(...SUBSTRATES),
        fc.subarray([...READY_STEPS]),
        (setting, substrate, done) => {
          const asked = readySteps(setting, substrate);
          const { ready, missing } = substrateReady(setting, substrate, done);
          expect(asked.length).toBeGreaterThan(0);
          expect(ready).toBe(asked.every((s) => done.includes(s)));
          expect([...missing, ...asked.filter((s) => done.includes(s))].sort()).toEqual([...asked].sort());
        },
      ),
    );
  });
});
