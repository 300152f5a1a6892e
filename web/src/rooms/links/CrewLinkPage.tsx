import { useEffect, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate, useParams } from 'react-router';
import { useParts } from '../../tablet/store';
import { errorWords } from '../../ui/words';

/** The page that a crew's link opens: signs in by it and goes on to the crew's own holds. */
export function CrewLinkPage() {
  const { t } = useTranslation();
  const { code = '' } = useParams();
  const navigate = useNavigate();
  const { db, enterByLink } = useParts('db', 'enterByLink');
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    if (!db) return;
    enterByLink(code)
      .then(() => navigate('/', { replace: true }))
      .catch((error: unknown) => setProblem(errorWords(error)));
  }, [db, code, enterByLink, navigate]);
  return (
    <main className="mx-auto flex h-full max-w-md flex-col justify-center gap-4 p-6">
      <h1 className="font-bold text-2xl">{t('app.name')}</h1>
      {problem ? (
        <p role="alert" className="text-hold">
          {problem}
        </p>
      ) : (
        <p>{t('links.entering')}</p>
      )}
    </main>
  );
}
