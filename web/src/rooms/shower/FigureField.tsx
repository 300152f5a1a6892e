import { placeOf } from '@careful-seam/core/checks/place';
import type { Requirement } from '@careful-seam/core/log/judgement';
import type { PhotoUse } from '@careful-seam/core/log/places';
import type { ShowerState } from '@careful-seam/core/log/state';
import type { Check } from '@careful-seam/core/rules/checks/check';
import type { NumberCheck } from '@careful-seam/core/rules/checks/figure';
import { linesOf } from '@careful-seam/core/rules/combineMethods';
import { labelOf } from '@careful-seam/core/rules/labelLimits';
import { figureStep, keysAround } from '@careful-seam/core/units/keysAround';
import { bareLength, parseLength } from '@careful-seam/core/units/length';
import { figureWords, limitWords } from '@careful-seam/words/sentences/sentences';
import type { TFunction } from 'i18next';
import { type ReactNode, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { oneTap, useResting } from '../../shared/oneTap';
import { PictureKey } from '../../shared/PictureKey';
import { useStore } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { type ValueKey, ValueKeys } from '../../ui/ValueKeys';
import { problemWords } from '../../ui/words';

/** The figure that is asked. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** What is asked: the check, the element it is asked of, and the side of a seam. */
  requirement: Requirement;
  /** Told of what was kept: sound, or outside its limit. */
  onKept?: (answer: 'ok' | 'defect') => void;
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

/** The values around a figure's limit, as keys. */
function figureKeys(t: TFunction, check: NumberCheck, unit: 'in' | 'mm'): ValueKey[] {
  if (check.limit === null) return [];
  const shown = (value: number) => (check.unit === 'mm' ? bareLength(value, unit) : String(value));
  return keysAround(check.limit, figureStep(check.limit, check.unit, unit)).map((value) => ({
    value,
    text: shown(value),
    name: figureWords(t, check.unit, value, unit),
    fails: isOutside(check, value),
  }));
}

/** Names of what showed proofs of this kind before, the newest first. */
function namesBefore(state: ShowerState, check: Check): string[] {
  const proof = check.kind === 'looked' ? check.proof : undefined;
  const same = new Set(
    state.requirements.flatMap((r) => (r.check.kind === 'looked' && r.check.proof === proof ? [r.check.id] : [])),
  );
  const told = [...state.evidence.values()].flat().filter((e) => e.shownBy !== null && same.has(e.check));
  return [...new Set(told.sort((a, b) => b.seq - a.seq).map((e) => e.shownBy!))].slice(0, 2);
}

/** What a figure is told in, or what its proof may be. */
function hintOf(t: TFunction, check: Check, unit: 'in' | 'mm'): string {
  if (check.kind === 'number')
    return `${t(`figure.unit.${check.unit}`, { context: unit })}; ${limitWords(t, check, unit)}`;
  return check.kind === 'looked' && check.proof ? t(`figure.proof.${check.proof}`) : '';
}

/** What shows it is a picture, taken now or before: with it the check is answered. */
function ProofKeys({ resting, onPictures }: { resting: boolean; onPictures: (photos: PhotoUse[]) => void }) {
  const { t } = useTranslation();
  return (
    <div className="flex gap-1.5">
      <PictureKey
        label={t('picture.proof')}
        from="camera"
        resting={resting}
        onPictures={onPictures}
        className="key-main flex-1"
      />
      <PictureKey
        label={t('picture.fromFiles')}
        from="files"
        resting={resting}
        onPictures={onPictures}
        className="px-2 text-sm"
      />
    </div>
  );
}

/** What is typed as an answer. */
interface TypedProps {
  /** What is asked. */
  check: Check;
  /** As it is typed. */
  text: string;
  /** Told of what is typed. */
  onText: (text: string) => void;
  /** What was typed can't be kept. */
  isWrong: boolean;
  /** Keeps it. */
  onKeep: () => void;
  /** More keys beside it. */
  children: ReactNode;
}

/** A figure or a name that is typed, kept by its key or by Enter. */
function TypedAnswer({ check, text, onText, isWrong, onKeep, children }: TypedProps) {
  const { t } = useTranslation();
  const resting = useResting();
  return (
    <div className="flex gap-1.5">
      <input
        className="field font-bold text-lg"
        value={text}
        inputMode={check.kind === 'number' ? 'decimal' : 'text'}
        onChange={(e) => onText(e.target.value)}
        onKeyDown={(e) => e.key === 'Enter' && onKeep()}
        aria-label={check.label}
        aria-invalid={isWrong}
      />
      {children}
      <button type="button" className="key key-main flex-none" aria-disabled={resting} onClick={onKeep}>
        {t('look.keep')}
      </button>
    </div>
  );
}

/** One figure, or the name of what shows it, for one element or for all like it: a tap on a key, or typed and kept. */
export function FigureField({ showerId, state, requirement, onKept }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const writeAll = useStore((s) => s.writeAll);
  const resting = useResting();
  const label = labelOf(requirement.check, state.rules!.pinned.method, linesOf(state.rules!.book, state.rules!.pinned));
  const fromLabel =
    label && requirement.check.fromLabel?.figure === 'permeancePerm' ? String(label.range.most ?? '') : '';
  const [text, setText] = useState(fromLabel);
  const [problem, setProblem] = useState<string | null>(null);
  const [all, setAll] = useState(false);
  const { check, stage, element } = requirement;
  const like = state.requirements.filter((r) => r.stage.key === stage.key && r.check.id === check.id);
  const elements = all ? [...new Set(like.map((r) => r.element))] : [element];
  const tell = async (more: { answer: 'ok' | 'defect'; number?: number; shownBy?: string; photos?: PhotoUse[] }) => {
    setProblem(null);
    const places = elements.map((e) => placeOf(state, e));
    try {
      await writeAll(showerId, [{ kind: 'look', body: { stage: stage.key, checks: [check.id], places, ...more } }]);
    } catch {
      // The store says why; what was typed stays.
      return;
    }
    setText((now) => (now === text ? '' : now));
    onKept?.(more.answer);
  };
  const tellFigure = (figure: number) =>
    tell({ answer: check.kind === 'number' && isOutside(check, figure) ? 'defect' : 'ok', number: figure });
  const keep = () => {
    if (check.kind === 'number') {
      const read = readFigure(text, check, unit);
      if ('problem' in read) return setProblem(read.problem || t('figure.needed', { check: check.label }));
      return oneTap(() => tellFigure(read.value));
    }
    if (text.trim() === '') return setProblem(t('figure.neededProof', { check: check.label }));
    oneTap(() => tell({ answer: 'ok', shownBy: text.trim() }));
  };
  const isPicture = check.kind === 'looked' && check.proof === 'photo';
  const names = check.kind === 'number' || isPicture ? [] : namesBefore(state, check);
  return (
    <fieldset
      className="flex flex-col gap-1 border-hair border-t pt-1"
      aria-label={check.label}
      data-testid="figure"
      data-kind={check.kind}
    >
      <span className="text-sm leading-tight">
        {check.label} <span className="text-soft">({hintOf(t, check, unit)})</span>
      </span>
      {check.kind === 'number' && (
        <ValueKeys
          label={t('pad.around')}
          keys={figureKeys(t, check, unit)}
          resting={resting}
          onValue={({ value }) => oneTap(() => tellFigure(value))}
        />
      )}
      {names.map((name) => (
        <button
          key={name}
          type="button"
          className="key text-left leading-tight"
          aria-disabled={resting}
          onClick={() => oneTap(() => tell({ answer: 'ok', shownBy: name }))}
        >
          {t('figure.again', { name })}
        </button>
      ))}
      {isPicture ? (
        <ProofKeys resting={resting} onPictures={(photos) => oneTap(() => tell({ answer: 'ok', photos }))} />
      ) : (
        <TypedAnswer check={check} text={text} onText={setText} isWrong={problem !== null} onKeep={keep}>
          {like.length > 1 && (
            <button
              type="button"
              className="key flex-none px-2 text-sm"
              aria-pressed={all}
              onClick={() => setAll(!all)}
            >
              {t('figure.all', { count: new Set(like.map((r) => r.element)).size })}
            </button>
          )}
        </TypedAnswer>
      )}
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
