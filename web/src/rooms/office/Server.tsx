import { ServerState } from '@careful-seam/contract/api/office';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { useList } from '../../tablet/useList';
import { Loaded } from '../../ui/Loaded';

/** A size as people say it. */
function useSize(): (bytes: number) => string {
  const { i18n } = useTranslation();
  return (bytes) => {
    const [value, unit] =
      Math.abs(bytes) >= 1e9
        ? [bytes / 1e9, 'gigabyte']
        : Math.abs(bytes) >= 1e6
          ? [bytes / 1e6, 'megabyte']
          : [bytes / 1e3, 'kilobyte'];
    return new Intl.NumberFormat(i18n.language, { style: 'unit', unit, maximumFractionDigits: 1 }).format(value);
  };
}

/** One figure of the server. */
function Line({ label, children, tone = '' }: { label: string; children: ReactNode; tone?: string }) {
  return (
    <div className="grid grid-cols-[11rem_1fr] gap-3 border-hair border-b py-2 max-md:grid-cols-1">
      <dt className="text-soft">{label}</dt>
      <dd className={tone}>{children}</dd>
    </div>
  );
}

/** Lines of a night's words that are shown besides the last. */
const LINES_SHOWN = 3;
/** Later than this a night was missed. */
const MISSED_MS = 36 * 3_600_000;

/** What the server does at night, and how it went. */
function ChoreLine({ chore }: { chore: ServerState['chores'][number] }) {
  const { t } = useTranslation();
  const at = new Date(chore.endedAt ?? chore.beganAt).toLocaleString();
  // What it came to stands in the last line; the rest is told by the command line.
  const lines = chore.words.split('\n').filter((line) => line !== '');
  const told = [...new Set([lines.at(-1) ?? '', ...lines.slice(0, LINES_SHOWN)])];
  const late = Date.now() - Date.parse(chore.beganAt) > MISSED_MS;
  const words = chore.ok === null ? t('server.running', { at }) : t(chore.ok ? 'server.well' : 'server.failed', { at });
  return (
    <Line label={t(`server.chore.${chore.what}`)} tone={chore.ok === false || late ? 'text-hold' : ''}>
      {words}
      {late && ` · ${t('server.late')}`}
      {told.map((line) => (
        <span key={line} className="block break-words text-sm">
          {line}
        </span>
      ))}
      {lines.length > told.length && (
        <span className="block text-sm">{t('server.moreLines', { count: lines.length - told.length })}</span>
      )}
    </Line>
  );
}

/** How the server stands. */
function Told({ state }: { state: ServerState }) {
  const { t } = useTranslation();
  const size = useSize();
  const { versions, disk, backups } = state;
  return (
    <div className="grid h-full grid-cols-2 content-start gap-x-8 overflow-y-auto max-lg:grid-cols-1">
      <section>
        <h2 className="font-bold text-lg">{t('server.nights')}</h2>
        <dl>
          <Line label={t('server.backups')} tone={backups ? '' : 'text-hold'}>
            {backups ? t('server.backupsTo', backups) : t('server.noBackups')}
          </Line>
          {state.chores.map((chore) => (
            <ChoreLine key={chore.what} chore={chore} />
          ))}
        </dl>
        {state.chores.length === 0 && <p className="text-soft">{t('server.noNightYet')}</p>}
      </section>
      <section>
        <h2 className="font-bold text-lg">{t('server.sizes')}</h2>
        <dl>
          <Line label={t('server.holds')}>
            {t('server.counts', {
              showers: state.showers.toLocaleString(),
              entries: state.entries.toLocaleString(),
              pictures: state.pictures.toLocaleString(),
            })}
          </Line>
          <Line label={t('server.database')}>{size(state.databaseBytes)}</Line>
          <Line label={t('server.pictures')}>{size(state.pictureBytes)}</Line>
          <Line label={t('server.grew')}>{state.grewBytes === null ? t('server.young') : size(state.grewBytes)}</Line>
          <Line label={t('server.free')} tone={disk?.nearlyFull ? 'font-semibold text-hold' : ''}>
            {disk === null
              ? t('server.inStore')
              : t('server.freeOf', { free: size(disk.freeBytes), total: size(disk.totalBytes) })}
            {disk?.nearlyFull && <span className="block">{t('server.nearlyFull')}</span>}
          </Line>
          <Line label={t('server.versions')}>
            {versions.program} · Node {versions.node} · PostgreSQL {versions.database}
            <span className="block text-soft text-sm">{versions.tables}</span>
          </Line>
        </dl>
      </section>
    </div>
  );
}

/** How the server stands: its nights, what it holds, how much room is left. */
export function Server() {
  const answer = useList(ServerState, '/api/server');
  return <Loaded answer={answer}>{(state) => <Told state={state} />}</Loaded>;
}
