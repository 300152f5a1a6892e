import { type SiteTest, type Symptom, WATER } from '../log/callBodies';
import type { ShowerModel } from '../shower/geometry/showerModel';
import { heightFit } from './atHeight';
import { normalised } from './bayes';
import { informationBits } from './nextTest';
import type { Odds } from './odds';
import { DAMAGE_MINUTES, isPossible, minutesOf, outcomesOf, siteTests, testGiven, testKey } from './siteTests';
import type { Suspect } from './suspects';
import { distinct, nearness, symptomGiven } from './symptoms';

/** A test that was done, with what it showed. */
export interface Tested {
  /** The entry that told it. */
  id: string;
  test: SiteTest;
  /** One of its outcomes; any other, as `unclear` or what was spoilt by taking it out, tells nothing. */
  outcome: string;
  /** Of a flood: where its level settled, over the drain’s rim, and how much water a hole of its size holds back, mm. */
  settled?: { lowMm: number; highMm: number; heldBackMm: number };
}

/**
 * A hole elsewhere does not let a level settle: water runs on till it is reached. Only an instrument that sticks where it stood looks the same,
 * so often [invented starting value].
 */
const SETTLES_WRONG = 0.005;
/** What a height that is read may be off by on either side, mm. */
const HEIGHT_MARGIN_MM = 2;

/** What tracing starts from. */
export interface TraceCase {
  suspects: readonly Suspect[];
  symptoms: readonly Symptom[];
  tested: readonly Tested[];
  /** By how much what came out makes each suspect likelier or less so, in their order; nothing where nothing came out. */
  stripped?: readonly number[];
  /** Probabilities of what is seen and shown; those that are shipped where a firm has none of its own. */
  odds?: Odds;
}

/** A suspect with its probability now. */
export interface RankedSuspect {
  suspect: Suspect;
  probability: number;
}

/** What would stand after one outcome of a test. */
export interface Leaves {
  outcome: string;
  chance: number;
  /** The likeliest then. */
  first: RankedSuspect;
}

/** A test that could be done next. */
export interface Proposal {
  test: SiteTest;
  informationBits: number;
  minutes: number;
  damageMinutes: number;
  bitsPerMinute: number;
  leaves: Leaves[];
}

/** Where tracing stands. */
export interface TraceView {
  /** Likeliest first. */
  ranked: RankedSuspect[];
  /** What could be done next, most worth first. */
  next: Proposal[];
  /** Symptoms near which nothing lies that could leak: said, and never forced. */
  farFrom: number[];
  /** Results that the others and the symptoms make unlikely, by their ids. */
  doesNotFit: string[];
  /** One is certain enough, or finding out costs more than opening it: open it. Null while testing is worth more. */
  open: Suspect | null;
}

/** So certain that tests end [own choice, as the issue names it]. */
export const CERTAIN = 0.95;
/** Tile is opened from this probability on, or where no other test tells this many bits [own choice, by simulation]. */
const OPENS_FROM = 0.8;
const TELLS_BITS = 0.01;
/** A result that the rest makes less likely than this is told [own choice]. */
const UNLIKELY = 0.04;
/** A symptom that nothing comes nearer to lies away from the shower [own choice]. */
const FAR = 0.05;
/** Opened tile is thought of for so many of the likeliest. */
const OPEN_AT_MOST = 3;

/** Likelihoods of what was told and found, by suspect. */
function weights(
  model: ShowerModel,
  { suspects, symptoms, stripped, odds }: TraceCase,
  rows: readonly (readonly number[])[],
): number[] {
  const distinctOnes = distinct(model, symptoms);
  return suspects.map((s, k) => {
    const told = distinctOnes.reduce(
      (p, symptom) => p * symptomGiven(model, s, symptom, odds),
      s.prior * (stripped?.[k] ?? 1),
    );
    return rows.reduce((p, row) => p * row[k]!, told);
  });
}

