import type { UseQueryResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { errorWords } from './words';

/** A list that is on its way, or there. */
interface Props<T> {
  /** The list as it is asked for. */
  answer: UseQueryResult<T>;
  /** Said when there is nothing in it. */
  empty?: string;
  /** Whether there is nothing in it. */
  isEmpty?: (data: T) => boolean;
  /** What is shown of it. */
  children: (data: T) => ReactNode;
}

/** A list of the office in its four states: loading, failed, empty, there. */
export function Loaded<T>({ answer, empty, isEmpty, children }: Props<T>) {
  const { t } = useTranslation();
  if (answer.isPending) return <p className="py-4 text-soft">{t('office.loading')}</p>;
  if (answer.isError)
    return (
      <div className="flex flex-col items-start gap-2 py-4">
        <p role="alert" className="text-hold">
          {errorWords(answer.error)}
        </p>
        <button type="button" className="key" onClick={() => void answer.refetch()}>
          {t('office.again')}
        </button>
      </div>
    );
  if (empty && isEmpty?.(answer.data)) return <p className="py-4 text-soft">{empty}</p>;
  return <>{children(answer.data)}</>;
}

/** What the server said against a change, where it was asked for. */
export function Problem({ text }: { text: string | null }) {
  return text ? (
    <p role="alert" className="text-hold">
      {text}
    </p>
  ) : null;
}
