import { useTranslation } from 'react-i18next';
import { useParts } from '../../tablet/store';

/** A key that takes an entry of a call back that was mistyped: for whoever wrote it, and for a manager. */
export function TakeBack({ showerId, entry }: { showerId: string; entry: { id: string; author: { id: string } } }) {
  const { t } = useTranslation();
  const { write, person } = useParts('write', 'person');
  if (person?.role !== 'manager' && person?.id !== entry.author.id) return null;
  const takeBack = () =>
    void write(showerId, 'correction', { target: entry.id, action: 'withdraw', reason: t('call.mistyped') });
  return (
    <button type="button" className="key flex-none text-sm" onClick={takeBack}>
      {t('call.mistyped')}
    </button>
  );
}
