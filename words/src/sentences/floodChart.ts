import type { FloodVerdict } from '@careful-seam/core/water/floodVerdict';
import type { FloodVerdictInput } from '@careful-seam/core/water/floodVerdictInput';
import type { Words } from '../texts/language';
import { smallLength } from './floodSentences';
import type { ShownUnit } from './sentences';

/** Colours and type of a chart; the screen and the printed record each have their own. */
export interface ChartPens {
  /** Of letters and of the water. */
  ink: string;
  /** Of what stands beside. */
  soft: string;
  /** Of the grid. */
  hair: string;
  /** Of the level. */
  water: string;
  /** Of the pan and the air. */
  air: string;
  /** Of what a leak would do. */
  hold: string;
  /** Of letters. */
  font: string;
  /** Of letters, px. */
  fontSize: number;
}

/** Hours and mm. */
type Point = [number, number];
/** A line of more points is thinned: nobody sees them. */
const POINTS_AT_MOST = 400;

/** Fall of the level since the start with refills taken out: each run goes on where the one before it ended. */
function fallOf(readings: FloodVerdictInput['readings'], breaks: readonly number[], perDay: number): Point[] {
  const points: Point[] = [];
  let shift = 0;
  readings.forEach((r, i) => {
    const before = readings[i - 1];
    if (before) {
      const broken = breaks.some((at) => before.atHours < at && r.atHours >= at);
      if (broken) shift += r.levelMm - before.levelMm + (perDay / 24) * (r.atHours - before.atHours);
    }
    points.push([r.atHours, readings[0]!.levelMm - (r.levelMm - shift)]);
  });
  return points;
}

/** Fewer points of the same line. */
function thinned(points: readonly Point[]): Point[] {
  const step = Math.ceil(points.length / POINTS_AT_MOST);
  return points.filter((_, i) => i % step === 0 || i === points.length - 1);
}

/** How a level falls that loses so much a day. */
const ray = (perDay: number, hours: number): Point[] => [
  [0, 0],
  [hours, (perDay * hours) / 24],
];

