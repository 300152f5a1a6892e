import { askedOfKind } from '@careful-seam/core/checks/asked';
import { waterProof } from '@careful-seam/core/checks/waterProof';
import type { ShowerState } from '@careful-seam/core/log/state';
import { showLength } from '@careful-seam/core/units/length';
import { elementName } from '@careful-seam/words/texts/names';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';

/** The shower under its water. */
interface Props {
  /** The shower as it stands now. */
  state: ShowerState;
  /** Height below which the water proves, mm above the drain rim. */
  belowMm: number;
  /** The test has passed; else it is what it would prove. */
  proved: boolean;
}

/** What the water proves, seam by seam, and how the rest must be proved instead. */
export function ProvedList({ state, belowMm, proved }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const model = state.geometry!.model;
  const found = waterProof(model, belowMm);
  const how = (element: string): string => {
    const checks = state.requirements.filter((r) => r.element === element);
    const measured = askedOfKind(checks, 'measured').map((r) => r.check.label);
    const looked = askedOfKind(checks, 'looked').map((r) => r.check.label);
    if (measured.length > 0) return t('flood.how.measured', { check: [...new Set(measured)].join(', ') });
    return looked.length > 0 ? t('flood.how.looked') : t('flood.how.nothing');
  };
  return (
    <div className="flex flex-col gap-2" data-testid="proved">
      <section>
        <h3 className="font-bold">
          {t(proved ? 'flood.proved' : 'flood.wouldProve', {
            wet: showLength(found.wetMm, unit),
            count: found.under.length,
          })}
        </h3>
        <ul className="text-sm">
          {found.under.map(({ seam, wetMm }) => (
            <li key={seam.id} className="flex justify-between gap-2 border-hair border-b">
              <span>{elementName(t, model, seam.id)}</span>
              <span className="flex-none font-semibold">{showLength(wetMm, unit)}</span>
            </li>
          ))}
        </ul>
      </section>
      <section>
        <h3 className="font-bold">{t('flood.rest', { count: found.above.length })}</h3>
        <ul className="text-sm">
          {found.above.map(({ seam, dryMm }) => (
            <li key={seam.id} className="border-hair border-b">
              <span className="flex justify-between gap-2">
                <span>{elementName(t, model, seam.id)}</span>
                <span className="flex-none font-semibold">{showLength(dryMm, unit)}</span>
              </span>
              <span className="block text-soft text-xs">{how(seam.id)}</span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