/** The row of a result: how likely it is under each suspect; null where it tells nothing. */
function rowOf(model: ShowerModel, { suspects, odds }: TraceCase, { test, outcome, settled }: Tested): number[] | null {
  if (!isPossible(model, suspects, test)) return null;
  const k = outcomesOf(model, test).indexOf(outcome);
  if (k < 0) return null;
  const row = testGiven(model, suspects, test, odds)[k]!;
  // Where the level stops the hole is, or somewhat below: a flood that was watched tells more than that it fell. What was read wrong may
  // have been read anywhere in the water; what reaches out of it was wetted, and could leak, up to its level alone.
  if (!settled || outcome !== WATER || !test.levelMm) return row;
  const level = test.levelMm;
  const anywhere = Math.min(1, (settled.highMm - settled.lowMm + 2 * HEIGHT_MARGIN_MM) / level);
  return row.map((p, s) => {
    const { faces, lowMm, highMm } = suspects[s]!;
    const wetted = { faces, lowMm, highMm: Math.max(lowMm, Math.min(highMm, level)) };
    const fit = heightFit(wetted, settled, settled.heldBackMm, HEIGHT_MARGIN_MM);
    return p * (SETTLES_WRONG * anywhere + (1 - SETTLES_WRONG) * fit);
  });
}

/** What a test would tell, and what would be left after each outcome. */
function proposal(
  model: ShowerModel,
  { suspects, odds }: TraceCase,
  shares: readonly number[],
  test: SiteTest,
  minutes: number,
): Proposal {
  const rows = testGiven(model, suspects, test, odds);
  const bits = informationBits(shares, rows);
  const damageMinutes = DAMAGE_MINUTES[test.kind];
  const leaves = outcomesOf(model, test).map((outcome, r): Leaves => {
    const joint = shares.map((p, k) => p * rows[r]![k]!);
    const chance = joint.reduce((sum, p) => sum + p, 0);
    const best = joint.reduce((b, p, k) => (p > joint[b]! ? k : b), 0);
    return {
      outcome,
      chance,
      first: { suspect: suspects[best]!, probability: chance > 0 ? joint[best]! / chance : 0 },
    };
  });
  return {
    test,
    informationBits: bits,
    minutes,
    damageMinutes,
    bitsPerMinute: bits / (minutes + damageMinutes),
    leaves: leaves.sort((a, b) => b.chance - a.chance),
  };
}

/** Results that would hardly have come by all else that is known. */
function misfits(model: ShowerModel, its: TraceCase, rows: readonly (readonly number[] | null)[]): string[] {
  return its.tested.flatMap(({ id }, k) => {
    const row = rows[k];
    if (!row) return [];
    const others = rows.filter((r, j): r is number[] => j !== k && r !== null);
    const shares = normalised(weights(model, its, others));
    const chance = shares ? shares.reduce((sum, p, s) => sum + p * row[s]!, 0) : 0;
    return chance < UNLIKELY ? [id] : [];
  });
}

/**
 * Where a call stands: who is suspected, what test would tell most for its minutes and its damage, whether to stop and open. The causes
 * are the shower’s own elements; one of them is taken to be the true one. Null where the shower has nothing that could leak.
 */
export function traceCase(model: ShowerModel, its: TraceCase): TraceView | null {
  // A test that was made again replaces what it showed before: the two are no two witnesses.
  const last = new Map(its.tested.map((t) => [testKey(t.test), t.id]));
  const rows = its.tested.map((t) => (last.get(testKey(t.test)) === t.id ? rowOf(model, its, t) : null));
  const shares = normalised(
    weights(
      model,
      its,
      rows.filter((r): r is number[] => r !== null),
    ),
  );
  if (!shares) return null;
  const ranked = its.suspects
    .map((suspect, k): RankedSuspect => ({ suspect, probability: shares[k]! }))
    .sort((a, b) => b.probability - a.probability);
  const tests = its.tested.map((t) => t.test);
  const done = new Set(tests.map(testKey));
  const next = siteTests(
    model,
    ranked.slice(0, OPEN_AT_MOST).map((r) => r.suspect),
  )
    .filter((test) => !done.has(testKey(test)))
    .map((test) => proposal(model, its, shares, test, minutesOf(test, tests)))
    .sort((a, b) => b.bitsPerMinute - a.bitsPerMinute);
  // Tile is not taken out for what is rather unlikely while a test without damage still tells something.
  const spares = next.filter((p) => p.damageMinutes === 0 && p.informationBits >= TELLS_BITS);
  const spared = ranked[0]!.probability < OPENS_FROM && spares.length > 0;
  if (spared) next.sort((a, b) => Number(a.test.kind === 'open') - Number(b.test.kind === 'open'));
  const farFrom = its.symptoms.flatMap(({ place }, k) =>
    place.on !== 'inside' && its.suspects.every((s) => nearness(model, s, place) < FAR) ? [k] : [],
  );
  const first = ranked[0]!;
  const opens = first.probability >= CERTAIN || next[0]?.test.kind === 'open';
  return { ranked, next, farFrom, doesNotFit: misfits(model, its, rows), open: opens ? first.suspect : null };
}