/** What a flood's chart is made of: its lines, the names in its legend, and the hours it spans. */
function linesOf(
  t: Words,
  input: FloodVerdictInput,
  verdict: FloodVerdict,
  pens: ChartPens,
  unit: ShownUnit,
  narrow: boolean,
) {
  const hours = Math.max(input.plannedHours, input.readings.at(-1)?.atHours ?? 0);
  const per = unit === 'in' ? 25.4 : 1;
  const scaled = (points: readonly Point[]): Point[] => points.map(([h, mm]) => [h, mm / per]);
  const breaks = [
    ...(input.events ?? []).filter((e) => (e.of ?? 'water') === 'water').map((e) => e.atHours),
    ...verdict.questions.map((q) => q.atHours),
  ];
  const panBreaks = (input.events ?? []).filter((e) => e.of === 'pan').map((e) => e.atHours);
  const water = fallOf(input.readings, breaks, verdict.lossMmPerDay ?? 0);
  const pan = fallOf(input.pan?.readings ?? [], panBreaks, verdict.evaporation.mmPerDay ?? 0);
  const { evaporation } = verdict;
  const high = evaporation.highMmPerDay;
  const line = (name: string, data: Point[], color: string, more: Record<string, unknown> = {}) => ({
    name,
    type: 'line',
    data: scaled(data),
    symbol: 'none',
    animation: false,
    lineStyle: { color, width: 2 },
    itemStyle: { color },
    ...more,
  });
  const end = (color: string) => ({ show: !narrow, formatter: '{a}', color, fontSize: pens.fontSize, distance: 6 });
  const smallest =
    input.smallestLeakMmPerDay === null
      ? null
      : t('flood.chart.smallest', { smallest: smallLength(input.smallestLeakMmPerDay, unit) });
  const bandNames = high === null ? [] : [t('flood.chart.air'), ...(smallest === null ? [] : [smallest])];
  const shown: unknown[] = [];
  if (high !== null) {
    shown.push(
      line(`${t('flood.chart.air')} `, ray(Math.max(0, evaporation.lowMmPerDay), hours), pens.air, {
        stack: 'air',
        lineStyle: { width: 0 },
      }),
      line(t('flood.chart.air'), ray(high - Math.max(0, evaporation.lowMmPerDay), hours), pens.air, {
        stack: 'air',
        lineStyle: { width: 0 },
        areaStyle: { color: pens.air, opacity: 0.28 },
        endLabel: end(pens.air),
      }),
    );
    if (smallest !== null && input.smallestLeakMmPerDay !== null)
      shown.push(
        line(smallest, ray((evaporation.mmPerDay ?? 0) + input.smallestLeakMmPerDay, hours), pens.hold, {
          lineStyle: { color: pens.hold, width: 1.6, type: [2, 4] },
          endLabel: end(pens.hold),
        }),
      );
  }
  if (verdict.lossMmPerDay !== null && input.readings.length > 1)
    shown.push(
      line(t('flood.chart.fit'), ray(verdict.lossMmPerDay, hours), pens.ink, {
        lineStyle: { color: pens.ink, width: 1.4, type: [8, 5] },
      }),
    );
  const byHand = input.method === 'marks';
  if (pan.length > 0)
    shown.push(
      line(t('flood.chart.pan'), thinned(pan), pens.air, {
        lineStyle: { color: pens.air, width: byHand ? 0 : 1.2 },
        symbol: byHand ? 'emptyRect' : 'none',
        symbolSize: 9,
      }),
    );
  shown.push(
    line(t('flood.chart.water'), thinned(water), pens.water, {
      lineStyle: { color: pens.water, width: byHand ? 0 : 2 },
      symbol: byHand ? 'circle' : 'none',
      symbolSize: 9,
      z: 5,
    }),
  );
  const names = [
    t('flood.chart.water'),
    ...(pan.length > 0 ? [t('flood.chart.pan')] : []),
    t('flood.chart.fit'),
    ...(narrow ? bandNames : []),
  ];
  return { hours, names, shown };
}

/**
 * The chart of a flood test as an ECharts option: the fall of the level and of the pan, the band that the air takes, the
 * loss as read, and how far the level would have fallen with the smallest leak that a pass must rule out. The axis of
 * the fall points down, as water falls. On a narrow screen the names of all lines stand in the legend above.
 */
export function floodChart(
  t: Words,
  input: FloodVerdictInput,
  verdict: FloodVerdict,
  pens: ChartPens,
  unit: ShownUnit,
  narrow = false,
): Record<string, unknown> {
  const { hours, names, shown } = linesOf(t, input, verdict, pens, unit, narrow);
  const text = { color: pens.soft, fontSize: pens.fontSize, fontFamily: pens.font };
  return {
    animation: false,
    textStyle: { fontFamily: pens.font, fontSize: pens.fontSize, color: pens.ink },
    grid: narrow ? { left: 52, right: 14, top: 84, bottom: 42 } : { left: 58, right: 190, top: 34, bottom: 42 },
    legend: {
      top: 0,
      left: narrow ? 0 : 50,
      itemGap: 16,
      textStyle: text,
      data: names,
    },
    xAxis: {
      type: 'value',
      min: 0,
      max: Math.ceil(hours),
      name: t('flood.chart.hours'),
      nameLocation: 'middle',
      nameGap: 26,
      nameTextStyle: text,
      axisLabel: text,
      axisLine: { lineStyle: { color: pens.soft } },
      splitLine: { lineStyle: { color: pens.hair, width: 0.6 } },
    },
    yAxis: {
      type: 'value',
      inverse: true,
      name: t('flood.chart.fall', { unit }),
      nameLocation: 'middle',
      nameGap: 42,
      nameTextStyle: text,
      axisLabel: text,
      splitLine: { lineStyle: { color: pens.hair, width: 0.6 } },
    },
    series: shown,
  };
}
