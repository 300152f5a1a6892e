import { AuditPage, LINK_NOT_KEPT, Outbox } from '@careful-seam/contract/api/office';
import { momentWords } from '@careful-seam/words/sentences/moments';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import type { z } from 'zod';
import { call } from '../../tablet/api';
import { useList } from '../../tablet/useList';
import { type Column, DataTable } from '../../ui/DataTable';
import { Loaded } from '../../ui/Loaded';
import { errorWords } from '../../ui/words';

/** One mail. */
type MailLine = z.infer<typeof Outbox>['mail'][number];
/** One deed. */
type AuditLine = z.infer<typeof AuditPage>['lines'][number];

/** Mail that went out, or that would have: without a mail server everything stays here to be read. */
export function Mail() {
  const { t } = useTranslation();
  const answer = useList(Outbox, '/api/outbox');
  const columns = useMemo((): Column<MailLine>[] => {
    const state = (m: MailLine) =>
      t(m.sentAt ? 'mail.sent' : m.problem ? 'mail.failed' : 'mail.waits', {
        problem: m.problem === LINK_NOT_KEPT ? t('mail.linkNotKept') : m.problem,
      });
    return [
      { key: 'made', label: t('mail.made'), by: (m) => m.madeAt, cell: (m) => momentWords(Date.parse(m.madeAt)) },
      {
        key: 'subject',
        label: t('mail.subject'),
        by: (m) => m.subject,
        cell: (m) => (
          <details lang={m.language ?? undefined}>
            <summary className="min-h-12 cursor-pointer font-bold">{m.subject}</summary>
            <p className="whitespace-pre-line break-words border-hair border-l-2 pl-3">{m.words}</p>
          </details>
        ),
      },
      { key: 'to', label: t('mail.to'), by: (m) => m.recipient, cell: (m) => m.recipient },
      { key: 'state', label: t('mail.state'), by: state, cell: state },
    ];
  }, [t]);
  return (
    <div className="h-full overflow-y-auto">
      <Loaded answer={answer}>
        {({ real, mail }) => (
          <>
            <p className={real ? 'text-soft' : 'border-cure border-l-4 pl-2'}>
              {t(real ? 'mail.real' : 'mail.simulated')}
            </p>
            <DataTable
              label={t('office.page.mail')}
              rows={mail}
              rowId={(m) => m.id}
              columns={columns}
              empty={t('mail.none')}
            />
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
  const lines = useMemo(() => answer.data?.pages.flatMap((p) => p.lines) ?? [], [answer.data]);
  const columns = useMemo((): Column<AuditLine>[] => {
    const who = (l: AuditLine) => l.who || t('audit.nobody');
    const did = (l: AuditLine) => t(`deed.${l.did}`);
    return [
      { key: 'when', label: t('audit.when'), by: (l) => l.at, cell: (l) => momentWords(Date.parse(l.at)) },
      { key: 'who', label: t('audit.who'), by: who, cell: who },
      { key: 'did', label: t('audit.did'), by: did, cell: did },
      { key: 'about', label: t('audit.about'), by: (l) => l.about, cell: (l) => l.about },
    ];
  }, [t]);
  return (
    <div className="h-full overflow-y-auto">
      <p className="text-soft">{t('audit.what')}</p>
      {answer.isPending && <p className="text-soft">{t('office.loading')}</p>}
      {answer.isError && (
        <p role="alert" className="text-hold">
          {errorWords(answer.error)}
        </p>
      )}
      <DataTable label={t('office.page.audit')} rows={lines} rowId={(l) => l.id} columns={columns} />
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
    </div>
  );
}
