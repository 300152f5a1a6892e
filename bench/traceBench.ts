import type { Symptom } from '@careful-seam/core/log/callBodies';
import { begun, fold } from '@careful-seam/core/tests/sampleTablet';
import { suspectsOf } from '@careful-seam/core/trace/ledgerSays';
import { siteTests } from '@careful-seam/core/trace/siteTests';
import { type Tested, traceCase } from '@careful-seam/core/trace/traceCase';

/** Suspects and tests of the fullest call. */
const [SUSPECTS, TESTS] = [200, 14];

/** The ranking and the next test of a call with so many suspects and so many tests done, once each time. */
export function fullestCall(): () => unknown {
  const state = fold(begun({ niche: true }).entries);
  const model = state.geometry!.model;
  const some = suspectsOf(state);
  // A shower has as many where it has more niches and benches: the same ones under other names weigh the same.
  const suspects = Array.from({ length: SUSPECTS }, (_, k) =>
    k < some.length ? some[k]! : { ...some[k % some.length]!, id: `more ${k}` },
  );
  const tested = siteTests(model, [])
    .slice(0, TESTS)
    .map((test, k): Tested => ({ id: String(k), test, outcome: 'dry' }));
  const symptoms: Symptom[] = [
    { place: { on: 'ceiling', xMm: 100, yMm: 0 }, when: 'after-long', amount: 'drops', signs: ['mould'] },
    { place: { on: 'inside' }, when: 'always', amount: 'damp', signs: [], darkHours: 30 },
  ];
  return () => traceCase(model, { suspects, symptoms, tested });
}
