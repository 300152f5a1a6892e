import { drainCentre, flangeLevel, pipeCut } from '@careful-seam/core/floor/flangeLevel';
import type { StageSumKey } from '@careful-seam/core/rules/tools';
import { showLength } from '@careful-seam/core/units/length';
import { choice, drawn, empty, length, type SumWork, spanOf, sumOf } from './stageSum';

/** Directions round a drain. */
const CLOCK = ['back', 'back-right', 'right', 'front-right', 'front', 'front-left', 'left', 'back-left'] as const;

/** Sums of the drain's rough-in. */
export const DRAIN_SUMS = {
  centre: {
    fields: [
      drawn('width', (s) => spanOf(s, 'xMm')),
      drawn('depth', (s) => spanOf(s, 'yMm')),
      length('curb', 4.5),
      length('board', 0.5),
      choice('within', ['before', 'inside']),
    ],
    work: (t, unit, v) =>
      sumOf(
        drainCentre({
          widthMm: v.width![0]!,
          depthMm: v.depth![0]!,
          curbMm: v.curb![0]!,
          curbWithin: v.within![0] === 1,
          boardMm: v.board![0]!,
        }),
        (c) => [
          t('floorSum.centre.at', { x: showLength(c.xMm, unit), y: showLength(c.yMm, unit) }),
          t('floorSum.centre.inner', { width: showLength(c.widthMm, unit), depth: showLength(c.depthMm, unit) }),
        ],
      ),
  },
  flange: {
    fields: [
      empty('leftOverRight'),
      empty('frontOverBack'),
      length('over', 6),
      length('diameter', 6),
      length('limit', 1 / 16),
    ],
    work: (t, unit, v) =>
      sumOf(
        flangeLevel({
          leftOverRightMm: v.leftOverRight![0]!,
          frontOverBackMm: v.frontOverBack![0]!,
          overMm: v.over![0]!,
          diameterMm: v.diameter![0]!,
          limitMm: v.limit![0]!,
        }),
        (f) => [
          t(`floorSum.flange.${f.verdict}`, { out: showLength(f.outMm, unit, 32), tilt: f.tiltDeg.toFixed(1) }),
          ...(f.raiseAtDeg === null
            ? []
            : [
                t('floorSum.flange.raise', {
                  side: t(`floorSum.side.${CLOCK[Math.round(f.raiseAtDeg / 45) % 8]}`),
                  by: showLength(f.raiseMm, unit, 32),
                }),
              ]),
        ],
      ),
  },
  pipe: {
    fields: [empty('ridge'), length('socket', 0), length('reserve', 1 / 8)],
    work: (t, unit, v) =>
      sumOf(pipeCut({ ridgeToFlangeMm: v.ridge![0]!, socketMm: v.socket![0]!, reserveMm: v.reserve![0]! }), (c) => [
        t('floorSum.pipe.first', { cut: showLength(c.firstCutOffMm, unit, 32) }),
        t('floorSum.pipe.then', { cut: showLength(c.cutOffMm, unit, 32) }),
      ]),
  },
  order: {
    fields: [choice('access', ['below', 'none'])],
    work: (t, _unit, v) => ({
      lines: [1, 2, 3, 4].map((step) => t(`floorSum.order.${v.access![0] === 0 ? 'below' : 'none'}.${step}`)),
    }),
  },
} satisfies Partial<Record<StageSumKey, SumWork>>;
