import { placeOf } from '@careful-seam/core/checks/place';
import type { Defect } from '@careful-seam/core/log/defect';
import type { ShowerState } from '@careful-seam/core/log/state';
import { showLength } from '@careful-seam/core/units/length';
import { placesName } from '@careful-seam/words/texts/names';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { StretchFields } from '../../shared/StretchFields';
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

/** Says that a stretch was built again: what was proved there no longer counts and is asked anew. */
export function RedoSheet({ showerId, state, defect, onClose }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const write = useStore((s) => s.write);
  const known = defect.places[0]!;
  const several = defect.places.length > 1;
  const lengthMm = several ? null : (state.seamById.get(known.element)?.lengthMm ?? null);
  const [place, setPlace] = useState({ fromMm: known.fromMm ?? 0, toMm: known.toMm ?? lengthMm ?? 0 });
  const [reason, setReason] = useState('');
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
    await write(showerId, 'redo', body);
    onClose();
  };
  return (
    <Sheet title={t('redo.title', { where: placesName(t, state.geometry!.model, defect.places) })} onClose={onClose}>
      {lengthMm !== null && <StretchFields stretch={place} lengthMm={lengthMm} onStretch={setPlace} />}
      <label className="flex flex-col gap-1">
        <span className="text-soft text-sm">{t('redo.reason')}</span>
        <input className="field" value={reason} onChange={(e) => setReason(e.target.value)} />
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
    </Sheet>
  );
}
