import { placeOf } from '@careful-seam/core/checks/place';
import type { Defect } from '@careful-seam/core/log/defect';
import type { ShowerState } from '@careful-seam/core/log/state';
import { showLength } from '@careful-seam/core/units/length';
import { placesName } from '@careful-seam/words/texts/names';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { DraftLine, Renewable } from '../../shared/DraftLine';
import { StretchFields } from '../../shared/StretchFields';
import { useHeld } from '../../shared/useDraft';
import { useStore } from '../../tablet/store';
import { usePreferences } from '../../ui/preferences';
import { Sheet } from '../../ui/Sheet';

/** The defect whose place was built again. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** The defect, with all that was said of it so far. */
  defect: Defect;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** What is left of the form when it is not kept. */
const Left = z.object({ place: z.object({ fromMm: z.number(), toMm: z.number() }), reason: z.string() });

/** The stretch that was built again, and why. */
function RedoForm({ showerId, state, defect, onClose, onAnew }: Props & { onAnew: () => void }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const write = useStore((s) => s.write);
  const known = defect.places[0]!;
  const several = defect.places.length > 1;
  const lengthMm = several ? null : (state.seamById.get(known.element)?.lengthMm ?? null);
  const { told, tell, draft } = useHeld(
    { kind: 'redo', showerId, stage: defect.stage, element: known.element, defect: defect.id },
    Left,
    {
      place: { fromMm: known.fromMm ?? 0, toMm: known.toMm ?? lengthMm ?? 0 },
      reason: '',
    },
  );
  const { place, reason } = told;
  const evidence = defect.places.flatMap((p) =>
    (state.evidence.get(p.element) ?? []).filter(
      (e) => !e.voided && e.kind === 'reading' && (several || (e.atMm >= place.fromMm && e.atMm <= place.toMm)),
    ),
  );
  const keep = async () => {
    const body = {
      stage: defect.stage,
      places: several
        ? defect.places.map(({ element, fromMm, toMm }) =>
            placeOf(state, element, fromMm === undefined || toMm === undefined ? {} : { fromMm, toMm }),
          )
        : [placeOf(state, known.element, lengthMm === null ? {} : place)],
      reason: reason.trim(),
      defect: defect.id,
    };
    await write(showerId, 'redo', body, draft.about);
    draft.drop();
    onClose();
  };
  return (
    <>
      <DraftLine draft={draft} onAnew={onAnew} />
      {lengthMm !== null && (
        <StretchFields stretch={place} lengthMm={lengthMm} onStretch={(to) => tell({ place: to })} />
      )}
      <label className="flex flex-col gap-1">
        <span className="text-soft text-sm">{t('redo.reason')}</span>
        <input className="field" value={reason} onChange={(e) => tell({ reason: e.target.value })} />
      </label>
      <p className="border-cure border-l-4 pl-2">
        {t(lengthMm === null ? 'redo.consequenceWhole' : 'redo.consequence', {
          from: showLength(place.fromMm, unit),
          to: showLength(place.toMm, unit),
          count: evidence.length,
        })}
      </p>
      <button
        type="button"
        className="key key-main text-lg"
        disabled={reason.trim() === '' || (lengthMm !== null && place.toMm <= place.fromMm)}
        onClick={() => void keep()}
      >
        {t('redo.keep')}
      </button>
    </>
  );
}

/** Says that a stretch was built again: what was proved there no longer counts and is asked anew. */
export function RedoSheet(props: Props) {
  const { t } = useTranslation();
  const { state, defect, onClose } = props;
  return (
    <Sheet title={t('redo.title', { where: placesName(t, state.geometry!.model, defect.places) })} onClose={onClose}>
      <Renewable form={(anew) => <RedoForm {...props} onAnew={anew} />} />
    </Sheet>
  );
}
