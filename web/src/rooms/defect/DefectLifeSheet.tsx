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

interface Props {
  showerId: string;
  state: ShowerState;
  defect: Defect;
  onRedo: () => void;
  onPicture: () => void;
  onClose: () => void;
}

type Doing = 'assign' | 'again' | 'close' | null;

/** A defect's whole life on one sheet, and the one thing to do next, first. */
export function DefectLifeSheet({ showerId, state, defect, onRedo, onPicture, onClose }: Props) {
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
      <DefectStory state={state} defect={defect} />
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
