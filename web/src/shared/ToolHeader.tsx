import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { SyncMark } from './SyncMark';

/** The head of a screen that belongs to a shower: the way back to it, what it is, and whether all is sent. */
export function ToolHeader({ back, title, children }: { back: string; title: string; children?: ReactNode }) {
  const { t } = useTranslation();
  return (
    <header className="flex items-center gap-4 border-edge border-b-2 px-4 py-1.5 max-md:flex-wrap max-md:gap-2">
      <Link to={back} className="key flex items-center">
        {t('record.back')}
      </Link>
      <h1 className="min-w-0 flex-1 font-bold text-xl leading-tight">{title}</h1>
      {children}
      <SyncMark />
    </header>
  );
}
