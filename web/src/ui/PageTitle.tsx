import { useTranslation } from 'react-i18next';

/** What the tab of a browser says: what the screen is of, and whose it is. */
export function PageTitle({ text }: { text?: string | undefined }) {
  const { t } = useTranslation();
  return <title>{text ? `${text} · ${t('app.name')}` : t('app.name')}</title>;
}
