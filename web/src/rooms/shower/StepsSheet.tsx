import type { ShowerState } from '@careful-seam/core/log/state';
import type { Check } from '@careful-seam/core/rules/checks/check';
import { limitWords } from '@careful-seam/words/sentences/sentences';
import { useTranslation } from 'react-i18next';
import { isAsked } from '../../shared/answering';
import { usePreferences } from '../../ui/preferences';
import { Sheet } from '../../ui/Sheet';

/** The method as numbered steps: what each layer must show before the next one, what is only recommended, where work halts. */
export function StepsSheet({ state, onClose }: { state: ShowerState; onClose: () => void }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { method } = state.rules!;
  const stages = [...method.stages].sort((a, b) => a.order - b.order);
  const line = (check: Check) => {
    const limit = limitWords(t, check, unit);
    return (
      <li key={check.id} className="leading-snug">
        {check.label}
        {limit && ` (${limit})`}
        <span className="block text-soft text-sm">{check.why}</span>
      </li>
    );
  };
  return (
    <Sheet title={method.label} onClose={onClose}>
      <p className="border-cure border-l-4 pl-2 text-sm">{state.rules!.book.deference[1]}</p>
      <ol className="flex flex-col gap-2">
        {stages.map((stage, i) => {
          const required = stage.checks.filter((c) => c.severity !== 'note' && isAsked(c));
          const recommended = stage.checks.filter((c) => c.severity === 'note' && isAsked(c));
          return (
            <li key={stage.key} className="border-hair border-b pb-2">
              <h3 className="font-bold">
                {i + 1}. {stage.label}{' '}
                <span className="font-normal text-soft text-sm">
                  {t(`stageWord.${state.stages.get(stage.key)?.word ?? 'open'}`)}
                </span>
              </h3>
              {stage.notInspected && <p className="text-soft">{t('steps.notInspected')}</p>}
              {stage.caution && <p className="border-cure border-l-4 pl-2 text-sm">{stage.caution}</p>}
              {required.length > 0 && <ul className="list-disc pl-5">{required.map(line)}</ul>}
              {recommended.length > 0 && (
                <>
                  <p className="text-soft text-sm">{t('steps.recommended')}</p>
                  <ul className="list-[circle] pl-5">{recommended.map(line)}</ul>
                </>
              )}
              {stage.holdPoint && stage.checks.length > 0 && <p className="font-semibold">{t('steps.hold')}</p>}
            </li>
          );
        })}
      </ol>
    </Sheet>
  );
}
