import type { FloorGap } from '@careful-seam/core/floor/flatness/floorFlatness';
import { levelling } from '@careful-seam/core/floor/flatness/levelling';
import type { Shot, SurveyedFloor } from '@careful-seam/core/floor/survey/shots';
import { makeSurface } from '@careful-seam/core/floor/survey/surface';
import type { CheckVerdict } from '@careful-seam/core/log/bodies';
import type { SurveyCheck } from '@careful-seam/core/rules/checks/survey';
import { showLength } from '@careful-seam/core/units/length';
import { US_GALLON_L } from '@careful-seam/core/units/measures';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';

/** How flat it is. */
interface Props {
  /** The worst gap under the straightedge, and whether it is too much. */
  flat: { gap: FloorGap | null; verdict: CheckVerdict };
  /** What the rule book asks, with its limits. */
  check: SurveyCheck;
  /** The floor that is shot: its outline in plan and its drain, mm. */
  floor: SurveyedFloor;
  /** The shots that stand, in the order in which they were taken. */
  shots: readonly Shot[];
}

/** Where the straightedge rocks most, what to grind and what to fill, and how much self-leveller covers it. */
export function FlatResult({ flat, check, floor, shots }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const levels = useMemo(() => {
    const made = makeSurface(floor, shots);
    return made.ok ? levelling(made.value) : null;
  }, [floor, shots]);
  const { measures } = check;
  if (measures.of !== 'flat') return null;
  const volume = (l: number) =>
    unit === 'in'
      ? t('survey.gallons', { value: (l / US_GALLON_L).toFixed(1) })
      : t('survey.litres', { value: l.toFixed(1) });
  const off = levels?.offPlaneMm ?? [];
  const high = off.reduce((best, v, i) => (v > (off[best] ?? -Infinity) ? i : best), 0);
  const low = off.reduce((best, v, i) => (v < (off[best] ?? Infinity) ? i : best), 0);
  const place = (s: Shot) => t('survey.place', { x: showLength(s.xMm, unit), y: showLength(s.yMm, unit) });
  return (
    <section className="flex flex-col gap-1.5" aria-live="polite" data-testid="survey-result">
      <p
        className={`border-l-4 pl-2 font-bold text-lg leading-tight ${flat.verdict === 'fail' ? 'border-hold text-hold' : flat.verdict === 'pass' ? 'border-ink' : 'border-cure'}`}
      >
        {t(`survey.verdict.flat.${flat.verdict}`)}
      </p>
      {flat.gap && (
        <p>
          {t('survey.gap', {
            gap: showLength(flat.gap.gapMm, unit, 32),
            edge: showLength(measures.straightedgeMm, unit),
            limit: showLength(measures.gapMm, unit, 32),
          })}
        </p>
      )}
      {levels && shots[high] && shots[low] && (
        <>
          <p>{t('survey.level', { out: showLength(levels.outOfLevelMm, unit, 32) })}</p>
          <p>{t('survey.grind', { by: showLength(Math.max(0, off[high]!), unit, 32), place: place(shots[high]!) })}</p>
          <p>{t('survey.fill', { by: showLength(Math.max(0, -off[low]!), unit, 32), place: place(shots[low]!) })}</p>
          <p className="text-soft">
            {t('survey.leveller', { level: volume(levels.levelL), plane: volume(levels.planeL) })}
          </p>
        </>
      )}
    </section>
  );
}
