import type { FloodVerdict } from '@careful-seam/core/water/floodVerdict';
import type { FloodVerdictInput } from '@careful-seam/core/water/floodVerdictInput';
import { floodChart } from '@careful-seam/words/sentences/floodChart';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';
import { themeColour, useEchart } from '../../ui/useEchart';

/** What is drawn: readings with what they come to. */
interface Props {
  /** The readings as they are judged. */
  input: FloodVerdictInput;
  /** What they come to. */
  verdict: FloodVerdict;
  /** What the chart says, for those who don't see it. */
  words: string;
}

/** The chart of a flood test. */
export function FloodChart({ input, verdict, words }: Props) {
  const { t } = useTranslation();
  const { unit, theme } = usePreferences();
  const box = useEchart(
    (el) => {
      const pens = {
        ink: themeColour('ink'),
        soft: themeColour('soft'),
        hair: themeColour('hair'),
        water: themeColour('water'),
        air: themeColour('cure'),
        hold: themeColour('hold'),
        font: getComputedStyle(document.body).fontFamily,
        fontSize: 14,
      };
      return floodChart(t, input, verdict, pens, unit, el.clientWidth < 560);
    },
    [t, input, verdict, unit, theme],
  );
  return <div ref={box} className="h-full min-h-56 w-full" role="img" aria-label={words} data-testid="flood-chart" />;
}
