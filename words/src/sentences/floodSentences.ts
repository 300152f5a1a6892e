import { isWetLook } from '@careful-seam/core/checks/floodReadings';
import { type FloodTest, SHORTFALLS, type Shortfall } from '@careful-seam/core/log/floodTest';
import type { FloodCheck } from '@careful-seam/core/rules/checks/flood';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { LB_PER_KG, US_GALLON_L } from '@careful-seam/core/units/measures';
import type { FloodReason, FloodVerdict } from '@careful-seam/core/water/floodVerdict';
import { leakSize } from '@careful-seam/core/water/leakSize';
import { waterIn } from '@careful-seam/core/water/waterIn';
import type { Words } from '../texts/language';
import { momentWords } from './moments';
import type { ShownUnit } from './sentences';

/** A small change of level: tenths of a millimetre, or hundredths of an inch. */
export function smallLength(mm: number, unit: ShownUnit): string {
  const value = unit === 'mm' ? mm.toFixed(1) : (mm / 25.4).toFixed(2);
  return `${value.replace(/^-(0\.0+)$/, '$1')} ${unit}`;
}

/** Litres, or US gallons. */
export const volumeWords = (litres: number, unit: ShownUnit): string =>
  unit === 'mm' ? `${litres.toFixed(1)} L` : `${(litres / US_GALLON_L).toFixed(1)} gal`;

/** Kilograms, or pounds. */
export const weightWords = (kg: number, unit: ShownUnit): string =>
  unit === 'mm' ? `${Math.round(kg)} kg` : `${Math.round(kg * LB_PER_KG)} lb`;

/** What a flood is told by. */
export interface FloodTelling {
  /** The drawn shower, for the names of its parts. */
  model: ShowerModel;
  /** The flood test that is told. */
  test: FloodTest;
  /** What the rule book asks. */
  check: FloodCheck;
  /** What the readings come to. */
  verdict: FloodVerdict;
  /** In what lengths are told. */
  unit: ShownUnit;
  /** Time zone of the site, by its IANA name. */
  zone: string;
}

/** A place of the rule book, in words. */
const placeLabel = (check: FloodCheck, where: string): string =>
  check.places.find((p) => p.id === where)?.label ?? where;

/** Why it fails, with how large the leak is. */
function failWords(t: Words, { model, test, check, verdict, unit }: FloodTelling): string {
  if (verdict.reasons.includes('moisture-found')) {
    const wet = test.looks.filter(isWetLook);
    return t('flood.say.failMoisture', { where: wet.map((l) => placeLabel(check, l.where)).join('; ') });
  }
  const { leakHeight } = verdict;
  if (leakHeight) {
    const [height, low, high] = [leakHeight.heightMm, leakHeight.lowMm, leakHeight.highMm].map((h) =>
      smallLength(h, unit),
    );
    return t('flood.say.failStopped', { height, low, high });
  }
  const water = waterIn(model, test.waterLineMm);
  const net = verdict.netLossMmPerDay!;
  const size = leakSize({
    lossMmPerHour: net / 24,
    wettedM2: water?.wettedM2 ?? 1,
    headMm: Math.max(1, test.waterLineMm / 2),
  });
  const { litresPerHour, cupsPerDay, holeMm } = size.ok ? size.value : { litresPerHour: 0, cupsPerDay: 0, holeMm: 0 };
  return t('flood.say.fail', {
    net: smallLength(net, unit),
    bound: smallLength(verdict.failBoundMmPerDay!, unit),
    volume: `${(litresPerHour * 24).toFixed(1)} L`,
    cups: Math.round(cupsPerDay),
    hole: smallLength(holeMm, unit),
  });
}

/** Why it is not decided, and what would decide it. */
function openWords(t: Words, { test, verdict, unit, zone }: FloodTelling): string {
  const asked = verdict.questions[0];
  const at = asked && momentWords(test.startMs + asked.atHours * 3_600_000, zone);
  if (asked) return t(`flood.ask.${asked.kind}`, { at, by: smallLength(Math.abs(asked.byMm), unit) });
  if (verdict.highMmPerDay === null) return t(test.series.length > 0 ? 'flood.say.fewLogger' : 'flood.say.few');
  if (verdict.lowMmPerDay === null)
    return t('flood.say.unknownAir', { loss: smallLength(verdict.lossMmPerDay ?? 0, unit) });
  const range = {
    low: smallLength(Math.max(0, verdict.lowMmPerDay), unit),
    high: smallLength(Math.max(0, verdict.highMmPerDay), unit),
  };
  if (test.smallestLeakMmPerDay === null) return t('flood.say.openUnset', range);
  return t('flood.say.open', { ...range, smallest: smallLength(test.smallestLeakMmPerDay, unit) });
}

/** The verdict in one sentence that the owner of the house understands. */
export function floodSentence(t: Words, telling: FloodTelling): string {
  const { verdict, test, unit } = telling;
  if (verdict.verdict === 'fail') return failWords(t, telling);
  if (verdict.verdict === 'undecided') return openWords(t, telling);
  return t(verdict.evaporation.from === 'nothing' ? 'flood.say.passUnknownAir' : 'flood.say.pass', {
    high: smallLength(Math.max(0, verdict.highMmPerDay!), unit),
    smallest: smallLength(test.smallestLeakMmPerDay!, unit),
  });
}

/** Reasons with an advice of their own, the most helpful first. */
const ADVICE: readonly FloodReason[] = [
  'time-not-run',
  'place-not-seen',
  'control-pan',
  'finer-gauge',
  'more-time',
  'more-time-does-not-help',
  'marks-off-line',
  'pan-times-differ',
  'smallest-leak-not-set',
  'step-coarser',
];

/** What holds a decision back and what would bring it, a sentence each. */
export function floodAdvice(t: Words, verdict: FloodVerdict): string[] {
  return verdict.reasons
    .filter((r) => ADVICE.includes(r))
    .map((r) => t(`flood.reason.${r}`, { hours: Math.ceil(verdict.hoursStillNeeded ?? 0) }));
}

/** What the verdict can't tell by itself, as a condition of it; empty where neither pan nor logger bears on it. */
export const floodCondition = (t: Words, verdict: FloodVerdict): string =>
  verdict.evaporation.from === 'pan' ? t('flood.condition') : '';

/** Where the evaporation that was taken off comes from. */
export function airWords(t: Words, verdict: FloodVerdict, unit: ShownUnit): string {
  const { from, mmPerDay, lowMmPerDay, highMmPerDay } = verdict.evaporation;
  const show = (mm: number | null) => smallLength(mm ?? 0, unit);
  return t(`flood.air.${from}`, { mid: show(mmPerDay), low: show(lowMmPerDay), high: show(highMmPerDay) });
}

/** What a test lacks of what the rule book asks, a sentence each; looks and stages of one kind together. */
export function shortfallSentences(
  t: Words,
  short: readonly Shortfall[],
  check: FloodCheck,
  stageLabel: (key: string) => string,
  unit: ShownUnit,
): string[] {
  return SHORTFALLS.flatMap((kind) => {
    const mine = short.filter((s) => s.kind === kind);
    if (mine.length === 0) return [];
    const label = kind === 'layers-missing' ? stageLabel : (where: string) => placeLabel(check, where);
    const where = mine.map((s) => label(s.where ?? '')).join('; ');
    const [{ by }] = mine as [Shortfall];
    return [t(`flood.short.${kind}`, { where, by: kind === 'hours' ? by.toFixed(1) : smallLength(by, unit) })];
  });
}
