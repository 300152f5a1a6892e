import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { stripOutOf } from '@careful-seam/core/trace/stripOut';
import type { Suspect } from '@careful-seam/core/trace/suspects';
import { sideName, suspectName } from '@careful-seam/words/sentences/callSentences';
import { areaWords } from '@careful-seam/words/sentences/filmWords';
import { useTranslation } from 'react-i18next';
import { useParts } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';

/** What must come out where one element is what failed, with its hours, days and what is lost: known before anybody decides. */
export function ComesOut({
  model,
  suspect,
  caution,
}: {
  model: ShowerModel;
  suspect: Suspect;
  caution: string | null;
}) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { plan, settings } = useParts('plan', 'settings');
  const out = stripOutOf(model, suspect, plan.settings.stageHours);
  const walls = out.walls
    .map((id) => sideName(t, model, id))
    .sort((a, b) => a.localeCompare(b))
    .join(', ');
  const rate = settings?.hourRate ?? null;
  return (
    <section aria-label={t('call.out.title')} className="flex flex-col gap-1" data-testid="comes-out">
      <h2 className="font-semibold text-soft">{t('call.out.title')}</h2>
      <p className="font-bold">{t('call.out.for', { what: suspectName(t, model, suspect) })}</p>
      <p>{t(`call.out.scope.${out.scope}`, { walls })}</p>
      <p>
        {t('call.out.takes', { count: out.days, hours: Math.round(out.hours) })}{' '}
        {rate !== null && t('call.out.costs', { money: Math.round(rate * out.hours) })}{' '}
        {out.lostMm2 > 0 && t('call.out.lost', { area: areaWords(out.lostMm2 / 1e6, unit) })}
      </p>
      {caution && out.scope !== 'none' && <p className="border-cure border-l-4 pl-2 text-sm">{caution}</p>}
      <p className="text-soft text-sm">{t('call.out.source')}</p>
    </section>
  );
}
