import fc from 'fast-check';
import { expect, it } from 'vitest';
import { WHENS } from '../log/callBodies';
import { oddsOf, SHIPPED_ODDS, STARTING_ODDS, signKey, whenKey } from './odds';
import { BEHAVIOURS } from './startingValues';

it('are as shipped where a firm set none, and what it sets stands in their place', () => {
  expect(oddsOf({})).toEqual(STARTING_ODDS);
  expect(oddsOf({ standing: 0.7, [signKey('mould', 'door')]: 0.9 })).toMatchObject({
    standing: 0.7,
    running: STARTING_ODDS.running,
    sign: { mould: { door: 0.9, basin: STARTING_ODDS.sign.mould.basin } },
  });
  // One time made likelier makes the others of its behaviour less so.
  const more = oddsOf({ [whenKey('supply', 'neighbours')]: 0.5 });
  expect(more.when.supply.neighbours).toBeGreaterThan(STARTING_ODDS.when.supply.neighbours);
  expect(more.when.supply.always).toBeLessThan(STARTING_ODDS.when.supply.always);
  expect(more.when.door.always).toBeCloseTo(STARTING_ODDS.when.door.always, 9);
});

it('times of one behaviour add up to one, whatever was typed', () => {
  const keys = Object.keys(SHIPPED_ODDS);
  fc.assert(
    fc.property(fc.dictionary(fc.constantFrom(...keys), fc.double({ min: 0.001, max: 0.999, noNaN: true })), (own) => {
      const { when } = oddsOf(own);
      for (const b of BEHAVIOURS) expect(WHENS.reduce((sum, w) => sum + when[b][w], 0)).toBeCloseTo(1, 9);
    }),
  );
});
