import { drainCentre, flangeLevel, pipeCut } from '@careful-seam/core/drain/flangeLevel';
import { stallFit, studShims } from '@careful-seam/core/framing/stallFit';
import { FRAME_MM, grateStack } from '@careful-seam/core/grate/grateStack';
import { mortarBed, mortarMix } from '@careful-seam/core/mortar/mortarBed';
import type { ShowerState } from '@careful-seam/core/proof/state';
import { type TraySide, trayCut } from '@careful-seam/core/tray/trayCut';
import { TROWEL_JOBS, trowelFor } from '@careful-seam/core/trowel/trowel';
import { showLength } from '@careful-seam/core/units/length';
import type { TFunction } from 'i18next';
import { GRID_SIDE } from './ContactGrid';
import { readMany } from './lengths';
import type { Sum } from './sums';

type Unit = 'in' | 'mm';

/** A field of a sum: one length, several, or a plain figure. */
interface SumField {
  key: string;
  kind: 'length' | 'lengths' | 'figure' | 'choice' | 'grid';
  /** What may be chosen; the figure is the choice's place. */
  options?: readonly string[];
  start: (state: ShowerState, unit: Unit) => string;
}

export interface FloorSum {
  key: string;
  stage: string;
  fields: SumField[];
  work: (t: TFunction, unit: Unit, values: Record<string, number[]>, state: ShowerState) => Sum;
}

const bare = (mm: number, unit: Unit): string => showLength(mm, unit).replace(/ (in|mm)$/, '');
const length = (key: string, inches: number): SumField => ({
  key,
  kind: 'length',
  start: (_, unit) => bare(inches * 25.4, unit),
});
const empty = (key: string, kind: SumField['kind'] = 'length'): SumField => ({ key, kind, start: () => '' });
const figure = (key: string, value: string): SumField => ({ key, kind: 'figure', start: () => value });
const choice = (key: string, options: readonly string[]): SumField => ({
  key,
  kind: 'choice',
  options,
  start: () => '0',
});
const planOf = (state: ShowerState) => state.geometry!.model.geometry;
const spanOf = (state: ShowerState, axis: 'xMm' | 'yMm'): number => {
  const list = planOf(state).footprint.map((p) => p[axis]);
  return Math.max(...list) - Math.min(...list);
};
const drawn = (key: string, of: (state: ShowerState) => number): SumField => ({
  key,
  kind: 'length',
  start: (state, unit) => bare(of(state), unit),
});

const CLOCK = ['back', 'back-right', 'right', 'front-right', 'front', 'front-left', 'left', 'back-left'] as const;
const FT3_L = 28.316846592;
const LB_KG = 0.45359237;
const GALLON_L = 3.785411784;

/** A sum's answer as sentences, or what refused it. */
function told<T>(
  found: { ok: true; value: T } | { ok: false; problem: { message: string } },
  say: (value: T) => string[],
): Sum {
  return found.ok ? { lines: say(found.value) } : { problem: found.problem.message };
}

const SIDES: readonly TraySide[] = ['left', 'right', 'front', 'back'];

