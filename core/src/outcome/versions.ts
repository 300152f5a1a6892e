/** Calculations that have changed so that the same input may give another verdict. All others are at version 1. */
export const CHANGED: Readonly<Record<string, { version: string; until: Readonly<Record<string, string>> }>> = {
  // Until when a tablet may still have judged by an older one: a session works offline for 7 days.
  'flood-verdict': { version: '2', until: { '1': '2026-12-12T00:00:00.000Z' } },
  'lap-verdict': { version: '2', until: { '1': '2026-12-12T00:00:00.000Z' } },
};

/** The version of a calculation by its name in the catalogue. */
export const versionOf = (name: string): string => CHANGED[name]?.version ?? '1';

/** All calculations of the catalogue, by their names. One that is not listed here does not compile there. */
export const CALCULATION_NAMES = [
  'length-parse',
  'shower-model',
  'fall-design',
  'lap-leg',
  'lap-verdict',
  'fastener-grid',
  'bench-span',
  'board-layout',
  'curb-cut',
  'niche-layout',
  'flatness',
  'fall-survey',
  'ponding',
  'mortar-bed',
  'mortar-mix',
  'tray-cut',
  'flange-level',
  'pipe-cut',
  'stall-fit',
  'stud-shims',
  'drain-centre',
  'air',
  'evaporation',
  'flood-volume',
  'flood-verdict',
  'flood-plan',
  'fill-time',
  'leak-size',
  'leak-height',
  'layer-stack',
  'band-plan',
  'sampling-plan',
  'film-from-volume',
  'film-needed',
  'film-spots',
  'primer-mix',
  'cure-age',
  'cure-time',
  'drying-time',
  'liner-width',
  'board-cut',
  'cut-rolls',
  'rate-interval',
  'share-interval',
  'two-rates',
  'before-after',
  'false-discovery',
  'funnel',
  'u-chart',
  'pareto',
  'escape-matrix',
  'time-to-fix',
  'kappa',
  'where-to-look',
  'shower-plan',
  'least-days',
  'day-route',
  'trace-rank',
  'trace-next',
  'trace-wets',
  'water-paths',
] as const;
/** One of them. */
export type CalculationName = (typeof CALCULATION_NAMES)[number];

/** Versions of all calculations, as a release stores them. */
export function calculationVersions(): Record<string, string> {
  return Object.fromEntries(CALCULATION_NAMES.map((name) => [name, versionOf(name)]));
}
