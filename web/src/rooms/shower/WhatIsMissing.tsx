import { judgeStage } from '@careful-seam/core/checks/judge';
import type { Blocker } from '@careful-seam/core/log/judgement';
import type { ShowerState } from '@careful-seam/core/log/state';
import { blockerSentence } from '@careful-seam/words/sentences/sentences';
import { elementName } from '@careful-seam/words/texts/names';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';

/** The element that a blocker lies on; null for one of the whole stage. */
const elementOf = (b: Blocker): string | null => {
  if (b.kind === 'check') return b.element;
  if (b.kind === 'defect') return b.defect.places[0]?.element ?? null;
  return b.kind === 'deviation-pending' ? b.deviation.asked.place.element : null;
};

/** True for what is wrong, and not only missing. */
const holds = (b: Blocker): boolean => b.kind === 'defect' || (b.kind === 'check' && b.verdict === 'fail');

/** What is asked of this many places by one check stands as one row. */
const MANY = 3;

/** What speaks against a release. */
interface Props {
  /** The shower as it stands now. */
  state: ShowerState;
  /** Key of the stage. */
  stage: string;
  /** What speaks against a release. */
  blockers: readonly Blocker[];
  /** It is released already: what is missing came later. */
  released: boolean;
  /** Goes to an element. */
  onChoose: (element: string) => void;
}

/** Blockers by their element; under "" what is of the whole stage. */
function byElement(blockers: readonly Blocker[]): Map<string, Blocker[]> {
  const groups = new Map<string, Blocker[]>();
  for (const b of blockers) groups.set(elementOf(b) ?? '', [...(groups.get(elementOf(b) ?? '') ?? []), b]);
  return groups;
}

/** What is missing, place by place. */
function Places({ state, blockers, onChoose }: Pick<Props, 'state' | 'blockers' | 'onChoose'>) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const model = state.geometry!.model;
  return (
    <ul>
      {[...byElement(blockers)].map(([element, list]) => {
        const lines = [...new Set(list.map((b) => blockerSentence(t, model, state.rules!.book, b, unit)))];
        return (
          <li key={element} className="border-hair border-b">
            {element === '' ? (
              <p className="py-2 text-sm">{lines.join(' ')}</p>
            ) : (
              <button
                type="button"
                className="min-h-12 w-full cursor-pointer py-1 text-left"
                data-element={element}
                onClick={() => onChoose(element)}
              >
                <span className={`font-semibold ${list.some(holds) ? 'text-hold' : ''}`}>
                  {elementName(t, model, element)}
                </span>
                <span className="block text-sm text-soft">{lines.join(' ')}</span>
              </button>
            )}
          </li>
        );
      })}
    </ul>
  );
}

/** What one check still asks of many places, with how many of them are done. */
interface Row {
  /** Id of the check. */
  check: string;
  /** The check in words. */
  label: string;
  /** What is missing, place by place. */
  blockers: Blocker[];
  /** Places that it is asked of, and those that need nothing more. */
  places: number;
  /** Of these, the ones that need nothing more. */
  done: number;
}

/** Rows of what is asked of many places, and everything else, what is wrong first. */
function rowsOf(state: ShowerState, stage: string, blockers: readonly Blocker[]): { single: Blocker[]; rows: Row[] } {
  const missing = new Map<string, Blocker[]>();
  for (const b of blockers)
    if (b.kind === 'check' && !holds(b)) missing.set(b.check, [...(missing.get(b.check) ?? []), b]);
  const asked = judgeStage(state, stage);
  const rows: Row[] = [];
  for (const [check, list] of missing) {
    const open = new Set(list.map(elementOf));
    if (open.size < MANY) continue;
    const mine = asked.filter((j) => j.requirement.check.id === check);
    const places = new Set(mine.map((j) => j.requirement.element));
    // A place that fails stands above the rows: it is no more done than one that is missing.
    const unsatisfied = new Set(mine.filter((j) => !j.satisfied).map((j) => j.requirement.element));
    const label = mine[0]!.requirement.check.label;
    rows.push({ check, label, blockers: list, places: places.size, done: places.size - unsatisfied.size });
  }
  const inRows = new Set(rows.flatMap((r) => r.blockers));
  return { single: blockers.filter((b) => !inRows.has(b)), rows };
}

/** Exactly what is missing before a stage may be released: what is asked of many places as one row that opens, place by place. */
export function WhatIsMissing({ state, stage, blockers, released, onChoose }: Props) {
  const { t } = useTranslation();
  const { single, rows } = useMemo(() => rowsOf(state, stage, blockers), [state, stage, blockers]);
  return (
    <div className="min-h-0 flex-1 overflow-y-auto" data-testid="missing">
      {blockers.length === 0 && !released && <p className="font-semibold">{t('stage.nothingMissing')}</p>}
      {blockers.length > 0 && !released && (
        <p className="font-semibold">{t('stage.missing', { count: blockers.length })}</p>
      )}
      {released && <p>{t('stage.released')}</p>}
      {!released && (
        <>
          <Places state={state} blockers={single} onChoose={onChoose} />
          {rows.map((row) => (
            <details key={row.check} className="border-hair border-b" data-check={row.check}>
              <summary className="flex min-h-12 cursor-pointer items-center gap-2 py-1 leading-tight">
                <span aria-hidden="true" className="opens" />
                <span className="flex-1 font-semibold">{row.label}</span>
                <span className="text-soft text-sm">{t('stage.rowDone', { count: row.places, done: row.done })}</span>
              </summary>
              <div className="pl-5">
                <Places state={state} blockers={row.blockers} onChoose={onChoose} />
              </div>
            </details>
          ))}
        </>
      )}
    </div>
  );
}
