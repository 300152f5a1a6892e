import { done, type Outcome, refuse } from '../outcome/outcome';

/** Longest span of a board bench without support, mm, by layers with mortar between [common practice, no source]. */
const SPAN_MM = [457.2, 914.4] as const;

/** Whether a bench of so many layers carries its span. */
export interface BenchSpan {
  verdict: 'pass' | 'fail';
  /** Layers that this span needs; null where no number of layers carries it and a support must be built. */
  layersNeeded: number | null;
}

/** Whether a bench of board carries over a span in mm: one layer to 18 in, two to 36 in, nothing beyond without support. */
export function benchSpan({ spanMm, layers }: { spanMm: number; layers: number }): Outcome<BenchSpan> {
  if (!(spanMm > 0)) return refuse('span-not-positive', 'spanMm');
  if (!(Number.isInteger(layers) && layers >= 1)) return refuse('no-layers', 'layers');
  const k = SPAN_MM.findIndex((most) => spanMm <= most + 1e-6);
  const layersNeeded = k < 0 ? null : k + 1;
  return done({ verdict: layersNeeded !== null && layers >= layersNeeded ? 'pass' : 'fail', layersNeeded });
}
