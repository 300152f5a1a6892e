import { mayWrite } from '@careful-seam/core/log/roles';
import type { ShowerDay } from '@careful-seam/core/plan/dayWindows';
import { showTotal } from '@careful-seam/core/units/length';
import { hourWords, longDayWords } from '@careful-seam/words/sentences/moments';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { deviationsOf } from '../../shared/Approvals';
import { HelpKey } from '../../shared/Help';
import { Settings } from '../../shared/Settings';
import { SyncMark } from '../../shared/SyncMark';
import { type LocalShower, useParts } from '../../tablet/store';
import type { StoredShower } from '../../tablet/stored';
import { useQueue } from '../../tablet/useList';
import { PageTitle } from '../../ui/PageTitle';
import { usePreferences } from '../../ui/preferences';
import { BlindLooks } from './BlindLooks';
import { BandLegend, BandPatterns, DayBand, HourAxis } from './DayBand';
import { DayEnd } from './DayEnd';
import { type DayPart, dayParts } from './dayAxis';
import { FindShower } from './FindShower';
import { dayOf, useSummary } from './summary';
import { Unkept } from './Unkept';

/** A shower of the day. */
interface Row {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** What the day holds for it: crews at work, cure, water, what is ready. */
  day: ShowerDay;
  /** Time zone of the site, by its IANA name. */
  zone: string;
}

/** Name, job and what is next. */
function RowWords({ shower, day, zone }: Row) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const summary = useSummary(shower);
  if (!summary) return null;
  const open = summary.figures.byState.unseen + summary.figures.byState.defect;
  const at = (ms: number) => hourWords(ms, zone);
  const curing = day.windows.find((w) => w.kind === 'cure' && w.toMs !== null && w.toMs > Date.now());
  const labelOf = (key: string) => shower.state.rules?.method.stages.find((s) => s.key === key)?.label ?? key;
  const { asked, contested } = summary;
  if (contested)
    return (
      <span className="block font-semibold text-hold text-sm">
        {t('rounds.contested', { stage: labelOf(contested) })}
      </span>
    );
  if (asked && !summary.water)
    return (
      <span className="block font-semibold text-cure text-sm" data-testid="look-asked">
        {t('rounds.lookAsked', {
          stage: labelOf(asked.body.stage),
          by: asked.author.name,
          at: at(Date.parse(asked.observedAt)),
        })}
      </span>
    );
  const text = curing
    ? t('rounds.curing', { at: at(curing.toMs!) })
    : summary.water
      ? t(day.readByMs !== null && day.readByMs < Date.now() ? 'rounds.readLate' : 'rounds.read', {
          at: at(day.readByMs ?? 0),
        })
      : summary.word === 'released'
        ? t('today.released')
        : summary.word === 'open'
          ? t('today.waits', { stage: summary.label })
          : summary.left === 0
            ? t('today.ready', { stage: summary.label })
            : t('today.left', { stage: summary.label, count: summary.left });
  return (
    <span className={`block text-sm ${summary.hold ? 'font-semibold text-hold' : 'text-soft'}`}>
      {text}
      {open > 0.5 && summary.word !== 'open' && !summary.water
        ? ` · ${t('rounds.seam', { left: showTotal(open, unit) })}`
        : ''}
    </span>
  );
}

/** A shower on the band of the day. */
function ShowerRow({ row, parts, nowMs, wide }: { row: Row; parts: readonly DayPart[]; nowMs: number; wide: number }) {
  const created = row.shower.state.created!.body;
  const to = row.shower.state.flood?.running ? `/showers/${row.shower.id}/flood` : `/showers/${row.shower.id}`;
  return (
    <li>
      <Link
        to={to}
        className="grid min-h-12 grid-cols-[19rem_1fr] items-center gap-3 border-hair border-b px-2 text-ink no-underline hover:bg-leaf max-md:grid-cols-1 max-md:gap-0 max-md:py-1"
      >
        <span className="min-w-0 leading-tight">
          <span className="font-bold">{created.name}</span>
          <RowWords {...row} />
        </span>
        <DayBand day={row.day} parts={parts} nowMs={nowMs} zone={row.zone} wide={wide} />
      </Link>
    </li>
  );
}

