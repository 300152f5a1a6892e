import { FT2_PER_M2 } from '../../units/measures';
import { dryOfWet, filmPlausible } from './filmArithmetic';
import type { CoatRecord, FilmRecord } from './filmRecords';
import { type FilmSpots, filmSpots, SPOTS_PER_100_FT2 } from './filmSpots';
import type { FilmZone } from './filmZones';
import { judgeWet } from './wetGauge';

/** Films that a label asks for, µm; null where nobody entered them. */
export interface FilmLimits {
  /** Least dry film, µm; null where the label was not entered. */
  dryLeastUm: number | null;
  /** Greatest dry film, µm. */
  dryMostUm: number | null;
  /** Least wet film of one coat, µm. */
  wetLeastUm: number | null;
  /** Greatest wet film of one coat, µm. */
  wetMostUm: number | null;
  /** Volume solids as a share. */
  solids: number | null;
  /** Share that stays on roller and tray. */
  lossShare: number;
  /** Hours between two coats. */
  recoatHours: number | null;
}

/** Why a zone stands as it does. */
export const FILM_REASONS = [
  'coats-missing',
  'bucket-thin',
  'bucket-thick',
  'bucket-only',
  'gauge-thin',
  'gauge-thick',
  'gauge-between',
  'spots-thin',
  'spots-thick',
  'few-spots',
  'implausible',
  'too-soon',
  'no-limit',
] as const;
/** One of them. */
export type FilmReason = (typeof FILM_REASONS)[number];
/** Reasons that fail; all others leave it undecided. */
const FAILS: readonly FilmReason[] = [
  'coats-missing',
  'bucket-thin',
  'bucket-thick',
  'gauge-thin',
  'gauge-thick',
  'spots-thin',
  'spots-thick',
  'too-soon',
];

/** How a zone stands. */
export type FilmVerdict = 'pass' | 'fail' | 'undecided' | 'unseen';

/** What is known of one zone. Films µm, areas m², volumes L. */
export interface ZoneFilm {
  /** Which zone. */
  zone: FilmZone;
  /** Its area, m². */
  areaM2: number;
  /** Coats that it needs. */
  coatsNeeded: number;
  /** Numbers of the coats that are on. */
  coats: number[];
  /** What went on it, L. */
  volumeL: number;
  /** What that makes on average, wet, µm; null before a coat. */
  meanWetUm: number | null;
  /** The same dry, µm; null where the solids are not known. */
  meanDryUm: number | null;
  /** Product that its mean film lacks of the least; 0 where it has it. */
  missingL: number;
  /** Worst wet gauge reading: the thinnest. */
  thinnestWet: { wettedUm: number; nextUm: number; coat: number } | null;
  /** What the dry spots come to; null without any. */
  spots: FilmSpots | null;
  /** Spots so far. */
  spotsTaken: number;
  /** Spots that its area asks for. */
  spotsWanted: number;
  /** When the last coat went on, ms since 1970; null before one. */
  lastCoatAtMs: number | null;
  /** When the next coat may go on, ms since 1970; null without a coat or a label. */
  nextCoatAtMs: number | null;
  /** How it comes out. */
  verdict: FilmVerdict;
  /** Why. */
  reasons: FilmReason[];
}

/** A film as a whole. */
export interface FilmJudged {
  /** How it comes out. */
  verdict: FilmVerdict;
  /** Zone by zone. */
  zones: ZoneFilm[];
  /** The zone whose mean film is least against its limit, where a bucket was read. */
  thinnest: FilmZone | null;
  /** Product that is still missing in all zones, L. */
  missingL: number;
}

/** An hour, ms. */
const HOUR_MS = 3_600_000;
/** Sums of doubles, µm. */
const SLACK_UM = 0.05;

/** When a coat went on, ms since 1970. */
const atMs = (c: CoatRecord): number => Date.parse(c.doneAt);

/** A coat's share of one zone, L: by area where one bucket did several. */
function shareOf(c: CoatRecord, zone: FilmZone, areas: ReadonlyMap<FilmZone, number>): number {
  const all = c.zones.reduce((sum, z) => sum + (areas.get(z) ?? 0), 0);
  return all > 0 ? (c.volumeL * (areas.get(zone) ?? 0)) / all : 0;
}

/** True where a coat went on before the one under it had its hours. */
function tooSoon(coats: readonly CoatRecord[], recoatHours: number | null): boolean {
  if (recoatHours === null) return false;
  const sorted = [...coats].sort((a, b) => a.coat - b.coat);
  return sorted.some((c, i) => {
    const under = sorted.findLast((b, k) => k < i && b.coat < c.coat);
    return under !== undefined && atMs(c) < atMs(under) + recoatHours * HOUR_MS - 60_000;
  });
}

