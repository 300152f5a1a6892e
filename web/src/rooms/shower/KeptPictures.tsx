import type { ShowerState } from '@careful-seam/core/log/state';
import { picturesMissing, picturesOf } from '@careful-seam/core/proof/shown/pictures';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { PictureStrip } from '../../shared/PictureStrip';
import { useParts } from '../../tablet/store';
import { KeepSheet } from './KeepSheet';

/** Where pictures are looked for. */
interface Props {
  /** The shower that is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** Key of the stage. */
  stage: string;
  /** Id of an element; null for all of the stage. */
  element: string | null;
}

/** The pictures of a stage, or of one element at all its stages. */
export function KeptPictures({ showerId, state, stage, element }: Props) {
  const { person, write } = useParts('person', 'write');
  const pictures = useMemo(
    () => picturesOf(state).filter((p) => (element === null ? p.stage === stage : p.elements.includes(element))),
    [state, stage, element],
  );
  return (
    <PictureStrip
      pictures={pictures}
      model={state.geometry!.model}
      zone={state.created?.body.timeZone}
      onTakeBack={({ entry }) => write(showerId, 'correction', { target: entry, action: 'withdraw' })}
      // One's own, or as a manager any: as the fold counts it.
      mayTakeBack={({ alone }) => alone !== null && (alone === person?.id || person?.role === 'manager')}
    />
  );
}

/** What the next layer hides and no picture shows: named before it is covered, with the way to one. */
export function PicturesMissing({ showerId, state, stage }: Omit<Props, 'element'>) {
  const { t } = useTranslation();
  const [at, setAt] = useState<string | null>(null);
  const missing = useMemo(() => picturesMissing(state, stage), [state, stage]);
  if (missing.length === 0) return null;
  return (
    <div className="flex flex-none flex-col gap-1 border-cure border-l-4 pl-2 text-sm" data-testid="pictures-missing">
      {missing.map(({ check, elements }) => (
        <div key={check.id} className="flex items-center gap-2">
          <p className="flex-1 leading-tight">{t('picture.missing', { check: check.label, count: elements.length })}</p>
          <button type="button" className="key flex-none px-2 text-sm" onClick={() => setAt(elements[0]!)}>
            {t('picture.takeShort')}
          </button>
        </div>
      ))}
      {at !== null && (
        <KeepSheet showerId={showerId} state={state} stage={stage} element={at} onClose={() => setAt(null)} />
      )}
    </div>
  );
}
