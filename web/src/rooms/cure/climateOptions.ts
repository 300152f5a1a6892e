import { COLDEST_C } from '@careful-seam/core/cure/cureAge';
import { temperatureWords } from '@careful-seam/words/sentences/cureWords';
import { hourWords } from '@careful-seam/words/sentences/moments';
import type { Words } from '@careful-seam/words/texts/language';
import { themeColour } from '../../ui/useEchart';
import type { ClimateChartProps } from './ClimateChart';

/** More points than there is room for say nothing more. */
const MOST_POINTS = 1200;

/** What is drawn, with the words and the unit. */
type Drawing = Omit<ClimateChartProps, 'words'> & { t: Words; unit: 'in' | 'mm' };

/** Letters as large as on the rest of the screen, in its colour. */
const textStyle = () => ({
  color: themeColour('soft'),
  fontFamily: getComputedStyle(document.body).fontFamily,
  fontSize: 14,
});

/** Degrees as they are shown. */
const degreesIn = (unit: 'in' | 'mm') => (c: number) => (unit === 'in' ? c * 1.8 + 32 : c);

/** Temperature with its lines and faulty stretches, the air as expected, humidity. */
function seriesOf({ t, log, faults, expected, laidMs, readyMs, unit }: Drawing) {
  const step = Math.max(1, Math.ceil(log.atMs.length / MOST_POINTS));
  const points = (values: ArrayLike<number>, of: (v: number) => number) =>
    Array.from({ length: Math.ceil(log.atMs.length / step) }, (_, k) => [log.atMs[k * step]!, of(values[k * step]!)]);
  const degrees = degreesIn(unit);
  const text = textStyle();
  const line = (name: string, of: number | null, style: string) =>
    of === null
      ? []
      : [
          {
            xAxis: of,
            // Towards the middle of the chart: beside it stand the percents.
            label: { formatter: name, align: style === 'cure' ? ('right' as const) : ('left' as const), ...text },
            lineStyle: { color: themeColour(style), type: 'solid' as const },
          },
        ];
  return [
    {
      name: t('cure.chart.temperature'),
      type: 'line',
      showSymbol: log.atMs.length < 40,
      symbolSize: 7,
      data: points(log.airC, degrees),
      lineStyle: { color: themeColour('ink'), width: 2.2 },
      itemStyle: { color: themeColour('ink') },
      markLine: {
        symbol: 'none',
        silent: true,
        data: [
          ...line(t('cure.chart.laid'), laidMs, 'edge'),
          ...line(t('cure.chart.ready'), readyMs, 'cure'),
          {
            yAxis: degrees(COLDEST_C),
            label: { formatter: temperatureWords(COLDEST_C, unit), position: 'insideEndTop', ...text },
            lineStyle: { color: themeColour('hold'), type: [6, 4] },
          },
        ],
      },
      markArea: {
        silent: true,
        itemStyle: { color: themeColour('cure'), opacity: 0.22 },
        data: faults.map((f) => [{ xAxis: f.fromMs }, { xAxis: Math.max(f.toMs, f.fromMs + 60_000) }]),
      },
    },
    ...(expected && readyMs !== null && log.atMs.length > 0
      ? [
          {
            name: t('cure.chart.expected'),
            type: 'line',
            showSymbol: false,
            data: [log.atMs[log.atMs.length - 1]!, readyMs].map((ms) => [ms, degrees(expected.airC)]),
            lineStyle: { color: themeColour('cure'), width: 2.2, type: [8, 5] },
            itemStyle: { color: themeColour('cure') },
          },
        ]
      : []),
    {
      name: t('cure.chart.humidity'),
      type: 'line',
      yAxisIndex: 1,
      showSymbol: false,
      data: points(log.relativeHumidity, (v) => v * 100),
      lineStyle: { color: themeColour('water'), width: 1.8, type: [2, 3] },
      itemStyle: { color: themeColour('water') },
    },
  ];
}

/** The chart of a shower's air, as the library draws it. */
export function climateOptions(drawing: Drawing) {
  const { log, laidMs, readyMs, zone } = drawing;
  const text = textStyle();
  const axis = {
    axisLabel: text,
    axisLine: { lineStyle: { color: themeColour('edge') } },
    splitLine: { lineStyle: { color: themeColour('hair') } },
  };
  return {
    animation: false,
    grid: { left: 52, right: 52, top: 26, bottom: 58 },
    legend: { bottom: 0, left: 'center', textStyle: text, itemWidth: 26, icon: 'path://M0 4H26V6H0Z' },
    xAxis: {
      type: 'time',
      min: Math.min(laidMs ?? Infinity, log.atMs[0] ?? Infinity),
      max: Math.max(readyMs ?? -Infinity, log.atMs[log.atMs.length - 1] ?? -Infinity),
      ...axis,
      axisLabel: {
        ...text,
        hideOverlap: true,
        margin: 12,
        alignMinLabel: 'left',
        alignMaxLabel: 'right',
        formatter: (ms: number) => hourWords(ms, zone),
      },
    },
    yAxis: [
      {
        type: 'value',
        scale: true,
        ...axis,
        axisLabel: { ...text, formatter: (v: number) => `${Math.round(v)}°` },
      },
      {
        type: 'value',
        min: 0,
        max: 100,
        ...axis,
        splitLine: { show: false },
        axisLabel: { ...text, formatter: '{value} %' },
      },
    ],
    series: seriesOf(drawing),
  };
}
