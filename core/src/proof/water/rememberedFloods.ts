import { type FloodVerdict, floodVerdict } from '../../water/floodVerdict';
import type { FloodVerdictInput } from '../../water/floodVerdictInput';

/** A shower is folded anew after every entry, and an ended test does not change: its verdict is worked out once. */
const KEPT_VERDICTS = 32;
const verdicts = new Map<string, FloodVerdict | null>();

/** The verdict on a test's readings, or null where they can't be judged; the last 32 are remembered. */
export function judgedReadings(input: FloodVerdictInput): FloodVerdict | null {
  const key = JSON.stringify(input);
  const known = verdicts.get(key);
  if (known !== undefined) {
    verdicts.delete(key);
    verdicts.set(key, known);
    return known;
  }
  const found = floodVerdict(input);
  const verdict = found.ok ? found.value : null;
  verdicts.set(key, verdict);
  if (verdicts.size > KEPT_VERDICTS) verdicts.delete(verdicts.keys().next().value!);
  return verdict;
}
