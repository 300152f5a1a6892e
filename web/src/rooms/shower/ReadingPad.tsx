import { judge } from '@careful-seam/core/checks/judge';
import { plannedReadings } from '@careful-seam/core/crews/plannedReadings';
import type { Judgement, Requirement } from '@careful-seam/core/log/judgement';
import type { ShowerState } from '@careful-seam/core/log/state';
import { weakestPlace } from '@careful-seam/core/membrane/laps';
import { isOf } from '@careful-seam/core/rules/checks/check';
import { MM_PER_INCH, parseLength, showLength } from '@careful-seam/core/units/length';
import { limitWords, raisedWords } from '@careful-seam/words/sentences/sentences';
import { faceName } from '@careful-seam/words/texts/names';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { placeOf } from '../../shared/runs';
import { useStore } from '../../tablet/store';
import { FractionPad, readPad } from '../../ui/FractionPad';
import { usePreferences } from '../../ui/preferences';
import { problemWords } from '../../ui/words';

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

/** Last values of the same check in this shower, newest first, each once. */
function lastValues(state: ShowerState, check: string): number[] {
  const all = [...state.evidence.values()].flat().filter((e) => e.check === check && e.valueMm !== null);
  all.sort((a, b) => (a.observedAt < b.observedAt ? 1 : -1));
  return [...new Set(all.map((e) => e.valueMm!))];
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

/** A reading is its value and one tap: the place comes prefilled with the next useful one. */
export function ReadingPad({ showerId, state, requirements, side, onSide, brief }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const write = useStore((s) => s.write);
  const now = sideToMeasure(state, requirements, side);
  const { requirement } = now;
  const check = requirement.check;
  if (!isOf(check, 'measured')) throw new Error('only measured checks have a pad');
  const last = lastValues(state, check.id);
  const [text, setText] = useState('');
  const [atMm, setAtMm] = useState<number | null>(null);
  const [atText, setAtText] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  /** The figure that is being written, until it is on the tablet or another one is typed. */
  const [writing, setWriting] = useState<string | null>(null);
  const typings = useRef(0);
  const type = (next: string) => {
    typings.current += 1;
    setWriting(null);
    setText(next);
  };
  // Once the pattern is met, the place that is known the least is proposed.
  const weakest =
    now.nextAtMm === null && requirement.hasLength
      ? weakestPlace(
          now.readings.map((r) => ({ atMm: r.atMm, lapMm: r.valueMm! })),
          requirement.lengthMm,
        )
      : null;
  // A hand puts a tape on a whole inch (or centimetre), not on a sixteenth.
  const tapeMark = unit === 'mm' ? 10 : MM_PER_INCH;
  const proposed = weakest && Math.round(weakest.atMm / tapeMark) * tapeMark;
  const place = Math.min(requirement.lengthMm, atMm ?? now.nextAtMm ?? proposed ?? requirement.lengthMm / 2);

  useEffect(() => {
    const type = (event: KeyboardEvent) => {
      const inField =
        event.target instanceof HTMLInputElement ||
        event.target instanceof HTMLTextAreaElement ||
        event.target instanceof HTMLSelectElement;
      if (!inField && /^\d$/.test(event.key) && !event.metaKey && !event.ctrlKey) {
        typings.current += 1;
        setWriting(null);
        setText('');
        input.current?.focus();
      }
    };
    window.addEventListener('keydown', type);
    return () => window.removeEventListener('keydown', type);
  }, []);

  const keep = () => {
    if (writing !== null) return;
    const read = parseLength(text, unit, t('pad.value'));
    if (!read.ok) return setProblem(problemWords(read.problem));
    let at = place;
    if (atText !== null) {
      const readAt = parseLength(atText, unit, t('pad.at'));
      if (!readAt.ok) return setProblem(problemWords(readAt.problem));
      at = readAt.value.mm;
    }
    if (requirement.hasLength && at > requirement.lengthMm + 0.8)
      return setProblem(t('pad.beyond', { length: showLength(requirement.lengthMm, unit) }));
    setProblem(null);
    const place_ = placeOf(state, requirement.element, requirement.side ? { side: requirement.side } : {});
    // The figure leaves the pad once it is on the tablet: what vanishes is kept, what could not be written still stands.
    const typing = typings.current;
    setWriting(text);
    write(showerId, 'reading', {
      stage: requirement.stage.key,
      check: check.id,
      place: place_,
      atMm: requirement.hasLength ? Math.min(at, requirement.lengthMm) : 0,
      valueMm: read.value.mm,
      typed: text.slice(0, 40),
      instrument: check.instrument,
    }).then(
      () => {
        if (typings.current === typing) type('');
        setAtMm((now) => (now === atMm ? null : now));
        setAtText((now) => (now === atText ? null : now));
      },
      // The store says why.
      () => setWriting(null),
    );
  };
  const step = (by: number) => {
    setAtText(null);
    setAtMm(Math.max(0, Math.min(requirement.lengthMm, place + by)));
  };
  const stepMm = unit === 'in' ? 25.4 : 20;
  const placeText = showLength(place, unit).replace(/ (in|mm)$/, '');

  return (
    <section aria-label={t('pad.label', { check: check.label })} className="flex flex-col gap-1.5">
      {requirements.length > 1 && (
        <fieldset className="grid grid-cols-2 gap-1" aria-label={t('pad.side')}>
          {requirements.map((r) => (
            <button
              type="button"
              key={r.side}
              className="key px-1 text-sm"
              aria-pressed={r.side === requirement.side}
              onClick={() => onSide(r.side)}
            >
              {t('side', { part: faceName(t, state.geometry!.model, r.side!) })} · {judge(state, r).readings.length}
            </button>
          ))}
        </fieldset>
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
              onKeyDown={(e) => e.key === 'Enter' && keep()}
              aria-label={t('pad.value')}
              aria-invalid={text !== '' && readPad(text, unit) === null}
              placeholder="–"
            />
            <span className="text-lg">{unit}</span>
          </span>
        </label>
        {requirement.hasLength && (
          <div>
            <span className="text-soft text-sm">{t('pad.atWord')}</span>
            <div className="flex items-center gap-1">
              <button type="button" className="key px-0" onClick={() => step(-stepMm)} aria-label={t('pad.back')}>
                −
              </button>
              <input
                className="min-h-12 w-20 border-edge border-b-2 bg-transparent text-center font-bold text-2xl text-ink"
                value={atText ?? placeText}
                onChange={(e) => setAtText(e.target.value)}
                onKeyDown={(e) => e.key === 'Enter' && keep()}
                aria-label={t('pad.at')}
              />
              <button type="button" className="key px-0" onClick={() => step(stepMm)} aria-label={t('pad.forward')}>
                +
              </button>
            </div>
          </div>
        )}
      </div>
      <FractionPad
        unit={unit}
        aboutMm={check.limit.atLeastMm ?? check.limit.atMostMm ?? 0}
        text={writing === null ? text : ''}
        onText={type}
        last={brief ? [] : last}
      >
        <button type="button" className="key key-main px-1 text-lg" onClick={keep} disabled={text.trim() === ''}>
          {text.trim() === ''
            ? t('pad.none')
            : t(requirement.hasLength ? 'pad.keep' : 'pad.keepWhole', { value: text, at: atText ?? placeText })}
        </button>
      </FractionPad>
      <PlanWords state={state} now={now} />
      {problem && (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      )}
    </section>
  );
}
