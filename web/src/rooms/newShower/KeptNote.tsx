import { elementName } from '@careful-seam/words/texts/names';
import { useTranslation } from 'react-i18next';
import type { LocalShower } from '../../tablet/store';
import type { ShowerFormState } from './useShowerForm';

/** Places that are named; more nobody reads. */
const NAMED_AT_MOST = 6;

/** What a change of the dimensions keeps of what was seen, and what must be looked at again. */
export function KeptNote({ kept, shower }: { kept: NonNullable<ShowerFormState['kept']>; shower: LocalShower }) {
  const { t } = useTranslation();
  const model = shower.state.geometry!.model;
  const places = [...new Set(kept.lost.map((e) => elementName(t, model, e.element)))];
  return (
    <p data-testid="kept" className={kept.lost.length > 0 ? 'border-cure border-l-4 pl-2' : 'text-soft'}>
      {t('new.keptEvidence', { count: kept.kept })}{' '}
      {kept.lost.length > 0 &&
        t('new.lost', { count: kept.lost.length, places: places.slice(0, NAMED_AT_MOST).join('; ') })}
    </p>
  );
}
