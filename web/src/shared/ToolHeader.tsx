import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useLocation } from 'react-router';
import { PageTitle } from '../ui/PageTitle';
import { HelpKey } from './Help';
import { SyncMark } from './SyncMark';

/** What a link to such a screen tells of where it was tapped: the address that leads back. */
interface From {
  /** Path and query. */
  from?: string;
}

/** What the head says. */
interface Props {
  /** The address that leads back to the shower. */
  back: string;
  /** What this screen is, in words. */
  title: string;
  /** The job that the shower is of. */
  job?: string | undefined;
  /** More keys. */
  children?: ReactNode;
}

/**
 * The head of a screen that belongs to a shower: the way back to it (or to the walk that led here), what it is, and whether all is sent. That
 * changes its length at each answer: the keys stand beyond it, where no key moves from under a finger.
 */
export function ToolHeader({ back, title, job, children }: Props) {
  const { t } = useTranslation();
  const from = (useLocation().state as From | null)?.from;
  return (
    <header className="flex items-center gap-4 border-edge border-b-2 px-4 py-1.5 max-md:flex-wrap max-md:gap-2">
      <Link to={from ?? back} className="key flex items-center">
        {t('record.back')}
      </Link>
      <PageTitle text={title} />
      <h1 className="min-w-0 flex-1 font-bold text-xl leading-tight max-md:order-last max-md:basis-full">
        {title} {job && <span className="font-normal text-base text-soft">{job}</span>}
      </h1>
      <SyncMark />
      {children}
      <HelpKey />
    </header>
  );
}
