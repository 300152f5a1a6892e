import { FRAME_MM, grateStack } from '@careful-seam/core/floor/grateStack';
import { mortarBed, mortarMix } from '@careful-seam/core/floor/mortarBed';
import { type TraySide, trayCut } from '@careful-seam/core/floor/trayCut';
import { TROWEL_JOBS, trowelFor } from '@careful-seam/core/membrane/trowel';
import type { StageSumKey } from '@careful-seam/core/rules/tools';
import { showLength } from '@careful-seam/core/units/length';
import { LB_PER_KG, US_GALLON_L } from '@careful-seam/core/units/measures';
import { mortarWords } from '../../../shared/volumes';
import { problemWords } from '../../../ui/words';
import { GRID_SIDE } from './ContactGrid';
import { choice, drawn, empty, figure, length, planOf, type SumWork, spanOf, sumOf } from './stageSum';

/** The sides of a tray. */
const SIDES: readonly TraySide[] = ['left', 'right', 'front', 'back'];

/** Percent of contact that a layer needs: a bedded panel all of it, a tile in a shower 95 [common practice, no source]. */
const CONTACT_AT_LEAST = { bedded: 100, tile: 95 } as const;
/** What was lifted. */
type Lifted = keyof typeof CONTACT_AT_LEAST;

/** How much of a lifted piece has contact, counted on a grid; the piece that is usual at the stage comes first. */
const contact = (first: Lifted, second: Lifted): SumWork => ({
  words: 'contact',
  fields: [{ key: 'bare', kind: 'grid', start: () => '' }, choice('what', [first, second])],
  work: (t, _unit, v) => {
    const percent = Math.round(1000 * (1 - v.bare!.length / (GRID_SIDE * GRID_SIDE))) / 10;
    const atLeast = CONTACT_AT_LEAST[v.what![0] === 0 ? first : second];
    return {
      lines: [
        t(`floorSum.contact.${percent >= atLeast ? 'pass' : 'fail'}`, { percent, atLeast }),
        t('floorSum.contact.source'),
      ],
    };
  },
});

/** Sums of the base and of the tile that goes on it. */
export const BASE_SUMS = {
  tray: {
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
      sumOf(
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
  panLevel: {
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
  trowel: {
    fields: [choice('job', TROWEL_JOBS), length('notch', 1 / 4), length('tile', 12)],
    work: (t, unit, v) => {
      const job = TROWEL_JOBS[v.job![0]!]!;
      const found = trowelFor(job, v.notch![0]!, v.tile![0]!);
      const [least, most] = [found.leastMm, found.mostMm].map((mm) => showLength(mm, unit, 32));
      return { lines: [t(`floorSum.trowel.${found.verdict}`, { least, most }), t('floorSum.trowel.label')] };
    },
  },
  contactBedded: contact('bedded', 'tile'),
  contactTile: contact('tile', 'bedded'),
  grate: {
    fields: [length('tile', 3 / 8), length('mortar', 1 / 2), length('frame', FRAME_MM / 25.4)],
    work: (t, unit, v) =>
      sumOf(grateStack({ tileMm: v.tile![0]!, mortarMm: v.mortar![0]!, frameMm: v.frame![0]! }), (g) => [
        t(`floorSum.grate.${g.parts}`, { spacer: showLength(Math.max(0, g.spacerMm), unit) }),
        t('floorSum.grate.offset'),
      ]),
  },
  bed: {
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
      if (!bed.ok) return { problem: problemWords(bed.problem) };
      const mix = mortarMix({
        volumeL: bed.value.volumeL,
        sandParts: v.sand![0]!,
        shrinkShare: 0.2,
        bulkKgPerL: 1.6,
        bagKg: v.bagLb![0]! / LB_PER_KG,
        waterLPerKg: 0.1,
        spareShare: v.spare![0]! / 100,
      });
      const volume = (litres: number) => mortarWords(litres, unit);
      return sumOf(mix, (m) => [
        t('floorSum.bed.mean', {
          mean: showLength(bed.value.meanMm, unit),
          least: showLength(bed.value.leastMm, unit),
          volume: volume(bed.value.volumeL),
        }),
        t('floorSum.bed.bags', { count: m.bags, last: Math.round(m.lastBagShare * 100) }),
        t('floorSum.bed.mix', { sand: volume(m.sandL), cement: volume(m.cementL) }),
        t('floorSum.bed.water', {
          water: unit === 'in' ? `${(m.waterL / US_GALLON_L).toFixed(1)} gal` : `${m.waterL.toFixed(1)} L`,
        }),
        t('floorSum.bed.source'),
      ]);
    },
  },
} satisfies Partial<Record<StageSumKey, SumWork>>;
