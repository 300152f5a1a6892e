import { useTranslation } from 'react-i18next';
import { Link, useParams, useSearchParams } from 'react-router';
import { Missing } from '../../shared/Missing';
import { useStore } from '../../tablet/store';
import { keptForm } from './formStart';
import { ShowerForm } from './ShowerForm';

/** New showers, more of one type, and changed dimensions: one form. */
export function NewShower() {
  const { t } = useTranslation();
  const { id } = useParams();
  const [query] = useSearchParams();
  const showers = useStore((s) => s.showers);
  const wanted = id ?? query.get('like');
  if (!wanted) return <ShowerForm start={{ kind: 'new' }} />;
  const shower = showers.get(wanted);
  if (!shower) return <Missing />;
  if (!keptForm(shower))
    return (
      <main className="p-4">
        <p className="mb-3">{t('new.drawnElsewhere')}</p>
        <Link to={`/showers/${wanted}`} className="key inline-flex items-center">
          {t('card.back')}
        </Link>
      </main>
    );
  return <ShowerForm key={wanted} start={{ kind: id ? 'edit' : 'like', shower }} />;
}
