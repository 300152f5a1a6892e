import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';
import { themeColour, useEchart } from '../../ui/useEchart';
import type { LevelAt } from './useDevice';

/** The level as it comes, and the height at which it settles. Levels in mm over the drain's rim. */
export function LiveChart({
  levels,
  heightMm,
  words,
}: {
  levels: readonly LevelAt[];
  heightMm: number | null;
  words: string;
}) {
  const { i18n } = useTranslation();
  const { theme } = usePreferences();
  const box = useEchart(() => {
    const [ink, soft, hair] = [themeColour('ink'), themeColour('soft'), themeColour('hair')];
    const [water, hold] = [themeColour('water'), themeColour('hold')];
    return {
      animation: false,
      grid: { left: 48, right: 16, top: 12, bottom: 28 },
      textStyle: { fontFamily: getComputedStyle(document.body).fontFamily, fontSize: 14, color: ink },
      xAxis: { type: 'time', axisLabel: { color: soft, hideOverlap: true }, axisLine: { lineStyle: { color: hair } } },
      yAxis: {
        type: 'value',
        scale: true,
        name: 'mm',
        axisLabel: { color: soft },
        splitLine: { lineStyle: { color: hair } },
      },
      series: [
        {
          type: 'line',
          showSymbol: false,
          lineStyle: { color: water, width: 2 },
          data: levels.map((l) => [l.atMs, l.levelMm]),
          markLine:
            heightMm === null
              ? { data: [] }
              : {
                  symbol: 'none',
                  silent: true,
                  lineStyle: { color: hold, type: 'solid', width: 2 },
                  label: { color: ink },
                  data: [{ yAxis: heightMm }],
                },
        },
      ],
    };
  }, [levels, heightMm, theme, i18n.language]);
  return <div ref={box} className="h-56 w-full" role="img" aria-label={words} data-testid="live-chart" />;
}
