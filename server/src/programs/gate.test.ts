import fc from 'fast-check';
import { expect, it } from 'vitest';
import { makeGate } from './gate';

it('lets no more through than it may, in the order in which they came, whoever fails inside', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.integer({ min: 1, max: 4 }),
      fc.array(fc.record({ turns: fc.nat(4), fails: fc.boolean(), later: fc.nat(3) }), { maxLength: 20 }),
      async (most, all) => {
        const gate = makeGate(most);
        const turn = () => new Promise<void>((done) => queueMicrotask(done));
        let [inside, seen] = [0, 0];
        const came: number[] = [];
        const entered: number[] = [];
        const run = all.map(async ({ turns, fails, later }, k) => {
          for (let t = 0; t < later; t += 1) await turn();
          came.push(k);
          await gate
            .run(async () => {
              entered.push(k);
              inside += 1;
              seen = Math.max(seen, inside);
              for (let t = 0; t < turns; t += 1) await turn();
              inside -= 1;
              if (fails) throw new Error('inside');
            })
            .catch(() => undefined);
        });
        await Promise.all(run);
        expect(seen).toBeLessThanOrEqual(most);
        // Of several places two may be taken in one moment; of one they are taken in turn.
        if (most === 1) expect(entered).toEqual(came);
        expect(inside).toBe(0);
        let through = false;
        await gate.run(async () => {
          through = true;
        });
        expect(through).toBe(true);
      },
    ),
    { numRuns: 300, seed: 20261129 },
  );
});

it('is full when as many wait as may', async () => {
  const gate = makeGate(1, 1);
  let free = (): void => undefined;
  const first = gate.run(() => new Promise<void>((done) => (free = done)));
  expect(gate.isFull()).toBe(false);
  const second = gate.run(async () => undefined);
  expect(gate.isFull()).toBe(true);
  free();
  await Promise.all([first, second]);
  expect(gate.isFull()).toBe(false);
});
