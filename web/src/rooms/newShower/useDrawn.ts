import { showLength } from '@careful-seam/core/units/length';
import { useCallback, useDeferredValue, useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { type Drawn, drawShower } from './drawing';
import type { NewForm } from './fields';
import { LENGTHS, type LengthName } from './typed';

/**
 * The shower drawn from what is typed. Drawing lags behind typing when it must, so that a key or a drag never waits for
 * the map; `settle` draws what stands in the form at this moment.
 */
export function useDrawn(
  typed: NewForm,
  idOf: (part: string) => string,
  unit: 'in' | 'mm',
): { drawn: Drawn; settle: () => Drawn } {
  const { t } = useTranslation();
  const draw = useCallback(
    (values: NewForm): Drawn =>
      drawShower(values, idOf, unit, {
        names: Object.fromEntries(LENGTHS.map((n) => [n, t(`new.${n}`)])) as Record<LengthName, string>,
        small: (least) => t('new.small', { least: showLength(least, unit) }),
        large: (most) => t('new.large', { most: showLength(most, unit) }),
        angle: t('new.badAngle'),
        notClosed: t('new.notClosed'),
      }),
    [idOf, unit, t],
  );
  const key = JSON.stringify(typed);
  const settled = useDeferredValue(key);
  const drawn = useMemo(() => draw(JSON.parse(settled)), [settled, draw]);
  return { drawn, settle: () => (settled === key ? drawn : draw(typed)) };
}
