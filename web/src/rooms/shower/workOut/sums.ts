import { builtAs } from '@careful-seam/core/checks/position';
import type { ShowerState } from '@careful-seam/core/log/state';
import { findDisagreement, standingPosition } from '@careful-seam/core/rules/positions';
import type { Bench, Niche, ShowerGeometry } from '@careful-seam/core/shower/geometry/showerGeometry';
import { showLength } from '@careful-seam/core/units/length';
import { benchSpan } from '@careful-seam/core/walls/benchSpan';
import { type CurbCutInput, curbCut } from '@careful-seam/core/walls/curbCut';
import { type NicheLayoutInput, nicheLayout } from '@careful-seam/core/walls/nicheLayout';
import type { TFunction } from 'i18next';
import { problemWords } from '../../../ui/words';

/** Sentences, the first the answer; or what keeps it from being worked out. */
export type Sum = { lines: string[] } | { problem: string };
/** In what lengths are typed and shown. */
type Unit = 'in' | 'mm';

/** Which of the two ways of cutting a curb the firm has: 1/8 in at each end, or in all. */
export function curbGap(state: ShowerState): CurbCutInput['gap'] {
  const { book } = state.rules!;
  const question = findDisagreement(book, 'A39');
  return question && standingPosition(book, question, builtAs(state)) !== 'a' ? 'in-all' : 'each-end';
}

/** The cut of a curb in sentences. */
export function curbSum(t: TFunction, unit: Unit, distancesMm: readonly number[], gap: CurbCutInput['gap']): Sum {
  const cut = curbCut({ distancesMm, gap });
  if (!cut.ok) return { problem: problemWords(cut.problem) };
  const show = (mm: number) => showLength(mm, unit);
  const { cutMm, spreadMm, widestGapMm } = cut.value;
  return {
    lines: [
      t('sum.curbCut', { cut: show(cutMm) }),
      ...(spreadMm > 0.8 ? [t('sum.curbSpread', { spread: show(spreadMm), gap: show(widestGapMm) })] : []),
      t(gap === 'each-end' ? 'sum.curbEach' : 'sum.curbAll'),
    ],
  };
}

/** A niche laid out to its tile in sentences. */
export function nicheSum(t: TFunction, unit: Unit, input: NicheLayoutInput): Sum {
  const laid = nicheLayout(input);
  if (!laid.ok) return { problem: problemWords(laid.problem) };
  const n = laid.value;
  const show = (mm: number) => showLength(mm, unit);
  return {
    lines: [
      t('sum.nicheSill', { sill: show(n.sillMm), head: show(n.sillMm + n.heightMm) }),
      ...(input.fixedSize ? [] : [t('sum.nicheHeight', { count: n.courses, height: show(n.heightMm) })]),
      ...(n.headTileMm === null ? [] : [t('sum.nicheHead', { cut: show(n.headTileMm) })]),
      t('sum.nicheCuts', { left: show(n.leftTileMm), right: show(n.rightTileMm) }),
      ...(n.sliver
        ? [
            t(n.evenShiftMm < 0 ? 'sum.nicheLeft' : 'sum.nicheRight', {
              by: show(Math.abs(n.evenShiftMm)),
              cut: show(n.evenCutMm),
            }),
          ]
        : []),
      t('sum.nicheOpening', { width: show(n.openingWidthMm), height: show(n.openingHeightMm) }),
      ...(n.shelfAtMm === null ? [] : [t('sum.nicheShelf', { at: show(n.shelfAtMm) })]),
      t(n.fitsBetweenStuds ? 'sum.nicheFree' : 'sum.nicheStud'),
      ...(n.pipeInTheWay ? [t('sum.nichePipe')] : []),
    ],
  };
}

/** What a bench's span asks for in sentences. */
export function benchSum(t: TFunction, unit: Unit, spanMm: number, layers: number): Sum {
  const span = benchSpan({ spanMm, layers });
  if (!span.ok) return { problem: problemWords(span.problem) };
  const { layersNeeded, verdict } = span.value;
  if (layersNeeded === null)
    return { lines: [t('sum.benchBeyond', { span: showLength(spanMm, unit) }), t('sum.benchLabel')] };
  return {
    lines: [
      t('sum.benchLayers', { count: layersNeeded, span: showLength(spanMm, unit) }),
      ...(verdict === 'fail' ? [t('sum.benchMore', { count: layersNeeded - layers })] : []),
      ...(layersNeeded > 1 ? [t('sum.benchComb')] : []),
      t('sum.benchLoad'),
      t('sum.benchLabel'),
    ],
  };
}

/** The clear span of a bench between its supports, mm, as it was drawn. */
export function drawnSpanMm(bench: Bench): number {
  const width = bench.kind === 'along' ? bench.widthMm : Math.hypot(bench.legLeftMm, bench.legRightMm);
  return width / ((bench.supports ?? 0) + 1);
}

/** Length of an edge of the footprint, mm. */
export function edgeLengthMm({ footprint }: ShowerGeometry, edge: number): number {
  const [a, b] = [footprint[edge]!, footprint[(edge + 1) % footprint.length]!];
  return Math.hypot(b.xMm - a.xMm, b.yMm - a.yMm);
}

/** Studs at equal distances along a wall, mm: the first one, then one after every spacing. */
export function studsAlong(wallMm: number, firstMm: number, spacingMm: number): number[] {
  if (!(spacingMm > 50)) return [];
  const count = Math.min(60, Math.max(0, Math.floor((wallMm - firstMm) / spacingMm) + 1));
  return Array.from({ length: count }, (_, k) => firstMm + k * spacingMm);
}

/** A niche's place as text for the fields. */
export const nichePlace = (niche: Niche, unit: Unit) => {
  const show = (mm: number) => showLength(mm, unit).replace(/ (in|mm)$/, '');
  return {
    sill: show(niche.sillMm),
    height: show(niche.heightMm),
    width: show(niche.widthMm),
    along: show(niche.alongMm),
  };
};
