import { placeOf } from '@careful-seam/core/checks/place';
import { drawsOf, lapRequirements } from '@careful-seam/core/checks/randomDraws';
import type { ShowerState } from '@careful-seam/core/log/state';
import { drawPlaces, samplingConfidence, samplingPlan } from '@careful-seam/core/membrane/samplingPlan';
import { parseLength, showLength } from '@careful-seam/core/units/length';
import { elementName, faceName } from '@careful-seam/words/texts/names';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useStore } from '../../tablet/store';
import { Choice } from '../../ui/Choice';
import { usePreferences } from '../../ui/preferences';
import { Sheet } from '../../ui/Sheet';
import { problemWords } from '../../ui/words';

/** Shares of short laps that can be ruled out. */
const SHARES = [0.05, 0.1] as const;
/** How sure: 95 of 100 draws would have found one. */
const CONFIDENCE = 0.95;

/** What the draws say so far. */
interface SaysProps {
  /** Places read, and how many of them were short. */
  read: number;
  /** Places that were outside the limit. */
  short: number;
  /** Places that must be read. */
  need: number;
  /** The share of short places that is ruled out. */
  share: number;
  /** What is read there, in words. */
  check: string;
}

/** What the places that were read say of all places of the check. */
function RandomSays({ read, short, need, share, check }: SaysProps) {
  const { t } = useTranslation();
  const sure = Math.floor(100 * samplingConfidence(read, share));
  return (
    <p
      className={`border-l-4 pl-2 text-lg leading-tight ${short > 0 ? 'border-hold text-hold' : 'border-ink'}`}
      data-testid="random-says"
      aria-live="polite"
    >
      {short > 0
        ? t('random.short', { count: short, of: read, check })
        : read === 0
          ? t('random.none', { need, check })
          : t('random.says', { count: read, need, sure, share: share * 100, check })}
    </p>
  );
}

/** The figure of one place. */
interface ValueProps {
  /** What is typed so far. */
  text: string;
  /** It is being written: what is typed stands until it is on the tablet. */
  isKept: boolean;
  /** Told of every key. */
  onText: (text: string) => void;
  /** Keeps it, and goes on to the next place. */
  onKeep: () => void;
}

/** The figure that was read, and the key that keeps it. */
function ValueField({ text, isKept, onText, onKeep }: ValueProps) {
  const { t } = useTranslation();
  return (
    <div className="flex gap-1.5">
      <input
        className="field font-bold text-2xl"
        aria-label={t('random.value')}
        value={text}
        readOnly={isKept}
        onChange={(e) => onText(e.target.value)}
        onKeyDown={(e) => e.key === 'Enter' && onKeep()}
      />
      <button type="button" className="key key-main flex-none text-lg" onClick={onKeep}>
        {t('look.keep')}
      </button>
    </div>
  );
}

/** Places drawn at random over all laps, one after the other, and what the clean ones show of all the rest. */
export function RandomSheet({
  showerId,
  state,
  stage,
  onClose,
}: {
  showerId: string;
  state: ShowerState;
  stage: string;
  onClose: () => void;
}) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const write = useStore((s) => s.write);
  const laps = useMemo(() => lapRequirements(state, stage), [state, stage]);
  const check = laps[0]!.check;
  const draws = useMemo(() => drawsOf(state, laps), [state, laps]);
  const { seed, read, short } = draws.at(-1)!;
  const [share, setShare] = useState<(typeof SHARES)[number]>(0.05);
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [keeping, setKeeping] = useState(false);
  const plan = samplingPlan({ mostShare: share, confidence: CONFIDENCE });
  const need = plan.ok ? plan.value.readings : 0;
  const places = useMemo(() => drawPlaces(laps, need, seed), [laps, need, seed]);
  const next = places.findIndex((_, i) => !read.has(i + 1));
  const place = places[next] ?? null;
  const model = state.geometry!.model;
  const keep = () => {
    if (keeping) return;
    const read = parseLength(text, unit, t('pad.value'));
    if (!read.ok) return setProblem(problemWords(read.problem));
    setProblem(null);
    setKeeping(true);
    // The figure leaves the field once it is on the tablet; where it could not be written the store says why.
    write(showerId, 'reading', {
      stage,
      check: check.id,
      place: placeOf(state, place!.element, place!.side ? { side: place!.side } : {}),
      atMm: place!.atMm,
      valueMm: read.value.mm,
      typed: text.trim().slice(0, 40),
      instrument: check.instrument,
      drawn: { seed, number: next + 1 },
    })
      .then(() => setText(''))
      .catch(() => {})
      .finally(() => setKeeping(false));
  };
  return (
    <Sheet title={t('random.title', { check: check.label })} onClose={onClose}>
      <p className="text-soft text-sm">{t('random.what')}</p>
      <Choice
        label={t('random.most')}
        value={share}
        options={SHARES.map((key) => ({
          key,
          label: t('random.share', { share: key * 100, count: key === 0.05 ? 59 : 29 }),
        }))}
        onChoose={setShare}
      />
      <RandomSays read={read.size} short={short} need={need} share={share} check={check.label} />
      {draws.slice(0, -1).map((d) => (
        <p key={d.seed} className="text-soft text-sm" data-testid="earlier-draw">
          {t(`random.over.${d.over ?? 'elsewhere'}`, { number: d.number, read: d.read.size, short: d.short })}
        </p>
      ))}
      {place ? (
        <div className="flex flex-col gap-2">
          <p className="leading-tight">
            <span className="block font-bold text-xl">
              {elementName(t, model, place.element)}
              {place.side && `, ${t('side', { part: faceName(t, model, place.side) })}`}
            </span>
            {t('random.at', { number: next + 1, of: need, at: showLength(place.atMm, unit) })}
          </p>
          <ValueField
            text={text}
            isKept={keeping}
            onKeep={keep}
            onText={(typed) => {
              setText(typed);
              setProblem(null);
            }}
          />
          {problem && (
            <p role="alert" className="text-hold">
              {problem}
            </p>
          )}
        </div>
      ) : (
        <p className="font-semibold">{t('random.all')}</p>
      )}
      <p className="text-soft text-sm">{t('random.source')}</p>
    </Sheet>
  );
}
