import { showLength } from '@careful-seam/core/units/length';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';
import type { Drawn } from './drawing';

/** What the floor's fall comes to while it is drawn, or why it can't work with a level edge. */
export function FallNote({ drawn }: { drawn: Drawn }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { fall } = drawn;
  if (!fall) return null;
  if (drawn.geometry?.drain.kind === 'line')
    return <p data-testid="fall">{t('new.fallLine', { rise: showLength(fall.riseMm, unit, 32) })}</p>;
  const perFoot = (ratio: number) =>
    unit === 'in' ? `${(ratio * 12).toFixed(2)} ${t('new.perFoot')}` : `${(ratio * 100).toFixed(1)} %`;
  if (fall.verdict === 'fail') {
    return (
      <p data-testid="fall" className="border-hold border-l-4 pl-2 font-semibold text-hold">
        {t('new.fallConflict', {
          rise: showLength(fall.riseMm, unit),
          longest: showLength(fall.longestMm, unit),
          shortest: showLength(fall.shortestMm, unit),
          steepest: perFoot(fall.steepestFall),
          most: perFoot(0.5 / 12),
        })}
      </p>
    );
  }
  return (
    <p data-testid="fall">
      {t('new.fall', {
        rise: showLength(fall.riseMm, unit, 32),
        reserve: showLength(fall.reserveThatFitsMm, unit, 32),
        longest: showLength(fall.longestMm, unit),
        steepest: perFoot(fall.steepestFall),
      })}
      <span className="block text-soft text-sm">{t('new.fallSource')}</span>
    </p>
  );
}
