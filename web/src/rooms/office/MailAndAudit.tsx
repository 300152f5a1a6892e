import { AuditPage, Outbox } from '@careful-seam/contract/api/office';
import { momentWords } from '@careful-seam/words/sentences/sentences';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useTranslation } from 'react-i18next';
import { call } from '../../tablet/api';
import { useList } from '../../tablet/useList';
import { Loaded } from '../../ui/Loaded';
import { errorWords } from '../../ui/words';

/** Mail that went out, or that would have: without a mail server everything stays here to be read. */
export function Mail() {
  const { t } = useTranslation();
  const answer = useList(Outbox, '/api/outbox');
  return (
    <div className="h-full overflow-y-auto">
      <Loaded answer={answer}>
        {({ real, mail }) => (
          <>
            <p className={real ? 'text-soft' : 'border-cure border-l-4 pl-2'}>
              {t(real ? 'mail.real' : 'mail.simulated')}
            </p>
            {mail.length === 0 && <p className="py-4 text-soft">{t('mail.none')}</p>}
            <ul>
              {mail.map((m) => (
                <li key={m.id} className="border-hair border-b py-2">
                  <details>
                    <summary className="min-h-12 cursor-pointer leading-snug">
                      <span className="font-bold">{m.subject}</span> <span className="text-soft">{m.recipient}</span>
                      <span className="block text-soft text-sm">
                        {momentWords(Date.parse(m.madeAt))} ·{' '}
                        {t(m.sentAt ? 'mail.sent' : m.problem ? 'mail.failed' : 'mail.waits', { problem: m.problem })}
                      </span>
                    </summary>
                    <p className="whitespace-pre-line break-words border-hair border-l-2 pl-3">{m.words}</p>
                  </details>
                </li>
              ))}
            </ul>
          </>
        )}
      </Loaded>
    </div>
  );
}

/** Who saw and did what beside the entries: newest first, page by page. */
export function Audit() {
  const { t } = useTranslation();
  const answer = useInfiniteQuery({
    queryKey: ['/api/audit'],
    queryFn: ({ pageParam }) => call(AuditPage, 'GET', `/api/audit?before=${encodeURIComponent(pageParam)}`),
    initialPageParam: '',
    getNextPageParam: (last) => (last.more ? last.lines.at(-1)?.at : undefined),
  });
  const lines = answer.data?.pages.flatMap((p) => p.lines) ?? [];
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a long table has to be scrolled with the keyboard too
    <section tabIndex={0} aria-label={t('office.page.audit')} className="h-full overflow-y-auto">
      <p className="text-soft">{t('audit.what')}</p>
      {answer.isPending && <p className="text-soft">{t('office.loading')}</p>}
      {answer.isError && (
        <p role="alert" className="text-hold">
          {errorWords(answer.error)}
        </p>
      )}
      <table className="w-full text-left">
        <thead>
          <tr className="border-edge border-b text-soft text-sm">
            <th className="py-1 font-normal">{t('audit.when')}</th>
            <th className="font-normal">{t('audit.who')}</th>
            <th className="font-normal">{t('audit.did')}</th>
            <th className="font-normal">{t('audit.about')}</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => (
            <tr key={l.id} className="border-hair border-b align-top">
              <td className="whitespace-nowrap py-1 pr-3 text-sm">{momentWords(Date.parse(l.at))}</td>
              <td className="pr-3">{l.who || t('audit.nobody')}</td>
              <td className="pr-3">{t(`deed.${l.did}`)}</td>
              <td className="break-words">{l.about}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {answer.hasNextPage && (
        <button
          type="button"
          className="key my-2"
          disabled={answer.isFetching}
          onClick={() => void answer.fetchNextPage()}
        >
          {t('audit.older')}
        </button>
      )}
    </section>
  );
}