/** Width in px that the bands have on this screen. */
function useBandWidth() {
  const box = useRef<HTMLDivElement>(null);
  const [wide, setWide] = useState(900);
  useEffect(() => {
    if (!box.current) return;
    const watch = new ResizeObserver(([entry]) => setWide(Math.max(240, Math.round(entry!.contentRect.width))));
    watch.observe(box.current);
    return () => watch.disconnect();
  }, []);
  return { box, wide };
}

/** The other showers on this tablet, by their names alone: each is worked out when it is opened. */
function Asleep({ showers, more }: { showers: readonly StoredShower[]; more: boolean }) {
  const { t } = useTranslation();
  const [open, setOpen] = useState(false);
  if (showers.length === 0 && !more) return null;
  const rows = showers
    .flatMap(({ row }) => (row ? [row] : []))
    .sort((a, b) => a.job.localeCompare(b.job) || a.name.localeCompare(b.name));
  return (
    <section className="px-2 py-2">
      {rows.length > 0 && (
        <button type="button" className="key" aria-expanded={open} onClick={() => setOpen(!open)}>
          {t('rounds.asleep', { count: rows.length })}
        </button>
      )}
      {open && (
        <ul className="grid grid-cols-3 gap-x-4 max-lg:grid-cols-1">
          {rows.slice(0, ASLEEP_SHOWN).map((row) => (
            <li key={row.id} className="min-w-0 border-hair border-b">
              <Link className="flex min-h-12 items-center gap-2 text-ink" to={`/showers/${row.id}`}>
                <span className="font-bold">{row.name}</span> <span className="min-w-0 text-soft">{row.job}</span>
              </Link>
            </li>
          ))}
        </ul>
      )}
      {(more || (open && rows.length > ASLEEP_SHOWN)) && <p className="text-soft">{t('rounds.more')}</p>}
    </section>
  );
}

/** Lines of a list that nobody reads to its end; the rest is found by name. */
const ASLEEP_SHOWN = 150;

/** The showers of each job, by its name. */
function JobRows({
  rows,
  parts,
  nowMs,
  wide,
}: {
  rows: readonly Row[];
  parts: readonly DayPart[];
  nowMs: number;
  wide: number;
}) {
  const jobs = new Map<string, Row[]>();
  for (const row of rows) {
    const { job } = row.shower.state.created!.body;
    jobs.set(job, [...(jobs.get(job) ?? []), row]);
  }
  const nameOf = (row: Row) => row.shower.state.created!.body.name;
  return (
    <>
      {[...jobs]
        .sort(([a], [b]) => a.localeCompare(b))
        .map(([job, mine]) => (
          <section key={job}>
            <h2 className="px-2 pt-1.5 font-semibold text-soft">{job}</h2>
            <ul>
              {mine
                .sort((a, b) => nameOf(a).localeCompare(nameOf(b)))
                .map((row) => (
                  <ShowerRow key={row.shower.id} row={row} parts={parts} nowMs={nowMs} wide={wide} />
                ))}
            </ul>
          </section>
        ))}
    </>
  );
}

