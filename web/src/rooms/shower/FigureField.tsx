import type { Requirement } from '@careful-seam/core/log/judgement';
import type { ShowerState } from '@careful-seam/core/log/state';
import type { NumberCheck } from '@careful-seam/core/rules/checks/figure';
import { linesOf } from '@careful-seam/core/rules/combineMethods';
import { labelOf } from '@careful-seam/core/rules/labelLimits';
import { parseLength } from '@careful-seam/core/units/length';
import { limitWords } from '@careful-seam/words/sentences/sentences';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { placeOf } from '../../shared/runs';
import { useStore } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { problemWords } from '../../ui/words';

/** The figure that is asked. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** What is asked: the check, the element it is asked of, and the side of a seam. */
  requirement: Requirement;
}

/** What is typed as a figure in the check's unit: lengths as people write them, all else as a plain number. */
function readFigure(text: string, check: NumberCheck, unit: 'in' | 'mm'): { value: number } | { problem: string } {
  if (check.unit === 'mm') {
    const sign = text.trim().startsWith('-') ? -1 : 1;
    const read = parseLength(text.trim().replace(/^-/, ''), unit, check.label);
    return read.ok ? { value: sign * read.value.mm } : { problem: problemWords(read.problem) };
  }
  const value = Number(text.trim().replace(',', '.'));
  return text.trim() === '' || !Number.isFinite(value) ? { problem: '' } : { value };
}

/** True for a figure outside its limit. */
const isOutside = ({ limit }: NumberCheck, value: number): boolean =>
  limit !== null && ((limit.atLeast ?? value) > value || (limit.atMost ?? value) < value);

/** One figure, or the name of what shows it, for one element or for all like it. */
export function FigureField({ showerId, state, requirement }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const writeAll = useStore((s) => s.writeAll);
  const label = labelOf(requirement.check, state.rules!.pinned.method, linesOf(state.rules!.book, state.rules!.pinned));
  const fromLabel =
    label && requirement.check.fromLabel?.figure === 'permeancePerm' ? String(label.range.most ?? '') : '';
  const [text, setText] = useState(fromLabel);
  const [problem, setProblem] = useState<string | null>(null);
  const [all, setAll] = useState(false);
  const { check, stage, element } = requirement;
  const like = state.requirements.filter((r) => r.stage.key === stage.key && r.check.id === check.id);
  const elements = all ? [...new Set(like.map((r) => r.element))] : [element];
  const keep = () => {
    const places = elements.map((e) => placeOf(state, e));
    const body = { stage: stage.key, checks: [check.id], places };
    // What was typed leaves the field once it is on the tablet; where it could not be written the store says why.
    const kept = () => setText((now) => (now === text ? '' : now));
    const stays = () => {};
    if (check.kind === 'number') {
      const read = readFigure(text, check, unit);
      if ('problem' in read) return setProblem(read.problem || t('figure.needed', { check: check.label }));
      const answer = isOutside(check, read.value) ? ('defect' as const) : ('ok' as const);
      writeAll(showerId, [{ kind: 'look', body: { ...body, answer, number: read.value } }]).then(kept, stays);
    } else {
      if (text.trim() === '') return setProblem(t('figure.neededProof', { check: check.label }));
      writeAll(showerId, [{ kind: 'look', body: { ...body, answer: 'ok', shownBy: text.trim() } }]).then(kept, stays);
    }
    setProblem(null);
  };
  const hint =
    check.kind === 'number'
      ? `${t(`figure.unit.${check.unit}`, { context: unit })}; ${limitWords(t, check, unit)}`
      : check.kind === 'looked' && check.proof
        ? t(`figure.proof.${check.proof}`)
        : '';
  return (
    <fieldset
      className="flex flex-col gap-1 border-hair border-t pt-1"
      aria-label={check.label}
      data-testid="figure"
      data-kind={check.kind}
    >
      <span className="text-sm leading-tight">
        {check.label} <span className="text-soft">({hint})</span>
      </span>
      <div className="flex gap-1.5">
        <input
          className="field font-bold text-lg"
          value={text}
          inputMode={check.kind === 'number' ? 'decimal' : 'text'}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => e.key === 'Enter' && keep()}
          aria-label={check.label}
          aria-invalid={problem !== null}
        />
        {like.length > 1 && (
          <button type="button" className="key flex-none px-2 text-sm" aria-pressed={all} onClick={() => setAll(!all)}>
            {t('figure.all', { count: new Set(like.map((r) => r.element)).size })}
          </button>
        )}
        <button type="button" className="key key-main flex-none" onClick={keep}>
          {t('look.keep')}
        </button>
      </div>
      {label && (
        <p className="text-soft text-sm">
          {t('lines.fromLabel', { name: label.line.name, readFrom: label.line.readFrom })}
        </p>
      )}
      {problem !== null && (
        <p role="alert" className="text-hold text-sm">
          {problem}
        </p>
      )}
    </fieldset>
  );
}
