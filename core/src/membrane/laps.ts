import { done, type Outcome, refuse } from '../outcome/outcome';
import { clip, type Stretch, subtract, totalMm, union } from '../shower/seams/intervals';

/** A band creased into a corner. */
export interface LapLegInput {
  /** Width of the band, mm. */
  bandWidthMm: number;
  /** Width used up at the change of plane. */
  lossMm: number;
  /** How far its middle lies beside the crease, mm. */
  offCentreMm: number;
}

/** Legs of a creased band: (width − loss) / 2 ± off-centre [common practice, no source]. */
export function lapLeg({ bandWidthMm, lossMm, offCentreMm }: LapLegInput): Outcome<{ legsMm: [number, number] }> {
  const half = (bandWidthMm - lossMm) / 2;
  if (half <= 0) return refuse('loss-over-band', 'lossMm');
  if (Math.abs(offCentreMm) > half) return refuse('band-misses-plane', 'offCentreMm');
  return done({ legsMm: [half + offCentreMm, half - offCentreMm] });
}

/** Readings of one lap along a seam. */
export interface LapVerdictInput {
  /** Length of the seam, mm. */
  lengthMm: number;
  /** The least lap, mm. */
  limitMm: number;
  /** Laps with their places, mm. */
  readings: { atMm: number; lapMm: number }[];
  /** A reading speaks for this many mm to each side. */
  speaksForMm: number;
  /** So many are needed, however short the seam. */
  readingsAtLeast?: number | undefined;
  /** A reading this near to each end is needed, mm. */
  endWithinMm?: number | undefined;
  /** No stretch longer than this without a reading, mm. */
  gapAtMostMm?: number | undefined;
  /** Looks cover what no reading speaks for. */
  lookOnWhole?: boolean | undefined;
}

/** How a lap stands. */
export interface LapVerdict {
  /** A pass needs the whole pattern. */
  verdict: 'pass' | 'fail' | 'undecided';
  /** Lowest reading, mm; null without one. */
  lowestMm: number | null;
  /** Seam that the readings speak for, mm. */
  spokenForMm: number;
  /** Where the next reading helps most, or null when none is needed. */
  nextAtMm: number | null;
}

/** A reading typed as 2 in must meet a limit of 2 in, whatever the last bit of the double says. */
const SLACK_MM = 1e-6;

/** Readings nearer to each other than this are readings of one spot, mm [pinned in the design of records]. */
export const ONE_SPOT_MM = 50;

/** How many spots were read: from the first reading on, the next one that lies far enough from the last that counted. */
export function spotsRead(ats: readonly number[]): number {
  let [count, last] = [0, -Infinity];
  for (const at of [...ats].sort((a, b) => a - b)) {
    if (at - last < ONE_SPOT_MM) continue;
    count += 1;
    last = at;
  }
  return count;
}

/** As many spots as are found on a seam of this length wherever the first of them lie: one, and one more for each 150 mm. */
const spotsPossible = (lengthMm: number): number => Math.floor(lengthMm / (3 * ONE_SPOT_MM)) + 1;

/** The widest gap between two readings, mm; null for fewer than two. */
function widestGap(ats: readonly number[]): { from: number; to: number } | null {
  let widest: { from: number; to: number } | null = null;
  for (let i = 0; i + 1 < ats.length; i += 1) {
    const gap = { from: ats[i]!, to: ats[i + 1]! };
    if (!widest || gap.to - gap.from > widest.to - widest.from) widest = gap;
  }
  return widest;
}

/** Where the pattern asks for the next reading, mm; null where it asks for none. */
function nextByPattern(input: LapVerdictInput, ats: readonly number[]): number | null {
  const { lengthMm, endWithinMm, gapAtMostMm, readingsAtLeast } = input;
  const end = endWithinMm ?? input.speaksForMm;
  const near = Math.min(end, lengthMm / 2);
  if (ats.length === 0) return near;
  if (endWithinMm !== undefined && ats[0]! > endWithinMm) return near;
  if (endWithinMm !== undefined && ats.at(-1)! < lengthMm - endWithinMm) return lengthMm - near;
  const gap = widestGap(ats);
  if (gap && gapAtMostMm !== undefined && gap.to - gap.from > gapAtMostMm) {
    const parts = Math.ceil((gap.to - gap.from) / gapAtMostMm);
    return gap.from + (gap.to - gap.from) / parts;
  }
  const wanted = Math.min(readingsAtLeast ?? 0, spotsPossible(lengthMm));
  return spotsRead(ats) < wanted ? widestFree(ats, lengthMm) : null;
}

/** The middle of the widest stretch without a reading; an end where that lies as far from the next one. */
function widestFree(ats: readonly number[], lengthMm: number): number {
  const gap = widestGap(ats);
  const choices = [
    ...(gap ? [{ at: (gap.from + gap.to) / 2, room: (gap.to - gap.from) / 2 }] : []),
    { at: 0, room: ats[0] ?? Infinity },
    { at: lengthMm, room: lengthMm - (ats.at(-1) ?? -Infinity) },
  ];
  if (ats.length === 0) return lengthMm / 2;
  return choices.reduce((a, b) => (b.room > a.room + SLACK_MM ? b : a)).at;
}

