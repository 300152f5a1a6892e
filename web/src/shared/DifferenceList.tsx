import type { CheckDifference } from '@careful-seam/core/proof/shown/compareBooks';
import { type Check, isOf } from '@careful-seam/core/rules/checks/check';
import { limitWords } from '@careful-seam/words/sentences/sentences';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../ui/preferences';

/** What two versions of a check ask, one under the other: only what differs is told. */
export function DifferenceList({ differences }: { differences: readonly CheckDifference[] }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const told = (check: Check | null) =>
    check === null
      ? t('rules.nothing')
      : [limitWords(t, check, unit), t(`severity.${check.severity}`), waitOf(check)].filter(Boolean).join(', ');
  const waitOf = (check: Check) => (isOf(check, 'wait') ? t('figure.hours', { value: check.hours }) : '');
  return (
    <ul className="flex flex-col">
      {differences.map((d) => {
        const check = (d.after ?? d.before)!;
        const renamed = d.before && d.after && d.before.label !== d.after.label;
        return (
          <li key={`${d.method} ${d.stage} ${check.id}`} className="border-hair border-b py-1 leading-snug">
            <span className="font-semibold">{check.label}</span>{' '}
            <span className="text-soft text-sm">{d.stageLabel}</span>
            {renamed && <span className="block text-sm">{t('rules.wasCalled', { label: d.before!.label })}</span>}
            <span className="block text-sm">{t('rules.fromTo', { from: told(d.before), to: told(d.after) })}</span>
          </li>
        );
      })}
    </ul>
  );
}