/** Sums of the floor's stages: each by what is measured there and what it comes to. */
export const FLOOR_SUMS: readonly FloorSum[] = [
  {
    key: 'studs',
    stage: 'framing',
    fields: [empty('behind', 'lengths'), length('limit', 0.25)],
    work: (t, unit, v) =>
      told(studShims({ behindMm: v.behind!, limitMm: v.limit![0]! }), (s) => [
        t(`floorSum.studs.${s.verdict}`, { stud: s.worstStud + 1, off: showLength(s.worstMm, unit, 32) }),
        t('floorSum.studs.shims', { list: s.shimsMm.map((m, i) => `${i + 1}: ${showLength(m, unit, 32)}`).join('; ') }),
      ]),
  },
  {
    key: 'stall',
    stage: 'framing',
    fields: [empty('frames', 'lengths'), empty('pan'), length('least', 1 / 16), length('most', 1 / 8)],
    work: (t, unit, v) =>
      told(stallFit({ framesMm: v.frames!, panMm: v.pan![0]!, leastMm: v.least![0]!, mostMm: v.most![0]! }), (s) => [
        t(`floorSum.stall.${s.verdict}`),
        t('floorSum.stall.gaps', {
          least: showLength(s.leastGapMm, unit, 32),
          most: showLength(s.mostGapMm, unit, 32),
          out: showLength(s.outOfSquareMm, unit, 32),
        }),
      ]),
  },
  {
    key: 'gaps',
    stage: 'subfloor',
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
  {
    key: 'span',
    stage: 'subfloor',
    fields: [length('level', 48), drawn('width', (s) => spanOf(s, 'xMm')), drawn('depth', (s) => spanOf(s, 'yMm'))],
    work: (t, unit, v) => {
      const [level, width, depth] = [v.level![0]!, v.width![0]!, v.depth![0]!];
      const long = Math.max(width, depth);
      const kind = level >= long - 1 ? 'both' : level >= Math.min(width, depth) - 1 ? 'short' : 'none';
      return { lines: [t(`floorSum.span.${kind}`, { long: showLength(long, unit) })] };
    },
  },
  {
    key: 'pitch',
    stage: 'subfloor',
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
  {
    key: 'centre',
    stage: 'drain-rough-in',
    fields: [
      drawn('width', (s) => spanOf(s, 'xMm')),
      drawn('depth', (s) => spanOf(s, 'yMm')),
      length('curb', 4.5),
      length('board', 0.5),
      choice('within', ['before', 'inside']),
    ],
    work: (t, unit, v) =>
      told(
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
  {
    key: 'flange',
    stage: 'drain-rough-in',
    fields: [
      empty('leftOverRight'),
      empty('frontOverBack'),
      length('over', 6),
      length('diameter', 6),
      length('limit', 1 / 16),
    ],
    work: (t, unit, v) =>
      told(
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
  {
    key: 'pipe',
    stage: 'drain-rough-in',
    fields: [empty('ridge'), length('socket', 0.75), length('reserve', 1 / 8)],
    work: (t, unit, v) =>
      told(pipeCut({ ridgeToFlangeMm: v.ridge![0]!, socketMm: v.socket![0]!, reserveMm: v.reserve![0]! }), (c) => [
        t('floorSum.pipe.first', { cut: showLength(c.firstCutMm, unit, 32) }),
        t('floorSum.pipe.then', { cut: showLength(c.cutMm, unit, 32) }),
      ]),
  },
  {
    key: 'tray',
    stage: 'base',
    fields: [
      drawn('width', (s) => spanOf(s, 'xMm')),
      drawn('depth', (s) => spanOf(s, 'yMm')),
      drawn('drainX', (s) => planOf(s).drain.xMm),
      drawn('drainY', (s) => planOf(s).drain.yMm),
      empty('trayWidth'),
      empty('trayDepth'),
      length('rim', 0.75),
      length('gap', 1 / 8),
    ],
    work: (t, unit, v) =>
      told(
        trayCut({
          opening: { widthMm: v.width![0]!, depthMm: v.depth![0]! },
          drain: { xMm: v.drainX![0]!, yMm: v.drainY![0]! },
          tray: {
            widthMm: v.trayWidth![0]!,
            depthMm: v.trayDepth![0]!,
            xMm: v.trayWidth![0]! / 2,
            yMm: v.trayDepth![0]! / 2,
          },
          flatRimMm: v.rim![0]!,
          gapMm: v.gap![0]!,
          fall: 0.25 / 12,
        }),
        (c) => [
          t('floorSum.tray.cuts', {
            list: SIDES.map((s) => `${t(`floorSum.side.${s}`)} ${showLength(Math.max(0, c.cutsMm[s]), unit)}`).join(
              ', ',
            ),
          }),
          t('floorSum.tray.rims', {
            list: SIDES.map((s) => `${t(`floorSum.side.${s}`)} ${showLength(c.rimsMm[s], unit)}`).join(', '),
          }),
          t(c.level ? 'floorSum.tray.level' : 'floorSum.tray.notLevel'),
          ...(c.notchAgain.length > 0
            ? [t('floorSum.tray.notch', { list: c.notchAgain.map((s) => t(`floorSum.side.${s}`)).join(', ') })]
            : []),
          ...(c.short.length > 0
            ? [t('floorSum.tray.short', { list: c.short.map((s) => t(`floorSum.side.${s}`)).join(', ') })]
            : []),
          ...(c.slivers.length > 0
            ? [t('floorSum.tray.sliver', { list: c.slivers.map((s) => t(`floorSum.side.${s}`)).join(', ') })]
            : []),
        ],
      ),
  },
  {
    key: 'panLevel',
    stage: 'base',
    fields: [empty('sides', 'lengths'), length('limit', 1 / 16)],
    work: (t, unit, v) => {
      const [sides, limit] = [v.sides!, v.limit![0]!];
      if (sides.length !== 4) return { problem: t('floorSum.panLevel.four') };
      const out = Math.max(...sides) - Math.min(...sides);
      const low = SIDES[sides.indexOf(Math.min(...sides))]!;
      return {
        lines: [
          t(`floorSum.panLevel.${out > limit + 1e-6 ? 'fail' : 'pass'}`, {
            out: showLength(out, unit, 32),
            side: t(`floorSum.side.${low}`),
          }),
          t('floorSum.panLevel.each', {
            list: SIDES.map(
              (s, i) => `${t(`floorSum.side.${s}`)} ${showLength(Math.max(...sides) - sides[i]!, unit, 32)}`,
            ).join(', '),
          }),
        ],
      };
    },
  },
  ...(['base', 'membrane', 'tile'] as const).map(
    (stage): FloorSum => ({
      key: 'trowel',
      stage,
      fields: [choice('job', TROWEL_JOBS), length('notch', 1 / 4), length('tile', 12)],
      work: (t, unit, v) => {
        const job = TROWEL_JOBS[v.job![0]!]!;
        const found = trowelFor(job, v.notch![0]!, v.tile![0]!);
        const [least, most] = [found.leastMm, found.mostMm].map((mm) => showLength(mm, unit, 32));
        return { lines: [t(`floorSum.trowel.${found.verdict}`, { least, most }), t('floorSum.trowel.label')] };
      },
    }),
  ),
  ...(['base', 'tile'] as const).map(
    (stage): FloorSum => ({
      key: 'contact',
      stage,
      fields: [
        { key: 'bare', kind: 'grid', start: () => '' },
        choice('what', stage === 'base' ? ['bedded', 'tile'] : ['tile', 'bedded']),
      ],
      work: (t, _unit, v) => {
        const percent = Math.round(1000 * (1 - v.bare!.length / (GRID_SIDE * GRID_SIDE))) / 10;
        const first = v.what![0] === 0;
        const atLeast = (stage === 'base') === first ? 100 : 95;
        return {
          lines: [
            t(`floorSum.contact.${percent >= atLeast ? 'pass' : 'fail'}`, { percent, atLeast }),
            t('floorSum.contact.source'),
          ],
        };
      },
    }),
  ),
  {
    key: 'order',
    stage: 'drain-rough-in',
    fields: [choice('access', ['below', 'none'])],
    work: (t, _unit, v) => ({
      lines: [1, 2, 3, 4].map((step) => t(`floorSum.order.${v.access![0] === 0 ? 'below' : 'none'}.${step}`)),
    }),
  },
  {
    key: 'grate',
    stage: 'tile',
    fields: [length('tile', 3 / 8), length('mortar', 1 / 2), length('frame', FRAME_MM / 25.4)],
    work: (t, unit, v) =>
      told(grateStack({ tileMm: v.tile![0]!, mortarMm: v.mortar![0]!, frameMm: v.frame![0]! }), (g) => [
        t(`floorSum.grate.${g.parts}`, { spacer: showLength(Math.max(0, g.spacerMm), unit) }),
        t('floorSum.grate.offset'),
      ]),
  },
  {
    key: 'bed',
    stage: 'base',
    fields: [
      length('thickness', 0.5),
      drawn('rise', (s) => planOf(s).perimeterRiseMm ?? 19),
      figure('sand', '4'),
      figure('bagLb', '60'),
      figure('spare', '10'),
    ],
    work: (t, unit, v, state) => {
      const { footprint, drain } = planOf(state);
      const bed = mortarBed({
        footprint,
        drain: { xMm: drain.xMm, yMm: drain.yMm },
        thicknessAtDrainMm: v.thickness![0]!,
        riseMm: v.rise![0]!,
      });
      if (!bed.ok) return { problem: bed.problem.message };
      const mix = mortarMix({
        volumeL: bed.value.volumeL,
        sandParts: v.sand![0]!,
        shrinkShare: 0.2,
        bulkKgPerL: 1.6,
        bagKg: v.bagLb![0]! * LB_KG,
        waterLPerKg: 0.1,
        spareShare: v.spare![0]! / 100,
      });
      const volume = (l: number) => (unit === 'in' ? `${(l / FT3_L).toFixed(2)} ft³` : `${l.toFixed(1)} L`);
      return told(mix, (m) => [
        t('floorSum.bed.mean', {
          mean: showLength(bed.value.meanMm, unit),
          least: showLength(bed.value.leastMm, unit),
          volume: volume(bed.value.volumeL),
        }),
        t('floorSum.bed.bags', { count: m.bags, last: Math.round(m.lastBagShare * 100) }),
        t('floorSum.bed.mix', { sand: volume(m.sandL), cement: volume(m.cementL) }),
        t('floorSum.bed.water', {
          water: unit === 'in' ? `${(m.waterL / GALLON_L).toFixed(1)} gal` : `${m.waterL.toFixed(1)} L`,
        }),
        t('floorSum.bed.source'),
      ]);
    },
  },
];

/** What is typed into a sum as figures; lengths may be below zero where they say which side is lower. */
export function readSum(
  sum: FloorSum,
  typed: Record<string, string>,
  unit: Unit,
): { values: Record<string, number[]> } | { field: string; problem: string } {
  const values: Record<string, number[]> = {};
  for (const { key, kind } of sum.fields) {
    const text = (typed[key] ?? '').trim();
    if (kind === 'grid') {
      values[key] = text === '' ? [] : text.split(';').map(Number);
      continue;
    }
    if (text === '') return { field: key, problem: '' };
    if (kind === 'figure' || kind === 'choice') {
      const value = Number(text.replace(',', '.'));
      if (!Number.isFinite(value) || value < 0) return { field: key, problem: text };
      values[key] = [value];
      continue;
    }
    const parts = text.split(/[;\n]/).filter((p) => p.trim() !== '');
    const read = parts.map((p) => {
      const sign = /^[-−]/.test(p.trim()) ? -1 : 1;
      const one = readMany(p.trim().replace(/^[-−]/, ''), unit);
      return 'problem' in one ? one : sign * one[0]!;
    });
    const wrong = read.find((r) => typeof r !== 'number');
    if (wrong !== undefined) return { field: key, problem: (wrong as { problem: string }).problem };
    values[key] = read as number[];
  }
  return { values };
}
