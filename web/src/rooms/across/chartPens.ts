import { themeColour } from '../../ui/useEchart';

/** Letters as large as on the rest of the screen, in its colour. */
export const chartText = () => ({
  color: themeColour('soft'),
  fontFamily: getComputedStyle(document.body).fontFamily,
  fontSize: 14,
});

/** An axis with its name, in the colours of the theme. */
export const chartAxis = (name: string, place: 'x' | 'y') => ({
  name,
  nameLocation: 'middle' as const,
  nameGap: place === 'x' ? 30 : 46,
  nameTextStyle: chartText(),
  axisLabel: { ...chartText(), hideOverlap: true },
  axisLine: { lineStyle: { color: themeColour('edge') } },
  splitLine: { lineStyle: { color: themeColour('hair') } },
});

/** What is said of what lies under the pointer. */
export const chartTip = () => ({
  backgroundColor: themeColour('leaf'),
  borderColor: themeColour('edge'),
  textStyle: { ...chartText(), color: themeColour('ink') },
});