/** The day as a band of hours: each job's showers with the windows that their entries tell. */
export function Rounds() {
  const { t } = useTranslation();
  const { showers, asleep, more, person, connection, lastSyncAt } = useParts(
    'showers',
    'asleep',
    'more',
    'person',
    'connection',
    'lastSyncAt',
  );
  const { box, wide } = useBandWidth();
  const nowMs = Date.now();
  const [mineOnly, setMineOnly] = useState(false);
  const all = useMemo(() => [...showers.values()].filter((s) => s.state.created), [showers]);
  const assigned = all.some((s) => s.stored.row?.inspectorId);
  const mine = mineOnly ? (person?.id ?? null) : undefined;
  const list = useMemo(
    () =>
      mine === undefined ? all : all.filter((s) => !s.stored.row?.inspectorId || s.stored.row.inspectorId === mine),
    [all, mine],
  );
  const isManager = person?.role === 'manager';
  const queue = useQueue(isManager);
  const here = isManager ? deviationsOf(showers.values()).waiting.length : 0;
  const approvals = queue.data?.pages[0]?.decisions ?? here;
  // The band's hours are those of the first site; a row of another zone says its own beside.
  const siteZone = list[0]?.state.created?.body.timeZone ?? Intl.DateTimeFormat().resolvedOptions().timeZone;
  const parts = dayParts(nowMs, siteZone, wide > 500);
  const rows: Row[] = useMemo(
    () =>
      list.map((shower) => {
        const zone = shower.state.created?.body.timeZone ?? siteZone;
        return { shower, zone, day: dayOf(shower.state, zone) };
      }),
    [list, siteZone],
  );
  const waiting = rows.filter((r) => r.day.readyFromMs !== null && r.day.readyFromMs < parts[0]!.toMs).length;
  const floods = rows.filter((r) => r.day.readByMs !== null).length;
  return (
    <div className="grid h-full grid-rows-[auto_1fr_auto]">
      <BandPatterns />
      <header className="flex items-center gap-4 border-edge border-b-2 px-5 py-2 max-lg:flex-wrap max-md:gap-2 max-md:px-3">
        <PageTitle text={t('shower.day')} />
        <h1 className="font-bold text-2xl">{longDayWords(nowMs, siteZone)}</h1>
        <p className="flex-1 text-soft">
          {t('today.count', { count: showers.size + asleep.length })} · {t('rounds.waiting', { count: waiting })} ·{' '}
          {t('rounds.floods', { count: floods })}
        </p>
        {assigned && (
          <button type="button" className="key" aria-pressed={mineOnly} onClick={() => setMineOnly(!mineOnly)}>
            {t('rounds.mine')}
          </button>
        )}
        <SyncMark />
        <HelpKey />
        <DayEnd />
        <FindShower />
        <Link to="/across" className="key flex items-center">
          {t('across.title')}
        </Link>
        {person?.role === 'manager' && (
          <Link to="/office" className="key flex items-center">
            {approvals > 0 ? t('office.waiting', { count: approvals }) : t('office.title')}
          </Link>
        )}
        <Settings />
        {person && mayWrite(person.role, 'shower-created') && (
          <Link to="/new" className="key key-main flex items-center">
            {t('today.new')}
          </Link>
        )}
      </header>
      <main className="overflow-y-auto px-5 py-1 max-md:px-3">
        <Unkept />
        {person && mayWrite(person.role, 'look') && <BlindLooks />}
        <div className="grid grid-cols-[19rem_1fr] gap-3 px-2 max-md:grid-cols-1">
          <p className="self-end text-soft text-sm max-md:hidden">{t('rounds.zone', { zone: siteZone })}</p>
          <div ref={box}>{list.length > 0 && <HourAxis parts={parts} nowMs={nowMs} wide={wide} />}</div>
        </div>
        {rows.length === 0 && (
          <p className="py-8 text-lg text-soft">
            {t(
              connection === 'starting' || (connection === 'online' && lastSyncAt === null)
                ? 'today.loading'
                : connection === 'offline'
                  ? 'today.emptyOffline'
                  : 'today.empty',
            )}
          </p>
        )}
        <JobRows rows={rows} parts={parts} nowMs={nowMs} wide={wide} />
        <Asleep showers={asleep} more={more} />
      </main>
      <footer className="border-edge border-t px-5 py-1 max-md:px-3">
        <BandLegend />
      </footer>
    </div>
  );
}
