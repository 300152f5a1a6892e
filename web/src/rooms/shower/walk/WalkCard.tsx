import { outsideLimit, readingFails } from '@careful-seam/core/checks/measured';
import { placeOf } from '@careful-seam/core/checks/place';
import type { Stop } from '@careful-seam/core/checks/walk';
import { seamLine } from '@careful-seam/core/proof/shown/seamLine';
import { showLength } from '@careful-seam/core/units/length';
import { verdictSentence } from '@careful-seam/words/sentences/sentences';
import { elementName, faceName, thingName } from '@careful-seam/words/texts/names';
import { useTranslation } from 'react-i18next';
import { SeamStrip } from '../../../drawing/SeamStrip';
import { oneTap, useResting } from '../../../shared/oneTap';
import { type LocalShower, useStore } from '../../../tablet/store';
import { hotkey } from '../../../ui/hotkeys';
import { usePreferences } from '../../../ui/preferences';
import { FigureField } from '../FigureField';
import { KeepKey } from '../KeepKey';
import { ReadingPad } from '../ReadingPad';
import { atTapeMark } from '../useReading';
import { LookStop } from './LookStop';
import { RestKey } from './RestKey';
import { ReviewStop } from './ReviewStop';
import type { Walk } from './useWalk';
import { WalkEnd } from './WalkEnd';
import { WorkStop } from './WorkStop';

/** The walk, and what its card leads to. */
interface Props {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** Key of the stage that is walked. */
  stage: string;
  /** Where the walk stands. */
  walk: Walk;
  /** Opens the card of an element, to answer what is not as the rest. */
  onElement: (element: string) => void;
  /** Opens the sheet of a new defect at an element. */
  onDefect: (element: string) => void;
  /** Goes on with the walk of the next stage; null behind the last. */
  onNext: (() => void) | null;
  /** Ends the walk: the stage's card again. */
  onStop: () => void;
}

/** The element that a stop asks about; null where it is the whole thing. */
export const elementOfStop = (stop: Stop): string | null =>
  stop.asks === 'look' ? null : stop.judgements[0]!.requirement.element;

/** What a stop is about: the thing, the element and its side, and how far the walk is. */
function WalkHead({
  shower,
  stage,
  walk: { stop, left },
  onStop,
}: Pick<Props, 'shower' | 'stage' | 'walk' | 'onStop'>) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { state } = shower;
  const model = state.geometry!.model;
  const label = state.rules!.method.stages.find((s) => s.key === stage)!.label;
  const element = stop && elementOfStop(stop);
  const seam = element ? state.seamById.get(element) : undefined;
  const side = stop ? stop.judgements[0]!.requirement.side : null;
  const upright = seam && seam.highMm - seam.lowMm > seam.lengthMm * 0.7;
  return (
    <header className="flex items-start gap-2">
      <div className="min-w-0 flex-1">
        <h2 className="font-bold text-lg leading-tight" id="map-choice">
          {stop ? (element ? elementName(t, model, element) : thingName(t, model, stop.thing)) : label}
          {element && side && <span className="text-water"> · {t('side', { part: faceName(t, model, side) })}</span>}
        </h2>
        <p className="text-soft text-sm">
          {seam && `${t(upright ? 'card.upright' : 'card.level', { length: showLength(seam.lengthMm, unit) })} · `}
          <span data-testid="walk-left">{t('walk.left', { count: left, stage: label })}</span>
        </p>
      </div>
      <KeepKey
        showerId={shower.id}
        state={state}
        stage={stage}
        element={stop && (element ?? stop.thing.elements[0]!)}
      />
      <button type="button" className="key" onClick={onStop}>
        {t('walk.stop')}
      </button>
    </header>
  );
}