/** What went on a zone. */
interface Films {
  /** What that makes on average, wet, µm; null before a coat. */
  meanWetUm: number | null;
  /** The same dry, µm; null where the solids are not known. */
  meanDryUm: number | null;
  /** What went on it, L. */
  volumeL: number;
  /** Of each bucket, the mean wet film that it makes here. */
  coatsUm: number[];
}

/** What the coats of a zone come to. */
function filmsOf(
  coats: readonly CoatRecord[],
  zone: FilmZone,
  areas: ReadonlyMap<FilmZone, number>,
  limits: FilmLimits,
): Films {
  const areaM2 = areas.get(zone)!;
  if (coats.length === 0) return { meanWetUm: null, meanDryUm: null, volumeL: 0, coatsUm: [] };
  const kept = 1 - limits.lossShare;
  let [wet, dry, volumeL] = [0, 0, 0];
  const coatsUm: number[] = [];
  for (const c of coats) {
    const product = shareOf(c, zone, areas);
    const thin = c.waterL / c.volumeL;
    const wetUm = ((product * (1 + thin) * kept) / areaM2) * 1000;
    wet += wetUm;
    coatsUm.push(wetUm);
    dry += limits.solids === null ? 0 : dryOfWet(wetUm, limits.solids, thin);
    volumeL += product;
  }
  return { meanWetUm: wet, meanDryUm: limits.solids === null ? null : dry, volumeL, coatsUm };
}

/** What the wet gauge says against it. */
function gaugeReasons(records: readonly FilmRecord[], zone: FilmZone, limits: FilmLimits): FilmReason[] {
  const wet = records.filter((r) => r.of === 'wet' && r.zone === zone) as Extract<FilmRecord, { of: 'wet' }>[];
  const found = wet.map((r) => judgeWet(r, { leastUm: limits.wetLeastUm, mostUm: limits.wetMostUm }));
  const out: FilmReason[] = [];
  if (found.includes('thin')) out.push('gauge-thin');
  if (found.includes('thick')) out.push('gauge-thick');
  if (found.includes('undecided')) out.push('gauge-between');
  return out;
}

/** The thinnest wet reading of the last coat. */
function thinnestWetOf(records: readonly FilmRecord[], zone: FilmZone): ZoneFilm['thinnestWet'] {
  const wet = records.flatMap((r) => (r.of === 'wet' && r.zone === zone ? [r] : []));
  if (wet.length === 0) return null;
  const { wettedUm, nextUm, coat } = wet.reduce((a, b) => (b.wettedUm < a.wettedUm ? b : a));
  return { wettedUm, nextUm, coat };
}

/** Whether a figure of a zone is one that no coat has: a unit was taken for another. */
function isImplausible(records: readonly FilmRecord[], zone: FilmZone, coatsUm: readonly number[]): boolean {
  const read = records.flatMap((r) => {
    if (r.of === 'coat' || r.zone !== zone) return [];
    return r.of === 'wet' ? [r.wettedUm] : r.spotUm;
  });
  return [...read, ...coatsUm].some((um) => !filmPlausible(um, zone).ok);
}

/** Whether a gauge or a cut spot told of every coat: a wet reading in each, or a dry spot of all of them together. */
function wasGauged(records: readonly FilmRecord[], zone: FilmZone, coats: readonly number[]): boolean {
  const wet = new Set(records.flatMap((r) => (r.of === 'wet' && r.zone === zone ? [r.coat] : [])));
  return records.some((r) => r.of === 'dry' && r.zone === zone) || coats.every((coat) => wet.has(coat));
}

/** What the dry spots say against it. */
function spotReasons(spots: FilmSpots | null): FilmReason[] {
  if (!spots) return [];
  return [...(spots.tooThin ? ['spots-thin' as const] : []), ...(spots.tooThick ? ['spots-thick' as const] : [])];
}

