import { elementName, faceName } from '@careful-seam/contract/texts/names';
import { outsideLimit } from '@careful-seam/core/proof/judgeReadings';
import type { Requirement, ShowerState } from '@careful-seam/core/proof/state';
import type { MeasuredCheck } from '@careful-seam/core/rules/ruleBook';
import { drawPlaces, samplingConfidence, samplingPlan } from '@careful-seam/core/sampling/samplingPlan';
import { parseLength, showLength } from '@careful-seam/core/units/length';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { placeOf } from '../card/runs';
import { Choice } from '../shell/Choice';
import { Sheet } from '../shell/Sheet';
import { usePreferences } from '../state/preferences';
import { useStore } from '../state/store';

type Lap = Requirement & { check: MeasuredCheck };

/** The measured seams of a stage that places can be drawn on: those of the check with the longest lines. */
export function lapRequirements(state: ShowerState, stage: string): Lap[] {
  const all = state.requirements.filter(
    (r): r is Lap =>
      r.stage.key === stage && r.hasLength && r.check.kind === 'measured' && r.check.limit.atLeastMm !== undefined,
  );
  const total = (id: string) => all.filter((r) => r.check.id === id).reduce((sum, r) => sum + r.lengthMm, 0);
  const ids = [...new Set(all.map((r) => r.check.id))].sort((a, b) => total(b) - total(a));
  return all.filter((r) => r.check.id === ids[0]);
}

const SHARES = [0.05, 0.1] as const;
const CONFIDENCE = 0.95;

/** The seed of a shower's draw: kept with its readings, so that a new tablet goes on with the same places. */
function seedOf(state: ShowerState, check: string): number | null {
  for (const list of state.evidence.values())
    for (const e of list) if (e.check === check && e.drawn && !e.voided) return e.drawn.seed;
  return null;
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
  const [fresh] = useState(() => crypto.getRandomValues(new Uint32Array(1))[0]!);
  const seed = seedOf(state, check.id) ?? fresh;
  const [share, setShare] = useState<(typeof SHARES)[number]>(0.05);
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const plan = samplingPlan({ mostShare: share, confidence: CONFIDENCE });
  const need = plan.ok ? plan.value.readings : 0;
  const places = useMemo(() => drawPlaces(laps, need, seed), [laps, need, seed]);
  const taken = [...state.evidence.values()]
    .flat()
    .filter((e) => e.check === check.id && e.drawn?.seed === seed && !e.voided && !e.lookAgain);
  const short = taken.filter((e) => outsideLimit(check, e.valueMm!)).length;
  const done = new Set(taken.map((e) => e.drawn!.number));
  const next = places.findIndex((_, i) => !done.has(i + 1));
  const place = places[next] ?? null;
  const model = state.geometry!.model;
  const keep = () => {
    const read = parseLength(text, unit, t('pad.value'));
    if (!read.ok) return setProblem(read.problem.message);
    setProblem(null);
    setText('');
    void write(showerId, 'reading', {
      stage,
      check: check.id,
      place: placeOf(state, place!.element, place!.side ? { side: place!.side } : {}),
      atMm: place!.atMm,
      valueMm: read.value.mm,
      typed: text.trim().slice(0, 40),
      instrument: check.instrument,
      drawn: { seed, number: next + 1 },
    });
  };
  const sure = Math.floor(100 * samplingConfidence(taken.length, share));
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
      <p
        className={`border-l-4 pl-2 text-lg leading-tight ${short > 0 ? 'border-hold text-hold' : 'border-ink'}`}
        data-testid="random-says"
        aria-live="polite"
      >
        {short > 0
          ? t('random.short', { count: short, of: taken.length })
          : taken.length === 0
            ? t('random.none', { need })
            : t('random.says', { count: taken.length, need, sure, share: share * 100 })}
      </p>
      {place ? (
        <div className="flex flex-col gap-2">
          <p className="leading-tight">
            <span className="block font-bold text-xl">
              {elementName(t, model, place.element)}
              {place.side && `, ${t('side', { part: faceName(t, model, place.side) })}`}
            </span>
            {t('random.at', { number: next + 1, of: need, at: showLength(place.atMm, unit) })}
          </p>
          <div className="flex gap-1.5">
            <input
              className="field font-bold text-2xl"
              aria-label={t('random.value')}
              value={text}
              onChange={(e) => {
                setText(e.target.value);
                setProblem(null);
              }}
              onKeyDown={(e) => e.key === 'Enter' && keep()}
            />
            <button type="button" className="key key-main flex-none text-lg" onClick={keep}>
              {t('look.keep')}
            </button>
          </div>
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
