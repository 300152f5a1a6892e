import type { Stop } from '@careful-seam/core/checks/walk';
import type { Judgement } from '@careful-seam/core/log/judgement';
import type { PhotoUse } from '@careful-seam/core/log/places';
import { elementName } from '@careful-seam/words/texts/names';
import type { TFunction } from 'i18next';
import { useTranslation } from 'react-i18next';
import { answeredBy } from '../../../shared/answering';
import { oneTap, useResting } from '../../../shared/oneTap';
import { PictureKey } from '../../../shared/PictureKey';
import { type LocalShower, useStore } from '../../../tablet/store';
import { hotkey } from '../../../ui/hotkeys';

/** The thing that is looked at. */
interface Props {
  /** The shower that it is written to. */
  shower: LocalShower;
  /** Key of the stage that is walked. */
  stage: string;
  /** What one look here answers. */
  stop: Stop;
  /** Opens the card of an element, to answer what is not as the rest. */
  onElement: (element: string) => void;
}

/** What one looks for: of what is measured, all between its readings. */
function lookFor(t: TFunction, { requirement: { check } }: Judgement): string {
  return answeredBy(check) === 'reading' ? t('walk.byEye', { check: check.label }) : check.label;
}

/** One look at a thing: what to look for, where, and one tap when all of it is sound; what is not is answered on its own card. */
export function LookStop({ shower, stage, stop, onElement }: Props) {
  const { t } = useTranslation();
  const writeAll = useStore((s) => s.writeAll);
  const resting = useResting();
  const model = shower.state.geometry!.model;
  const labels = new Map(stop.judgements.map((j) => [j.requirement.check.id, lookFor(t, j)]));
  const placesOf = new Map<string, Set<string>>();
  for (const { checks, places } of stop.groups)
    for (const check of checks) {
      const known = placesOf.get(check) ?? new Set();
      for (const { element } of places) known.add(element);
      placesOf.set(check, known);
    }
  const elements = [...new Set(stop.groups.flatMap((g) => g.places.map((p) => p.element)))];
  const hidden = new Set(
    stop.judgements.filter((j) => j.requirement.check.keepPicture).map((j) => j.requirement.check.id),
  );
  const wantsPicture = [...placesOf.keys()].some((check) => hidden.has(check));
  const sound = (photos?: PhotoUse[]) =>
    oneTap(() =>
      writeAll(
        shower.id,
        stop.groups.map((g) => ({
          kind: 'look' as const,
          body: {
            stage,
            ...g,
            answer: 'ok' as const,
            // The picture is of what the next layer hides.
            ...(photos && g.checks.some((c) => hidden.has(c)) ? { photos } : {}),
          },
        })),
      ),
    );
  const word = elements.length > 1 ? t('walk.allSound', { count: elements.length }) : t('answer.ok');
  return (
    <>
      <ul className="flex flex-col">
        {[...placesOf].map(([check, places]) => (
          <li key={check} className="flex items-baseline gap-2 border-hair border-b py-1.5">
            <span className="flex-1 font-semibold leading-tight">{labels.get(check)}</span>
            <span className="text-soft text-sm">{t('walk.places', { count: places.size })}</span>
          </li>
        ))}
      </ul>
      {elements.length > 1 && <p className="border-water border-l-4 pl-2 text-sm">{t('walk.exceptions')}</p>}
      <ul className="flex min-h-0 flex-1 flex-wrap content-start gap-1 overflow-y-auto">
        {elements.map((element) => (
          <li key={element}>
            <button
              type="button"
              className="key px-2 text-left font-normal text-sm leading-tight"
              data-element={element}
              aria-disabled={resting}
              onClick={() => !resting && onElement(element)}
            >
              {elementName(t, model, element)}
            </button>
          </li>
        ))}
      </ul>
      {wantsPicture && <p className="text-soft text-sm">{t('picture.hides')}</p>}
      <div className="flex flex-none gap-1.5">
        {wantsPicture && (
          <PictureKey
            label={t('picture.andSound', { word })}
            from="camera"
            resting={resting}
            onPictures={sound}
            letter="sound"
            className="key-main min-h-16 flex-1 text-xl"
          />
        )}
        <button
          type="button"
          className={wantsPicture ? 'key px-2 text-sm leading-tight' : 'key key-main min-h-16 flex-1 text-xl'}
          aria-disabled={resting}
          {...(wantsPicture ? {} : hotkey('sound'))}
          onClick={() => sound()}
          data-testid="walk-sound"
        >
          {wantsPicture ? t('picture.without') : word}
        </button>
      </div>
    </>
  );
}
