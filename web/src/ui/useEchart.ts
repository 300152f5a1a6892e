import type { EChartsCoreOption } from 'echarts/core';
import { type DependencyList, type RefObject, useEffect, useRef } from 'react';

/** A colour of the theme in force. */
export const themeColour = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();

/** A chart in a box, drawn anew when what it shows changes. The library is fetched when the first one is drawn. */
export function useEchart(
  option: (box: HTMLDivElement) => EChartsCoreOption,
  on: DependencyList,
): RefObject<HTMLDivElement | null> {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let remove: (() => void) | null = null;
    let gone = false;
    void import('./echarts').then(({ echarts }) => {
      if (gone || !box.current) return;
      const chart = echarts.init(box.current, null, { renderer: 'svg' });
      chart.setOption(option(box.current));
      const watch = new ResizeObserver(() => chart.resize());
      watch.observe(box.current);
      remove = () => {
        watch.disconnect();
        chart.dispose();
      };
    });
    return () => {
      gone = true;
      remove?.();
    };
    // biome-ignore lint/correctness/useExhaustiveDependencies: the caller lists what its chart is drawn from
  }, on);
  return box;
}
