import { z } from 'zod';
import { USUAL_LAP_MM } from '../membrane/usualLap';
import { done, type Outcome, refuse } from '../outcome/outcome';
import { lengthMm, positiveMm } from '../units/bounded';

/** Pieces that are cut from rolls. */
export const CutRollsInput = z.object({
  /** Length of a roll, mm. */
  rollMm: positiveMm,
  /** Lengths that are needed, mm. */
  piecesMm: z.array(positiveMm).max(2000),
  /** Lap where a piece longer than a roll is made of two, mm. */
  lapMm: lengthMm.optional(),
});

/** A plan of cuts. */
export interface CutRolls {
  /** Pieces cut from each roll, in the order they are cut, mm. */
  rolls: number[][];
  /** For each of them the place in `piecesMm` of the piece that it is, or is a part of. */
  pieceOf: number[][];
  /** What is left of all rolls, mm. */
  wasteMm: number;
  /** No plan needs fewer rolls than this [Martello & Toth 1990, bound L2]. */
  atLeastRolls: number;
  /** True where the plan is proved to be the best: as many rolls as the bound. */
  proved: boolean;
}

/** Sums of doubles, mm. */
const SLACK_MM = 1e-6;
/** Steps that the search for a better plan may take in all; what it then has is kept. */
const MOST_STEPS = 200_000;
/** More cuts than this are a slip in a length, not a shower. */
const MOST_CUTS = 4000;

/** What is cut, and the piece that it is of. */
interface Cut {
  /** Its length, mm. */
  mm: number;
  /** Which piece it is of. */
  of: number;
}

/** Pieces longer than a roll become rolls that lap each other. */
function splitLong(pieces: readonly number[], rollMm: number, lapMm: number): Cut[] {
  return pieces.flatMap((piece, of) => {
    const out: Cut[] = [];
    let left = piece;
    while (left > rollMm + SLACK_MM && rollMm > lapMm) {
      out.push({ mm: rollMm, of });
      left -= rollMm - lapMm;
    }
    return [...out, { mm: left, of }];
  });
}

/** Longest first into the fullest roll that still holds it (best fit decreasing). */
function bestFit(sorted: readonly Cut[], rollMm: number): Cut[][] {
  const rolls: Cut[][] = [];
  const room: number[] = [];
  for (const piece of sorted) {
    let best = -1;
    room.forEach((r, k) => {
      if (r >= piece.mm - SLACK_MM && (best < 0 || r < room[best]!)) best = k;
    });
    if (best < 0) {
      rolls.push([piece]);
      room.push(rollMm - piece.mm);
    } else {
      rolls[best]!.push(piece);
      room[best]! -= piece.mm;
    }
  }
  return rolls;
}

/** Least number of rolls that any plan needs: pieces over half a roll alone, the rest by what they leave [Martello & Toth 1990, L2]. */
function atLeast(pieces: readonly number[], rollMm: number): number {
  let bound = 0;
  for (const k of [0, ...new Set(pieces.filter((p) => p <= rollMm / 2))]) {
    const long = pieces.filter((p) => p > rollMm - k);
    const middle = pieces.filter((p) => p <= rollMm - k && p > rollMm / 2);
    const short = pieces.filter((p) => p <= rollMm / 2 && p >= k);
    const left = middle.length * rollMm - middle.reduce((a, b) => a + b, 0);
    const more = Math.ceil((short.reduce((a, b) => a + b, 0) - left) / rollMm - SLACK_MM);
    bound = Math.max(bound, long.length + middle.length + Math.max(0, more));
  }
  return bound;
}

/** Depth first over where each piece goes, for one roll fewer; null where the steps left run out or there is none. */
function packInto(sorted: readonly Cut[], count: number, rollMm: number, budget: { steps: number }): Cut[][] | null {
  const rolls: Cut[][] = Array.from({ length: count }, () => []);
  const room = new Array<number>(count).fill(rollMm);
  const put = (i: number): boolean => {
    if (i === sorted.length) return true;
    const tried = new Set<number>();
    for (let k = 0; k < count; k += 1) {
      budget.steps -= 1;
      if (budget.steps < 0) return false;
      const key = Math.round(room[k]! * 100);
      if (room[k]! < sorted[i]!.mm - SLACK_MM || tried.has(key)) continue;
      tried.add(key);
      rolls[k]!.push(sorted[i]!);
      room[k]! -= sorted[i]!.mm;
      if (put(i + 1)) return true;
      room[k]! += sorted[i]!.mm;
      rolls[k]!.pop();
    }
    return false;
  };
  return put(0) ? rolls : null;
}

/**
 * Cuts pieces from rolls with as few rolls as it finds: best fit decreasing, then a bounded search for one roll fewer,
 * held against the bound that no plan can beat. [one-dimensional cutting stock; methods as named] Refuses a roll that
 * is no longer than the lap while a piece is longer than the roll, and lengths that come to thousands of cuts.
 */
export function cutRolls({ rollMm, piecesMm, lapMm = USUAL_LAP_MM }: z.infer<typeof CutRollsInput>): Outcome<CutRolls> {
  const longest = Math.max(0, ...piecesMm);
  if (longest > rollMm && rollMm <= lapMm)
    return refuse('roll-too-short', 'rollMm', { piece: Math.round(longest), roll: rollMm, lap: lapMm });
  const cuts = piecesMm.reduce((n, p) => n + Math.max(1, Math.ceil((p - lapMm) / Math.max(rollMm - lapMm, 1e-9))), 0);
  if (longest > rollMm && cuts > MOST_CUTS) return refuse('too-many-cuts', 'rollMm', { cuts });
  const sorted = splitLong(piecesMm, rollMm, lapMm).sort((a, b) => b.mm - a.mm);
  const lengths = sorted.map((c) => c.mm);
  const atLeastRolls = atLeast(lengths, rollMm);
  let rolls = bestFit(sorted, rollMm);
  const budget = { steps: MOST_STEPS };
  while (rolls.length > atLeastRolls) {
    const better = packInto(sorted, rolls.length - 1, rollMm, budget);
    if (!better) break;
    rolls = better.filter((r) => r.length > 0);
  }
  const usedMm = lengths.reduce((a, b) => a + b, 0);
  return done({
    rolls: rolls.map((roll) => roll.map((c) => c.mm)),
    pieceOf: rolls.map((roll) => roll.map((c) => c.of)),
    wasteMm: rolls.length * rollMm - usedMm,
    atLeastRolls,
    proved: rolls.length === atLeastRolls,
  });
}
