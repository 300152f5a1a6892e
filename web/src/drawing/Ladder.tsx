import type { ShowerState } from '@careful-seam/core/log/state';
import { blockersOf } from '@careful-seam/core/proof/holds/release';
import { floodCheckOf } from '@careful-seam/core/rules/ruleBook';
import type { TFunction } from 'i18next';
import { useEffect, useRef } from 'react';
import { useTranslation } from 'react-i18next';

/** The stages of a shower, one of them looked at. */
interface Props {
  /** The shower as it stands now. */
  state: ShowerState;
  /** Key of the stage that is looked at; null for none. */
  chosen: string | null;
  /** Told of a tapped stage. */
  onChoose: (stage: string) => void;
}

/** The rung of a stage, by the word for how it stands: tied at both ends when released, boxed when held. */
function Rung({ word }: { word: string }) {
  const released = word === 'released';
  return (
    <svg viewBox="0 0 40 20" className="h-5 w-10 shrink-0" aria-hidden="true">
      <path
        d="M4 10H36"
        className={
          released
            ? 'stroke-ink [stroke-width:4]'
            : word === 'open'
              ? 'stroke-hair [stroke-width:2]'
              : 'stroke-hold [stroke-width:3]'
        }
      />
      {released && (
        <>
          <circle cx="5" cy="10" r="4.5" className="fill-ink" />
          <circle cx="35" cy="10" r="4.5" className="fill-ink" />
        </>
      )}
      {(word === 'held' || word === 'contested') && (
        <rect x="15" y="4" width="10" height="12" className="fill-leaf stroke-hold [stroke-width:2.4]" />
      )}
      {word === 'contested' && <path d="M15 16L25 4" className="stroke-hold [stroke-width:2.4]" />}
    </svg>
  );
}

/** How much a stage lacks; of one that was released and no longer stands, its word too. */
function leftWords(t: TFunction, state: ShowerState, key: string, count: number): string {
  const here = state.stages.get(key);
  const left = t('ladder.left', { count });
  return here?.because ? `${t(`stageWord.${here.word}`)}, ${left}` : left;
}

/** The same choice where there is no room for the ladder: one field, the stages from the bottom up. */
export function StagePicker({ state, chosen, onChoose }: Props) {
  const { t } = useTranslation();
  const stages = [...(state.rules?.method.stages ?? [])]
    .filter((s) => s.checks.length > 0)
    .sort((a, b) => a.order - b.order);
  return (
    <label className="flex items-center gap-2">
      <span className="text-soft text-sm">{t('stage.label')}</span>
      <select className="field font-semibold text-base" value={chosen ?? ''} onChange={(e) => onChoose(e.target.value)}>
        {stages.map((s) => {
          const word = state.stages.get(s.key)?.word ?? 'open';
          const left = word === 'held' || word === 'contested' ? blockersOf(state, s.key).length : 0;
          return (
            <option key={s.key} value={s.key}>
              {s.label} · {left > 0 ? leftWords(t, state, s.key, left) : t(`stageWord.${word}`)}
            </option>
          );
        })}
      </select>
    </label>
  );
}

/** The stages as a ladder climbed from the bottom. Rungs the rule book asks nothing of are thin and say so. */
export function Ladder({ state, chosen, onChoose }: Props) {
  const { t } = useTranslation();
  const all = [...(state.rules?.method.stages ?? [])].sort((a, b) => b.order - a.order);
  const stages = all.filter((s) => !s.notInspected && (s.checks.length > 0 || s.holdPoint));
  const before = all.filter((s) => s.notInspected);
  /** The fullest ladder is longer than the screen: the chosen rung is kept in sight. */
  const now = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (chosen) now.current?.scrollIntoView({ block: 'nearest' });
  }, [chosen]);
  /** What comes after the water says whether it may begin. */
  const wordFor = (stage: (typeof all)[number], word: string) => {
    if (word !== 'open' || !stage.holdPoint || stage.order <= floodOrder) return t(`stageWord.${word}`);
    const held = blockersOf(state, stage.key).some((b) => b.kind === 'lower-stage' || b.kind === 'defect');
    return t(held ? 'ladder.heldBelow' : 'ladder.mayBegin');
  };
  const floodOrder = (state.rules && floodCheckOf(state.rules.method)?.stage.order) ?? Infinity;
  return (
    <nav aria-label={t('ladder.label')} className="relative flex min-h-full flex-col justify-between gap-0.5">
      <div aria-hidden="true" className="absolute top-1 bottom-1 left-2 w-0.5 bg-edge" />
      <div aria-hidden="true" className="absolute top-1 bottom-1 left-10 w-0.5 bg-edge" />
      {stages.map((stage) => {
        const here = state.stages.get(stage.key);
        const word = here?.word ?? 'open';
        if (stage.checks.length === 0) {
          return (
            <div key={stage.key} className="relative flex items-center gap-2 pl-1 text-soft text-xs">
              <span aria-hidden="true" className="h-px w-10 shrink-0 bg-hair" />
              <span>
                {stage.label}
                {stage.holdPoint && stage.order > floodOrder && <span className="block">{wordFor(stage, word)}</span>}
              </span>
            </div>
          );
        }
        const left = word === 'held' || word === 'contested' ? blockersOf(state, stage.key).length : 0;
        const current = chosen === stage.key;
        return (
          <button
            type="button"
            key={stage.key}
            ref={current ? now : undefined}
            onClick={() => onChoose(stage.key)}
            aria-current={current ? 'step' : undefined}
            className={`relative flex min-h-12 w-full cursor-pointer items-center gap-2 rounded-sm text-left ${current ? 'bg-leaf outline-2 outline-ink' : ''}`}
          >
            <Rung word={word} />
            <span className="leading-tight">
              <span className={current ? 'font-bold' : 'font-semibold'}>{stage.label}</span>
              <span className={`block text-xs ${left > 0 ? 'text-hold' : 'text-soft'}`}>
                {left > 0 ? leftWords(t, state, stage.key, left) : wordFor(stage, word)}
              </span>
            </span>
          </button>
        );
      })}
      {before.length > 0 && (
        <p className="relative bg-paper pl-1 text-soft text-xs">
          {t('ladder.notInspected', { from: before.at(-1)!.label, to: before[0]!.label })}
        </p>
      )}
    </nav>
  );
}