/** One zone. */
function judgeZone(
  { zone, coats: coatsNeeded }: { zone: FilmZone; coats: number },
  areas: ReadonlyMap<FilmZone, number>,
  limits: FilmLimits,
  records: readonly FilmRecord[],
): ZoneFilm {
  const areaM2 = areas.get(zone)!;
  const isCorner = zone === 'corners';
  const coats = records.flatMap((r) => (r.of === 'coat' && r.zones.includes(zone) ? [r] : []));
  const numbers = [...new Set(coats.map((c) => c.coat))].sort((a, b) => a - b);
  const { coatsUm, ...films } = filmsOf(coats, zone, areas, limits);
  const dry = records.flatMap((r) => (r.of === 'dry' && r.zone === zone ? [r.spotUm] : []));
  const { dryLeastUm, dryMostUm } = limits;
  const judgedSpots =
    dry.length > 0 && dryLeastUm !== null
      ? filmSpots({ spots: dry, minUm: dryLeastUm, maxUm: dryMostUm ?? 1e6 })
      : null;
  const spots = judgedSpots?.ok ? judgedSpots.value : null;
  const spotsWanted = Math.max(1, Math.ceil((SPOTS_PER_100_FT2 * areaM2 * FT2_PER_M2) / 100 - 1e-9));
  const reasons = gaugeReasons(records, zone, limits);
  if (!isCorner && numbers.length < coatsNeeded) reasons.push('coats-missing');
  const { meanDryUm } = films;
  if (meanDryUm !== null && dryLeastUm !== null && meanDryUm < dryLeastUm - SLACK_UM) reasons.push('bucket-thin');
  if (meanDryUm !== null && dryMostUm !== null && meanDryUm > dryMostUm + SLACK_UM) reasons.push('bucket-thick');
  reasons.push(...spotReasons(spots));
  if (dry.length > 0 && dry.length < spotsWanted && (meanDryUm === null || dryLeastUm === null))
    reasons.push('few-spots');
  if (isImplausible(records, zone, coatsUm)) reasons.push('implausible');
  if (tooSoon(coats, limits.recoatHours)) reasons.push('too-soon');
  if (coats.length > 0 && (dryLeastUm === null || (limits.solids === null && dry.length === 0)))
    reasons.push('no-limit');
  // A bucket says what went on, not where: by itself it proves no coat.
  if (coats.length > 0 && reasons.length === 0 && !wasGauged(records, zone, numbers)) reasons.push('bucket-only');
  const short = meanDryUm !== null && dryLeastUm !== null ? Math.max(0, dryLeastUm - meanDryUm) : 0;
  const nothing = coats.length === 0 && dry.length === 0 && reasons.every((r) => r === 'coats-missing');
  const last = coats.length > 0 ? Math.max(...coats.map(atMs)) : null;
  return {
    zone,
    areaM2,
    coatsNeeded,
    coats: numbers,
    ...films,
    missingL: limits.solids ? (short * areaM2) / 1000 / limits.solids / (1 - limits.lossShare) : 0,
    thinnestWet: thinnestWetOf(records, zone),
    spots,
    spotsTaken: dry.length,
    spotsWanted,
    lastCoatAtMs: last,
    nextCoatAtMs: last !== null && limits.recoatHours !== null ? last + limits.recoatHours * HOUR_MS : null,
    verdict: verdictOf(reasons, nothing, isCorner),
    reasons,
  };
}

/** What some reasons come to. */
function verdictOf(reasons: readonly FilmReason[], nothing: boolean, isCorner: boolean): FilmVerdict {
  if (nothing) return isCorner ? 'pass' : 'unseen';
  if (reasons.some((r) => FAILS.includes(r))) return 'fail';
  return reasons.length > 0 ? 'undecided' : 'pass';
}

/**
 * Judges a liquid film zone by zone: coats counted, mean film from the bucket, wet gauge readings (intervals), dry spots,
 * hours between coats. What was read decides together, the worst first; a zone that nobody read anything of is unseen.
 * A zone of the rule book that the shower hasn't got is left out.
 */
export function judgeFilm(
  zones: readonly { zone: FilmZone; coats: number }[],
  areas: ReadonlyMap<FilmZone, number>,
  limits: FilmLimits,
  records: readonly FilmRecord[],
): FilmJudged {
  const judged = zones.filter((z) => areas.has(z.zone)).map((z) => judgeZone(z, areas, limits, records));
  const worst = (['fail', 'undecided', 'unseen'] as const).find((v) => judged.some((z) => z.verdict === v));
  const measured = judged.filter((z) => z.meanDryUm !== null);
  const thinnest = measured.length > 0 ? measured.reduce((a, b) => (b.meanDryUm! < a.meanDryUm! ? b : a)).zone : null;
  return {
    verdict: worst ?? 'pass',
    zones: judged,
    thinnest,
    missingL: judged.reduce((sum, z) => sum + z.missingL, 0),
  };
}