/** What is asked at a place: a reading or a figure, with the seam stretched out above it. */
function PlaceStop({ shower, stop, walk }: { shower: LocalShower; stop: Stop; walk: Walk }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { state } = shower;
  const now = atTapeMark(stop.judgements[0]!, unit);
  const { requirement } = now;
  const { element, side } = requirement;
  const seam = state.seamById.get(element);
  return (
    <>
      {seam && stop.asks === 'reading' && (
        <SeamStrip
          line={seamLine(state, seam, [now])}
          lengthMm={seam.lengthMm}
          readings={now.readings}
          short={(e) => readingFails(requirement.check, e.valueMm!)}
          nextAtMm={now.nextAtMm}
          unit={unit}
        />
      )}
      <p className="text-[15px] text-soft leading-snug" aria-live="polite">
        {verdictSentence(t, state.geometry!.model, now, unit)}
      </p>
      <div className="flex-1" />
      {stop.asks === 'reading' && <RestKey shower={shower} stops={walk.stops} stop={stop} />}
      {stop.asks === 'reading' ? (
        <ReadingPad
          key={stop.key}
          showerId={shower.id}
          state={state}
          requirements={[requirement]}
          side={side}
          onSide={() => {}}
          brief={false}
          onKept={({ valueMm }, check) => outsideLimit(check, valueMm) && walk.stay()}
        />
      ) : (
        <FigureField
          key={stop.key}
          showerId={shower.id}
          state={state}
          requirement={requirement}
          onKept={(answer) => answer === 'defect' && walk.stay()}
        />
      )}
    </>
  );
}

/** Ways on from a stop without its answer: back, past it, could not see, a defect, all of its card. */
function StopKeys({
  shower,
  stage,
  stop,
  walk,
  onElement,
  onDefect,
}: Omit<Props, 'onNext' | 'onStop'> & { stop: Stop }) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const resting = useResting();
  const element = elementOfStop(stop);
  const { id, state } = shower;
  /** What came under a finger that taps twice takes no tap: nothing is skipped or opened by it. */
  const once = (act: () => void) => ({ 'aria-disabled': resting, onClick: () => !resting && act() });
  const cantSee = () => {
    const { check } = stop.judgements[0]!.requirement;
    const groups = element ? [{ checks: [check.id], places: [placeOf(state, element)] }] : stop.groups;
    const body = { stage, answer: 'could-not-see' as const };
    oneTap(() =>
      writeAll(
        id,
        groups.map((g) => ({ kind: 'look' as const, body: { ...body, ...g } })),
      ),
    );
  };
  return (
    <div className="grid grid-cols-5 gap-1">
      <button
        type="button"
        className="key px-1 text-sm"
        disabled={!walk.back}
        {...hotkey('back')}
        {...once(() => walk.back?.())}
      >
        {t('walk.back')}
      </button>
      <button type="button" className="key px-1 text-sm" {...hotkey('next')} {...once(walk.skip)}>
        {t('walk.skip')}
      </button>
      <button
        type="button"
        className="key px-1 text-sm leading-tight"
        disabled={stop.asks === 'work'}
        aria-disabled={resting}
        {...hotkey('notSeen')}
        onClick={cantSee}
      >
        {t('look.cantSee')}
      </button>
      <button
        type="button"
        className="key key-hold px-1 text-sm"
        disabled={element === null && stop.groups.flatMap((g) => g.places).length > 1}
        {...hotkey('defect')}
        {...once(() => onDefect(element ?? stop.groups[0]!.places[0]!.element))}
      >
        {t('answer.defect')}
      </button>
      <button
        type="button"
        className="key px-1 text-sm"
        disabled={element === null}
        {...once(() => element && onElement(element))}
      >
        {t('walk.card')}
      </button>
    </div>
  );
}

/** One stop of a walk after the other: what is asked here, one tap to answer it, and what lies ahead by itself. */
export function WalkCard(props: Props) {
  const { shower, stage, walk, onElement, onNext, onStop } = props;
  const { stop } = walk;
  return (
    <div
      className="flex min-h-0 flex-1 flex-col gap-2"
      data-testid="walk"
      data-stop={stop?.key ?? ''}
      data-asks={stop?.asks ?? 'end'}
    >
      <WalkHead shower={shower} stage={stage} walk={walk} onStop={onStop} />
      <div className="flex min-h-0 flex-1 flex-col gap-2 overflow-y-auto">
        {stop === null ? (
          <WalkEnd shower={shower} stage={stage} walk={walk} onElement={onElement} onNext={onNext} />
        ) : walk.isReview ? (
          <ReviewStop shower={shower} stage={stage} stop={stop} walk={walk} onDefect={props.onDefect} />
        ) : stop.asks === 'look' ? (
          <LookStop key={stop.key} shower={shower} stage={stage} stop={stop} onElement={onElement} />
        ) : stop.asks === 'work' ? (
          <WorkStop shower={shower} stage={stage} stop={stop} />
        ) : (
          <PlaceStop shower={shower} stop={stop} walk={walk} />
        )}
      </div>
      {stop && !walk.isReview && <StopKeys {...props} stop={stop} />}
    </div>
  );
}
