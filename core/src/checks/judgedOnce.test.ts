import { expect, it } from 'vitest';
import { atMoment } from '../proof/fold/foldShower';
import { begun, climb, fold, lapReading, seamId } from '../tests/sampleTablet';
import { judge } from './judge';

const HOUR = 3_600_000;

it('a folded state is judged once; at a later moment waits alone are judged anew; a new entry judges all of it anew', () => {
  const t = begun();
  climb(t, 'drain-tie-in');
  const laid = new Set(fold(t.entries).requirements.flatMap((r) => (r.check.kind === 'wait' ? r.check.after : [])));
  for (const stage of laid) t.write('work-done', { stage, crewId: 'crew-1', who: 'P', day: '2023-11-14' });
  const state = fold(t.entries);
  const moments = [0, 1, 30, 400].map((hours) => atMoment(state, state.clockMs + hours * HOUR));
  const verdicts = new Set<string>();
  for (const now of moments)
    for (const r of state.requirements) {
      const once = judge(now, r);
      expect(judge(now, r)).toBe(once);
      // A copy has nothing to remember: what is worked out anew says the same.
      expect(judge({ ...now }, r)).toEqual(once);
      if (r.check.kind === 'wait') verdicts.add(once.verdict);
      else expect(once).toBe(judge(state, r));
    }
  expect([...verdicts].sort()).toEqual(['pass', 'undecided']);

  const seam = seamId(state, 'floor-wall');
  lapReading(t, seam, 'floor', 300, 12);
  const after = fold(t.entries);
  const of = (s: typeof state) =>
    s.requirements
      .filter((r) => r.element === seam && r.check.kind === 'measured')
      .map((r) => judge(s, r).verdict)
      .sort();
  expect(of(after)).not.toEqual(of(state));
});
