import { floodChart } from '@careful-seam/contract/flood/floodChart';
import type { FloodVerdict } from '@careful-seam/core/flood/floodVerdict';
import type { FloodVerdictInput } from '@careful-seam/core/flood/floodVerdictInput';
import { useEffect, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../state/preferences';

interface Props {
  input: FloodVerdictInput;
  verdict: FloodVerdict;
  /** What the chart says, for those who don't see it. */
  words: string;
}

const colour = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();

/** The chart of a flood test. The library is fetched when the first chart is drawn. */
export function FloodChart({ input, verdict, words }: Props) {
  const { t } = useTranslation();
  const { unit, theme } = usePreferences();
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let remove: (() => void) | null = null;
    let gone = false;
    void import('./echarts').then(({ echarts }) => {
      if (gone || !box.current) return;
      const chart = echarts.init(box.current, null, { renderer: 'svg' });
      const pens = {
        ink: colour('ink'),
        soft: colour('soft'),
        hair: colour('hair'),
        water: colour('water'),
        air: colour('cure'),
        hold: colour('hold'),
        font: getComputedStyle(document.body).fontFamily,
        fontSize: 14,
      };
      const narrow = box.current.clientWidth < 560;
      chart.setOption(floodChart(t, input, verdict, pens, unit, narrow));
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
  }, [t, input, verdict, unit, theme]);
  return <div ref={box} className="h-full min-h-56 w-full" role="img" aria-label={words} data-testid="flood-chart" />;
}
