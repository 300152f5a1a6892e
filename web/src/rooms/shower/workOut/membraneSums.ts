import { bandPlan } from '@careful-seam/core/membrane/bandPlan';
import { primerMix } from '@careful-seam/core/membrane/film/filmArithmetic';
import { linerWidth } from '@careful-seam/core/membrane/linerWidth';
import { USUAL_LAP_MM } from '@careful-seam/core/membrane/usualLap';
import type { StageSumKey } from '@careful-seam/core/rules/tools';
import { showLength } from '@careful-seam/core/units/length';
import { FT2_PER_M2, US_GALLON_L } from '@careful-seam/core/units/measures';
import { boardCut } from '@careful-seam/core/walls/boardCut';
import { bucketWords } from '@careful-seam/words/sentences/filmWords';
import { choice, drawn, empty, figure, length, planOf, type SumWork, spanOf, sumOf } from './stageSum';

/** Coverage as typed (square feet a gallon, or square metres a litre), m² per L. */
const coverage = (figureTyped: number, unit: 'in' | 'mm'): number =>
  unit === 'in' ? figureTyped / FT2_PER_M2 / US_GALLON_L : figureTyped;

/** Sums of boards, liner, bands and primer. */
export const MEMBRANE_SUMS = {
  liner: {
    fields: [
      drawn('width', (s) => spanOf(s, 'xMm')),
      drawn('depth', (s) => spanOf(s, 'yMm')),
      length('turnUp', 7),
      length('overCurb', 16),
    ],
    work: (t, unit, v) =>
      sumOf(
        linerWidth({
          openingWidthMm: v.width![0]!,
          openingDepthMm: v.depth![0]!,
          turnUpMm: v.turnUp![0]!,
          overCurbMm: v.overCurb![0]!,
        }),
        (l) => {
          const show = (mm: number) => showLength(mm, unit);
          return [
            t(l.shortMm > 0 ? 'floorSum.liner.short' : 'floorSum.liner.roll', {
              roll: show(l.rollMm),
              across: show(l.acrossMm),
              along: show(l.alongMm),
              short: show(l.shortMm),
              seam: show(l.seamAtMm ?? 0),
            }),
            ...(l.shortMm > 0 ? [] : [t('floorSum.liner.turnUp', { up: show(l.turnUpGivenMm) })]),
            t(l.turned ? 'floorSum.liner.turned' : 'floorSum.liner.straight'),
          ];
        },
      ),
  },
  board: {
    fields: [
      empty('top'),
      empty('bottom'),
      length('height', 60),
      length('board', 0.5),
      choice('neighbours', ['none', 'one', 'two']),
      length('groove', 0),
      length('headroom', 0),
      length('valveFrom', 0),
      length('valveOver', 0),
    ],
    work: (t, unit, v) =>
      sumOf(
        boardCut({
          topMm: v.top![0]!,
          bottomMm: v.bottom![0]!,
          heightMm: v.height![0]!,
          boardMm: v.board![0]!,
          neighbours: v.neighbours![0]!,
          grooveMm: v.groove![0]!,
          headroomMm: v.headroom![0]!,
          ...(v.valveFrom![0]! > 0 ? { valve: { fromCornerMm: v.valveFrom![0]!, overPanMm: v.valveOver![0]! } } : {}),
        }),
        (c) => [
          t('floorSum.board.cut', {
            top: showLength(c.topMm, unit),
            bottom: showLength(c.bottomMm, unit),
            height: showLength(c.heightMm, unit),
          }),
          ...(c.taper ? [t('floorSum.board.taper')] : []),
          ...(c.hole
            ? [
                t('floorSum.board.hole', {
                  edge: showLength(c.hole.fromEdgeMm, unit),
                  foot: showLength(c.hole.fromFootMm, unit),
                }),
              ]
            : []),
        ],
      ),
  },
  band: {
    fields: [
      length('width', 5),
      length('loss', 1 / 8),
      length('off', 0),
      length('edgeA', 0),
      length('edgeB', 0),
      length('corner', 2.125),
      length('stop', 1 / 8),
    ],
    work: (t, unit, v) =>
      sumOf(
        bandPlan({
          bandWidthMm: v.width![0]!,
          lossMm: v.loss![0]!,
          offCentreMm: v.off![0]!,
          otherEdgeMm: [v.edgeA![0]!, v.edgeB![0]!],
          cornerLegMm: v.corner![0]!,
          stopShortMm: v.stop![0]!,
          limitMm: USUAL_LAP_MM,
        }),
        (b) => {
          const show = (mm: number) => showLength(mm, unit);
          return [
            t(`floorSum.band.${b.verdict}`, { a: show(b.lapsMm[0]), b: show(b.lapsMm[1]), corner: show(b.onCornerMm) }),
            t('floorSum.band.legs', { a: show(b.legsMm[0]), b: show(b.legsMm[1]) }),
            b.roomMm >= 0
              ? t('floorSum.band.room', { room: show(b.roomMm), stop: show(Math.max(0, b.stopAtMostMm)) })
              : t('floorSum.band.narrow', { by: show(-2 * b.roomMm) }),
          ];
        },
      ),
  },
  primer: {
    fields: [
      {
        key: 'area',
        kind: 'figure',
        start: (state, unit) => {
          const wallMm = planOf(state).edges.reduce((sum, e) => sum + ('heightMm' in e ? e.heightMm : 0), 0);
          const m2 = state
            .geometry!.model.faces.filter((f) => f.kind === 'wall' || f.kind === 'floor')
            .reduce((sum, f) => sum + f.areaMm2 / 1e6, 0);
          return wallMm > 0 ? (unit === 'in' ? m2 * FT2_PER_M2 : m2).toFixed(1) : '';
        },
      },
      { key: 'coverage', kind: 'figure', start: (_, unit) => (unit === 'in' ? '250' : '6') },
      figure('parts', '4'),
    ],
    work: (t, unit, v) =>
      sumOf(
        primerMix({
          areaM2: unit === 'in' ? v.area![0]! / FT2_PER_M2 : v.area![0]!,
          coverageM2PerL: coverage(v.coverage![0]!, unit),
          waterParts: v.parts![0]!,
        }),
        (p) => [
          t('floorSum.primer.mix', {
            product: bucketWords(p.productL, unit),
            water: bucketWords(p.waterL, unit),
            mix: bucketWords(p.mixL, unit),
          }),
          t('floorSum.primer.label'),
        ],
      ),
  },
} satisfies Partial<Record<StageSumKey, SumWork>>;
