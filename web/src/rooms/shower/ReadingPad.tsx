import { judge } from '@careful-seam/core/checks/judge';
import { outsideLimit } from '@careful-seam/core/checks/measured';
import { plannedReadings } from '@careful-seam/core/crews/plannedReadings';
import type { Judgement, Requirement } from '@careful-seam/core/log/judgement';
import type { ShowerState } from '@careful-seam/core/log/state';
import { isOf } from '@careful-seam/core/rules/checks/check';
import type { MeasuredCheck } from '@careful-seam/core/rules/checks/measured';
import { gaugeStepMm, keysAround, type LimitOfKeys } from '@careful-seam/core/units/keysAround';
import { bareLength, showLength } from '@careful-seam/core/units/length';
import { limitWords, raisedWords } from '@careful-seam/words/sentences/sentences';
import { faceName } from '@careful-seam/words/texts/names';
import { useEffect, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { oneTap, useResting } from '../../shared/oneTap';
import { useStore } from '../../tablet/store';
import { FractionPad, readPad } from '../../ui/FractionPad';
import { usePreferences } from '../../ui/preferences';
import { type ValueKey, ValueKeys } from '../../ui/ValueKeys';
import { type KeptReading, useReading } from './useReading';

/** The check that is read, a requirement for each side. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** The measured check on this element, one requirement a side. */
  requirements: readonly Requirement[];
  /** The side that was chosen; null for the one that asks for it. */
  side: string | null;
  /** Told of another side. */
  onSide: (side: string | null) => void;
  /** Leaves the last values out where the card has more to say. */
  brief: boolean;
  /** Told of a reading that was kept, with its judgement before. */
  onKept?: (kept: KeptReading, check: MeasuredCheck) => void;
}

/** The side to measure next: the one chosen, else the first that still needs readings. */
export function sideToMeasure(
  state: ShowerState,
  requirements: readonly Requirement[],
  chosen: string | null,
): Judgement {
  const judged = requirements.map((r) => judge(state, r));
  return (
    judged.find((j) => j.requirement.side === chosen) ??
    judged.find((j) => j.verdict === 'fail') ??
    judged.find((j) => j.nextAtMm !== null) ??
    judged[0]!
  );
}

/** What the firm's plan asks for here beyond the usual, and how much of it is left. */
function PlanWords({ state, now }: { state: ShowerState; now: Judgement }) {
  const { t } = useTranslation();
  const plan = useStore((s) => s.lookPlan);
  const planned = plannedReadings(state, plan, now.requirement);
  if (planned === null) return null;
  const left = Math.max(0, planned - now.readings.length);
  return (
    <p className="border-cure border-l-4 pl-2 text-sm" data-testid="look-plan-words">
      {t('pad.plan', { planned })} {t('pad.planLeft', { count: left })}
    </p>
  );
}

/** So many values beside the keys around the limit. */
const LAST_AT_MOST = 5;

/** The keys of a check: the values around its limit, and those that were read of it last, each where it first stood. */
function useKeys(state: ShowerState, check: MeasuredCheck): { around: ValueKey[]; last: ValueKey[]; stepMm: number } {
  const { unit } = usePreferences();
  const { atLeastMm, atMostMm } = check.limit;
  // A rule is read in whole millimetres, and the key of a limit must keep it.
  const limit: LimitOfKeys =
    unit === 'in'
      ? { atLeast: atLeastMm, atMost: atMostMm }
      : { atLeast: atLeastMm && Math.ceil(atLeastMm - 1e-6), atMost: atMostMm && Math.floor(atMostMm + 1e-6) };
  const stepMm = gaugeStepMm(limit, unit);
  const key = (value: number): ValueKey => ({
    value,
    text: bareLength(value, unit),
    name: showLength(value, unit),
    fails: outsideLimit(check, value),
  });
  const around = keysAround(limit, stepMm).map(key);
  const read = [...state.evidence.values()].flat().filter((e) => e.check === check.id && e.valueMm !== null && !e.film);
  read.sort((a, b) => b.seq - a.seq);
  const texts = new Set(around.map((k) => k.text));
  const last = [...new Map(read.map((e) => [bareLength(e.valueMm!, unit), e])).values()]
    .filter((e) => !texts.has(bareLength(e.valueMm!, unit)))
    .sort((a, b) => b.seq - a.seq)
    .slice(0, LAST_AT_MOST)
    // A key must not move under the finger because another was tapped.
    .sort((a, b) => a.valueMm! - b.valueMm!)
    .map((e) => key(e.valueMm!));
  return { around, last, stepMm };
}

/** Which of the laps of a seam is read. */
function SideKeys({ state, requirements, side, onSide }: Pick<Props, 'state' | 'requirements' | 'side' | 'onSide'>) {
  const { t } = useTranslation();
  return (
    <fieldset className="grid grid-cols-2 gap-1" aria-label={t('pad.side')}>
      {requirements.map((r) => (
        <button
          type="button"
          key={r.side}
          className="key px-1 text-sm"
          aria-pressed={r.side === side}
          onClick={() => onSide(r.side)}
        >
          {t('side', { part: faceName(t, state.geometry!.model, r.side!) })} · {judge(state, r).readings.length}
        </button>
      ))}
    </fieldset>
  );
}

