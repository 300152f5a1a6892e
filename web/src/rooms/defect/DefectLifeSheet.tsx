import type { Defect } from '@careful-seam/core/log/defect';
import type { ShowerState } from '@careful-seam/core/log/state';
import { defectStep } from '@careful-seam/core/proof/holds/defectLife';
import { placesName } from '@careful-seam/words/texts/names';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { DefectStory } from '../../shared/DefectStory';
import { Sheet } from '../../ui/Sheet';
import { AssignForm } from './AssignForm';
import { CloseForm } from './CloseForm';

/** The defect whose life is shown, with the ways on from it. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** The defect, with all that was said of it so far. */
  defect: Defect;
  /** Says that it was built again. */
  onRedo: () => void;
  /** Adds a picture. */
  onPicture: () => void;
  /** Leads to a place where something must be shown again. */
  onPlace: (stage: string, element: string) => void;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** What is being done to it. */
type Doing = 'assign' | 'again' | 'close' | null;

/** A defect's whole life on one sheet, and the one thing to do next, first. */
export function DefectLifeSheet({ showerId, state, defect, onRedo, onPicture, onPlace, onClose }: Props) {
  const { t } = useTranslation();
  const step = defectStep(defect);
  const [doing, setDoing] = useState<Doing>(step === 'redone' ? 'close' : null);
  const where = placesName(t, state.geometry!.model, defect.places, 3);
  const form = { showerId, state, defect, onDone: onClose };
  const key = (label: string, onClick: () => void, main = false) => (
    <button type="button" className={`key ${main ? 'key-main' : ''}`} onClick={onClick}>
      {label}
    </button>
  );
  const returned = step === 'answered' || step === 'redone';
  return (
    <Sheet title={t('life.title', { where })} onClose={onClose}>
      <DefectStory state={state} defect={defect} onPlace={onPlace} />
      {step !== 'closed' && doing !== 'close' && (
        <div className="flex flex-wrap gap-1.5">
          {!returned && key(t('life.assign'), () => setDoing('assign'), step === 'found')}
          {returned && key(t('life.sendBack'), () => setDoing('again'))}
          {step !== 'redone' && key(t('defect.redone'), onRedo, step === 'answered')}
          {key(t('defect.picture', { count: defect.photos.length }), onPicture)}
          {(returned || defect.severity === 'note') && key(t('defect.close'), () => setDoing('close'))}
        </div>
      )}
      {doing === 'close' && step === 'redone' && key(t('life.sendBack'), () => setDoing('again'))}
      {(doing === 'assign' || doing === 'again') && <AssignForm key={doing} {...form} again={doing === 'again'} />}
      {doing === 'close' && <CloseForm {...form} />}
    </Sheet>
  );
}
