import { placeOf } from '@careful-seam/core/checks/place';
import { restWithin, type Stop } from '@careful-seam/core/checks/walk';
import { isOf } from '@careful-seam/core/rules/checks/check';
import { bareLength } from '@careful-seam/core/units/length';
import { elementName, faceName } from '@careful-seam/words/texts/names';
import { useTranslation } from 'react-i18next';
import { oneTap, useResting } from '../../../shared/oneTap';
import { type LocalShower, useStore } from '../../../tablet/store';
import { usePreferences } from '../../../ui/preferences';
import { tapeMarkMm } from '../useReading';

/** The stop that is read. */
interface Props {
  /** The shower that it is written to. */
  shower: LocalShower;
  /** All stops of the walk. */
  stops: readonly Stop[];
  /** The one that is read now. */
  stop: Stop;
}

/**
 * The same value at all places that are left within reach: of a seam on both its laps, of a niche or a bench on all of it. It names
 * every place, it is there only after a hand has measured once, and the record says of each reading that it was told so.
 */
export function RestKey({ shower, stops, stop }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const writeAll = useStore((s) => s.writeAll);
  const resting = useResting();
  const { lastMm, rest } = restWithin(stops, stop, tapeMarkMm(unit));
  if (lastMm === null || rest.length < 2) return null;
  const { state } = shower;
  const model = state.geometry!.model;
  const isOneSeam = rest.every((r) => r.requirement.element === rest[0]!.requirement.element);
  const places = new Map<string, string[]>();
  for (const { requirement, atMm } of rest) {
    const { element, side, hasLength } = requirement;
    const where = isOneSeam && side ? t('side', { part: faceName(t, model, side) }) : elementName(t, model, element);
    places.set(where, [...(places.get(where) ?? []), ...(hasLength ? [bareLength(atMm, unit)] : [])]);
  }
  const value = bareLength(lastMm, unit);
  const tell = () =>
    oneTap(() =>
      writeAll(
        shower.id,
        rest.map(({ requirement: r, atMm }) => ({
          kind: 'reading' as const,
          body: {
            stage: r.stage.key,
            check: r.check.id,
            place: placeOf(state, r.element, r.side ? { side: r.side } : {}),
            atMm,
            valueMm: lastMm,
            typed: value,
            together: rest.length,
            instrument: isOf(r.check, 'measured') ? r.check.instrument : '',
          },
        })),
      ),
    );
  return (
    <button
      type="button"
      className="key flex-none py-1 text-left leading-tight"
      aria-disabled={resting}
      onClick={tell}
      data-testid="walk-rest"
    >
      {t('walk.rest', { value, count: rest.length })}
      <span className="block font-normal text-soft text-sm">
        {[...places].map(([where, at]) => (at.length > 0 ? `${where}: ${at.join(', ')}` : where)).join(' · ')}
      </span>
    </button>
  );
}