/** The middle of the widest stretch that no reading speaks for, mm. */
function nextUnspoken(spoken: readonly Stretch[], input: LapVerdictInput): number | null {
  const [first] = subtract([{ fromMm: 0, toMm: input.lengthMm }], spoken);
  return first ? Math.min(first.fromMm + input.speaksForMm, (first.fromMm + first.toMm) / 2) : null;
}

/**
 * Judges a lap by its readings: the lowest decides; a pass also needs the pattern asked for (count, ends, gaps, a look
 * over the whole), or without a pattern the full length spoken for.
 */
export function lapVerdict(input: LapVerdictInput): Outcome<LapVerdict> {
  const { lengthMm, limitMm, readings, speaksForMm, lookOnWhole } = input;
  const stray = readings.findIndex((r) => r.atMm < 0 || r.atMm > lengthMm + SLACK_MM);
  if (stray >= 0) return refuse('reading-past-seam', `readings.${stray}.atMm`);
  const ats = readings.map((r) => r.atMm).sort((a, b) => a - b);
  const lowestMm = readings.length > 0 ? Math.min(...readings.map((r) => r.lapMm)) : null;
  const spoken = union(ats.map((at) => clip({ fromMm: at - speaksForMm, toMm: at + speaksForMm }, lengthMm)));
  const spokenForMm = totalMm(spoken);
  const asksPattern = [input.readingsAtLeast, input.endWithinMm, input.gapAtMostMm, lookOnWhole].some(
    (x) => x !== undefined,
  );
  const nextAtMm = asksPattern ? nextByPattern(input, ats) : nextUnspoken(spoken, input);
  const short = lowestMm !== null && lowestMm < limitMm - SLACK_MM;
  const complete = readings.length > 0 && nextAtMm === null && lookOnWhole !== false;
  return done({ verdict: short ? 'fail' : complete ? 'pass' : 'undecided', lowestMm, spokenForMm, nextAtMm });
}

/** How much a lap may change along a seam, mm a metre: a band that was laid by hand [common practice, no source]. */
const WANDER_MM_PER_M = 15;

/**
 * Where a lap is known the least once its pattern is met: the place whose lap between its neighbours, less what a band may
 * wander on the way from the nearest of them, comes lowest against the limit. Null without a reading. [own arithmetic]
 */
export function weakestPlace(
  readings: readonly { atMm: number; lapMm: number }[],
  lengthMm: number,
): { atMm: number; perhapsMm: number } | null {
  const sorted = [...readings].sort((a, b) => a.atMm - b.atMm);
  if (sorted.length === 0) return null;
  const ends = [
    { ...sorted[0]!, atMm: 0, known: sorted[0]!.atMm },
    { ...sorted.at(-1)!, atMm: lengthMm, known: lengthMm - sorted.at(-1)!.atMm },
  ];
  const middles = sorted.slice(1).map((b, i) => {
    const a = sorted[i]!;
    return { atMm: (a.atMm + b.atMm) / 2, lapMm: (a.lapMm + b.lapMm) / 2, known: (b.atMm - a.atMm) / 2 };
  });
  const guesses = [...ends, ...middles].map(({ atMm, lapMm, known }) => ({
    atMm,
    perhapsMm: lapMm - (WANDER_MM_PER_M * known) / 1000,
  }));
  return guesses.reduce((a, b) => (b.perhapsMm < a.perhapsMm - 1e-9 ? b : a));
}

/** How far a seam has been read by its check: its pattern, and what every reading of it speaks for. */
export type Pattern = Pick<LapVerdictInput, 'speaksForMm' | 'readingsAtLeast' | 'endWithinMm' | 'gapAtMostMm'>;
/** No pattern asks for more places than this on one seam. */
const PLACES_AT_MOST = 400;

/** Where a pattern still wants readings along a seam of a length, given those that were taken, mm, one after the other. */
export function patternPlaces(lengthMm: number, pattern: Pattern, taken: readonly number[] = []): number[] {
  const wanted: number[] = [];
  for (let k = 0; k < PLACES_AT_MOST; k += 1) {
    const readings = [...taken, ...wanted].map((atMm) => ({ atMm: Math.min(atMm, lengthMm), lapMm: 1 }));
    const found = lapVerdict({ lengthMm, limitMm: 0, readings, ...pattern, lookOnWhole: true });
    const next = found.ok ? found.value.nextAtMm : null;
    if (next === null) return wanted;
    wanted.push(next);
  }
  return wanted;
}

/** The stretch each reading speaks for: its reach, clipped at the ends and half-way to its neighbours. */
export function spokenStretches(ats: readonly number[], speaksForMm: number, lengthMm: number): Stretch[] {
  const places = [...new Set(ats)].sort((a, b) => a - b);
  const place = new Map(places.map((at, k) => [at, k]));
  return ats.map((at) => {
    const k = place.get(at)!;
    const before = k === 0 ? 0 : (places[k - 1]! + at) / 2;
    const after = k === places.length - 1 ? lengthMm : (places[k + 1]! + at) / 2;
    return { fromMm: Math.max(0, at - speaksForMm, before), toMm: Math.min(lengthMm, at + speaksForMm, after) };
  });
}
