import type { StageSumKey } from '@careful-seam/core/rules/tools';
import { showLength } from '@careful-seam/core/units/length';
import { stallFit, studShims } from '@careful-seam/core/walls/stallFit';
import { drawn, empty, length, type SumWork, spanOf, sumOf } from './stageSum';

/** Sums of framing and subfloor: each by what is measured there and what it comes to. */
export const FRAMING_SUMS = {
  studs: {
    fields: [empty('behind', 'lengths'), length('limit', 0.25)],
    work: (t, unit, v) =>
      sumOf(studShims({ behindMm: v.behind!, limitMm: v.limit![0]! }), (s) => [
        t(`floorSum.studs.${s.verdict}`, { stud: s.worstStud + 1, off: showLength(s.worstMm, unit, 32) }),
        t('floorSum.studs.shims', { list: s.shimsMm.map((m, i) => `${i + 1}: ${showLength(m, unit, 32)}`).join('; ') }),
      ]),
  },
  stall: {
    fields: [empty('frames', 'lengths'), empty('pan'), length('least', 1 / 16), length('most', 1 / 8)],
    work: (t, unit, v) =>
      sumOf(stallFit({ framesMm: v.frames!, panMm: v.pan![0]!, leastMm: v.least![0]!, mostMm: v.most![0]! }), (s) => [
        t(`floorSum.stall.${s.verdict}`),
        t('floorSum.stall.gaps', {
          least: showLength(s.leastGapMm, unit, 32),
          most: showLength(s.mostGapMm, unit, 32),
          out: showLength(s.outOfSquareMm, unit, 32),
        }),
      ]),
  },
  gaps: {
    fields: [empty('gaps', 'lengths'), length('edge', 24), length('limit', 1 / 16)],
    work: (t, unit, v) => {
      const [gaps, edge, limit] = [v.gaps!, v.edge![0]!, v.limit![0]!];
      const step = gaps.length > 1 ? edge / (gaps.length - 1) : 0;
      const over = gaps.flatMap((g, i) =>
        g > limit + 1e-6 ? [`${showLength(i * step, unit)}: ${showLength(g, unit, 32)}`] : [],
      );
      const worst = showLength(Math.max(...gaps), unit, 32);
      return {
        lines: [
          t(`floorSum.gaps.${over.length > 0 ? 'fail' : 'pass'}`, { worst, limit: showLength(limit, unit, 32) }),
          ...(over.length > 0 ? [t('floorSum.gaps.fill', { list: over.join('; ') })] : []),
        ],
      };
    },
  },
  span: {
    fields: [length('level', 48), drawn('width', (s) => spanOf(s, 'xMm')), drawn('depth', (s) => spanOf(s, 'yMm'))],
    work: (t, unit, v) => {
      const [level, width, depth] = [v.level![0]!, v.width![0]!, v.depth![0]!];
      const long = Math.max(width, depth);
      const kind = level >= long - 1 ? 'both' : level >= Math.min(width, depth) - 1 ? 'short' : 'none';
      return { lines: [t(`floorSum.span.${kind}`, { long: showLength(long, unit) })] };
    },
  },
  pitch: {
    fields: [empty('corners', 'lengths'), length('most', 3 / 4)],
    work: (t, unit, v) => {
      const [corners, most] = [v.corners!, v.most![0]!];
      const out = Math.max(...corners) - Math.min(...corners);
      const low = corners.indexOf(Math.min(...corners)) + 1;
      const list = corners.map((c, i) => `${i + 1}: ${showLength(Math.max(...corners) - c, unit)}`).join('; ');
      return {
        lines: [
          t('floorSum.pitch.out', { out: showLength(out, unit), low }),
          ...(out <= most + 1e-6
            ? [t('floorSum.pitch.fill', { list })]
            : [t('floorSum.pitch.leave', { most: showLength(most, unit) })]),
        ],
      };
    },
  },
} satisfies Partial<Record<StageSumKey, SumWork>>;
