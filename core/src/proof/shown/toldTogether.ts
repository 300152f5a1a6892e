import type { Evidence } from '../../log/state';

/** How many readings that count were told with others, of how many in all. */
export interface ToldTogether {
  /** Told at several places with one word, after one of them was measured. */
  together: number;
  /** All readings that count. */
  of: number;
}

/** Counts the readings that a hand told together: a stranger shall see which were said one by one. */
export function toldTogether(
  evidence: readonly Pick<Evidence, 'kind' | 'voided' | 'lookAgain' | 'together'>[],
): ToldTogether {
  const readings = evidence.filter((e) => e.kind === 'reading' && !e.voided && !e.lookAgain);
  return { together: readings.filter((e) => e.together !== null).length, of: readings.length };
}
