import { CrewPlan, type CrewPlanLine } from '@careful-seam/contract/api/plan';
import { hourWords } from '@careful-seam/words/sentences/moments';
import { useTranslation } from 'react-i18next';
import { type LocalShower, useStore } from '../../tablet/store';
import { useLiveList } from '../../tablet/useList';

/** The plan of this crew's showers, by shower; nothing while it can't be asked. */
export function useCrewPlan(): ReadonlyMap<string, CrewPlanLine> {
  const { data } = useLiveList(CrewPlan, '/api/plan/crew');
  return new Map((data?.lines ?? []).map((line) => [line.shower, line]));
}

/** When the inspector comes, what must be ready, and what may go on meanwhile: in the words of this crew's language. */
export function CrewPlanWords({ line, shower }: { line: CrewPlanLine; shower: LocalShower }) {
  const { t } = useTranslation();
  const language = useStore((s) => s.language);
  const stages = shower.state.rules?.method.stages ?? [];
  // The rule book's own words in the language that is spoken here; the plan was made in another.
  const labelOf = (key: string, told: string) => stages.find((s) => s.key === key)?.label ?? told;
  const stage = labelOf(line.stage, line.label);
  const at = (ms: number) => hourWords(ms, line.timeZone);
  const comes =
    line.comesMs === null
      ? null
      : t(line.waits === 'water' ? 'crewPlan.reads' : 'crewPlan.comes', {
          who: line.inspector ?? t('crewPlan.somebody'),
          at: at(line.comesMs),
          stage,
        });
  const waits =
    line.overMs !== null && (line.waits === 'cure' || line.waits === 'water')
      ? t(`crewPlan.${line.waits}`, { stage, at: at(line.overMs) })
      : null;
  const next = line.next
    ? t('crewPlan.next', { stage: labelOf(line.next.stage, line.next.label), at: at(line.next.fromMs) })
    : null;
  const heat = line.heatWinsHours >= 1 ? t('crewPlan.heat', { hours: Math.round(line.heatWinsHours) }) : null;
  return (
    <span className="block text-sm" lang={language} data-testid="crew-plan">
      {comes && <span className="block font-semibold">{comes}</span>}
      {waits && <span className="block text-cure">{waits}</span>}
      {heat && <span className="block text-soft">{heat}</span>}
      {next && <span className="block text-soft">{next}</span>}
    </span>
  );
}