/** Where along the seam it is read: proposed, and moved by the marks of a tape. */
function PlaceField({ reading }: { reading: ReturnType<typeof useReading> }) {
  const { t } = useTranslation();
  return (
    <div>
      <span className="text-soft text-sm">{t('pad.atWord')}</span>
      <div className="flex items-center gap-1">
        <button type="button" className="key px-0" onClick={reading.stepBack} aria-label={t('pad.back')}>
          −
        </button>
        <input
          className="min-h-12 w-20 border-edge border-b-2 bg-transparent text-center font-bold text-2xl text-ink"
          value={reading.at}
          onChange={(e) => reading.setAt(e.target.value)}
          onKeyDown={(e) => e.key === 'Enter' && void reading.keep(reading.text)}
          aria-label={t('pad.at')}
        />
        <button type="button" className="key px-0" onClick={reading.stepOn} aria-label={t('pad.forward')}>
          +
        </button>
      </div>
    </div>
  );
}

/** Begins a figure with the first digit that is typed outside a field. */
function useDigits(input: React.RefObject<HTMLInputElement | null>, onBegin: () => void): void {
  const begin = useRef(onBegin);
  useEffect(() => {
    begin.current = onBegin;
  });
  useEffect(() => {
    const type = ({ target, key, metaKey, ctrlKey }: KeyboardEvent) => {
      const inField =
        target instanceof HTMLInputElement ||
        target instanceof HTMLTextAreaElement ||
        target instanceof HTMLSelectElement;
      if (inField || !/^\d$/.test(key) || metaKey || ctrlKey) return;
      begin.current();
      input.current?.focus();
    };
    window.addEventListener('keydown', type);
    return () => window.removeEventListener('keydown', type);
  }, [input]);
}

/** What was typed is far from its limit, or lacks a space: what was likely meant beside what stands there, a tap each. */
function DoubtKeys({ reading: { doubt, keep } }: { reading: ReturnType<typeof useReading> }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const resting = useResting();
  if (!doubt) return null;
  const { meant, typed, mm } = doubt;
  return (
    <div role="alert" className="flex flex-wrap items-center gap-1.5 border-cure border-l-4 pl-2" data-testid="doubt">
      <p className="flex-1">{t('pad.doubt', { value: showLength(mm, unit) })}</p>
      {meant !== null && (
        <button
          type="button"
          className="key key-main"
          aria-disabled={resting}
          onClick={() => oneTap(() => keep(meant))}
        >
          {t('pad.meant', { value: `${meant} ${unit}` })}
        </button>
      )}
      <button type="button" className="key" aria-disabled={resting} onClick={() => oneTap(() => keep(typed))}>
        {t('pad.asTyped', { value: showLength(mm, unit) })}
      </button>
    </div>
  );
}

/** A reading is one tap where its value stands on a key, else its value and one tap: the place comes with the next useful one. */
export function ReadingPad({ showerId, state, requirements, side, onSide, brief, onKept }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const resting = useResting();
  const now = sideToMeasure(state, requirements, side);
  const { requirement } = now;
  const check = requirement.check;
  if (!isOf(check, 'measured')) throw new Error('only measured checks have a pad');
  const reading = useReading(showerId, state, now, check, (kept) => onKept?.(kept, check));
  const { text, type, writing, keep, problem } = reading;
  const { around, last, stepMm } = useKeys(state, check);
  const input = useRef<HTMLInputElement>(null);
  useDigits(input, () => type(''));
  const tap = (key: ValueKey) => oneTap(() => keep(key.text));

  return (
    <section aria-label={t('pad.label', { check: check.label })} className="flex flex-col gap-1.5">
      {requirements.length > 1 && (
        <SideKeys state={state} requirements={requirements} side={requirement.side} onSide={onSide} />
      )}
      <div className="flex items-end gap-2">
        <label className="flex-1">
          <span className="text-soft text-sm">
            {check.label}, {limitWords(t, check, unit)}
            {raisedWords(t, requirement)}
          </span>
          <span className="flex items-baseline gap-1">
            <input
              ref={input}
              className="min-h-12 w-full min-w-0 border-edge border-b-2 bg-transparent font-bold text-4xl text-ink"
              value={text}
              // What is typed behind a figure that is being written begins the next one.
              onChange={({ target: { value } }) =>
                type(writing !== null && value.startsWith(writing) ? value.slice(writing.length) : value)
              }
              data-figure
              onKeyDown={(e) => e.key === 'Enter' && void keep(text)}
              aria-label={t('pad.value')}
              aria-invalid={text !== '' && readPad(text, unit) === null}
              placeholder="–"
            />
            <span className="text-lg">{unit}</span>
          </span>
        </label>
        {requirement.hasLength && <PlaceField reading={reading} />}
      </div>
      <ValueKeys label={t('pad.around')} keys={around} resting={resting} onValue={tap} />
      {!brief && <ValueKeys label={t('pad.last')} keys={last} resting={resting} onValue={tap} />}
      <FractionPad
        unit={unit}
        aboutMm={check.limit.atLeastMm ?? check.limit.atMostMm ?? 0}
        text={writing === null ? text : ''}
        onText={type}
        stepMm={stepMm}
      >
        <button
          type="button"
          className="key key-main px-1 text-lg"
          onClick={() => void keep(text)}
          disabled={text.trim() === ''}
        >
          {text.trim() === ''
            ? t('pad.none')
            : t(requirement.hasLength ? 'pad.keep' : 'pad.keepWhole', { value: text, at: reading.at })}
        </button>
      </FractionPad>
      <PlanWords state={state} now={now} />
      <DoubtKeys reading={reading} />
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
    </section>
  );
}
