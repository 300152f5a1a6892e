import { mayWrite } from '@careful-seam/core/entries/roles';
import { type ShowerDay, showerDay } from '@careful-seam/core/plan/dayWindows';
import { openLookRequests } from '@careful-seam/core/proof/lookRequests';
import { blockersOf } from '@careful-seam/core/proof/release';
import { buildLedger, currentStage } from '@careful-seam/core/proof/seamLine';
import { floodCheckOf } from '@careful-seam/core/rules/ruleBook';
import { showLength } from '@careful-seam/core/units/length';
import { DateTime } from 'luxon';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { deviationsOf } from '../office/Approvals';
import { BandLegend, BandPatterns, DayBand, HourAxis } from '../rounds/DayBand';
import { DayEnd } from '../rounds/DayEnd';
import { crewMorning, type DayPart, dayParts } from '../rounds/dayAxis';
import { FindShower } from '../rounds/FindShower';
import { Settings } from '../shell/Settings';
import { SyncMark } from '../shell/SyncMark';
import { usePreferences } from '../state/preferences';
import { type LocalShower, useParts } from '../state/store';

function useSummary(shower: LocalShower) {
  return useMemo(() => {
    const { state } = shower;
    const stage = currentStage(state);
    if (!stage || !state.rules) return null;
    const word = state.stages.get(stage)?.word ?? 'open';
    return {
      label: state.rules.method.stages.find((s) => s.key === stage)!.label,
      word,
      water: floodCheckOf(state.rules.method)?.stage.key === stage && state.flood?.running === true,
      left: word === 'open' ? 0 : blockersOf(state, stage).length,
      asked: openLookRequests(state).at(-1) ?? null,
      contested: [...state.stages].find(([, s]) => s.word === 'contested')?.[0] ?? null,
      hold: [...state.defects.values()].some((d) => d.closedAt === null && d.severity !== 'note'),
      figures: buildLedger(state, [stage]).figures,
    };
  }, [shower]);
}

/** Days already worked out: only a shower that changed is worked out again. */
const known = new WeakMap<LocalShower['state'], ShowerDay>();

function dayOf(state: LocalShower['state'], zone: string): ShowerDay {
  const day = known.get(state) ?? showerDay(state, crewMorning(zone));
  known.set(state, day);
  return day;
}

interface Row {
  shower: LocalShower;
  day: ShowerDay;
  zone: string;
}

function RowWords({ shower, day, zone }: Row) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const summary = useSummary(shower);
  if (!summary) return null;
  const open = summary.figures.byState.unseen + summary.figures.byState.defect;
  const at = (ms: number) => DateTime.fromMillis(ms, { zone }).toFormat('ccc H:mm');
  const curing = day.windows.find((w) => w.kind === 'cure' && w.toMs !== null && w.toMs > Date.now());
  const labelOf = (key: string) => shower.state.rules?.method.stages.find((s) => s.key === key)?.label ?? key;
  const { asked, contested } = summary;
  if (contested)
    return (
      <span className="block truncate font-semibold text-hold text-sm">
        {t('rounds.contested', { stage: labelOf(contested) })}
      </span>
    );
  if (asked && !summary.water)
    return (
      <span className="block truncate font-semibold text-cure text-sm" data-testid="look-asked">
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
    <span className={`block truncate text-sm ${summary.hold ? 'font-semibold text-hold' : 'text-soft'}`}>
      {text}
      {open > 0.5 && summary.word !== 'open' && !summary.water
        ? ` · ${t('rounds.seam', { left: showLength(open, unit) })}`
        : ''}
    </span>
  );
}

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

/** The day as a band of hours: each job's showers with the windows that their entries tell. */
export function Rounds() {
  const { t } = useTranslation();
  const { showers, person, connection } = useParts('showers', 'person', 'connection');
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
  const approvals = person?.role === 'manager' ? deviationsOf(showers.values()).waiting.length : 0;
  const zone = list[0]?.state.created?.body.timeZone ?? Intl.DateTimeFormat().resolvedOptions().timeZone;
  const parts = dayParts(nowMs, zone, wide > 500);
  const rows: Row[] = useMemo(
    () => list.map((shower) => ({ shower, zone, day: dayOf(shower.state, zone) })),
    [list, zone],
  );
  const jobs = new Map<string, Row[]>();
  for (const row of rows) {
    const job = row.shower.state.created!.body.job;
    jobs.set(job, [...(jobs.get(job) ?? []), row]);
  }
  const waiting = rows.filter((r) => r.day.readyFromMs !== null && r.day.readyFromMs < parts[0]!.toMs).length;
  const floods = rows.filter((r) => r.day.readByMs !== null).length;
  return (
    <div className="grid h-full grid-rows-[auto_1fr_auto]">
      <BandPatterns />
      <header className="flex items-center gap-4 border-edge border-b-2 px-5 py-2 max-md:flex-wrap max-md:gap-2 max-md:px-3">
        <h1 className="font-bold text-2xl">
          {parts[0]!.day.toLocaleString({ weekday: 'long', month: 'long', day: 'numeric' })}
        </h1>
        <p className="flex-1 text-soft">
          {t('today.count', { count: showers.size })} · {t('rounds.waiting', { count: waiting })} ·{' '}
          {t('rounds.floods', { count: floods })}
        </p>
        {assigned && (
          <button type="button" className="key" aria-pressed={mineOnly} onClick={() => setMineOnly(!mineOnly)}>
            {t('rounds.mine')}
          </button>
        )}
        <SyncMark />
        <DayEnd />
        <FindShower />
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
        <div className="grid grid-cols-[19rem_1fr] gap-3 px-2 max-md:grid-cols-1">
          <p className="self-end text-soft text-sm max-md:hidden">{t('rounds.zone', { zone })}</p>
          <div ref={box}>{list.length > 0 && <HourAxis parts={parts} nowMs={nowMs} wide={wide} />}</div>
        </div>
        {jobs.size === 0 && (
          <p className="py-8 text-lg text-soft">
            {t(
              connection === 'starting'
                ? 'today.loading'
                : connection === 'offline'
                  ? 'today.emptyOffline'
                  : 'today.empty',
            )}
          </p>
        )}
        {[...jobs]
          .sort(([a], [b]) => a.localeCompare(b))
          .map(([job, mine]) => (
            <section key={job}>
              <h2 className="px-2 pt-1.5 font-semibold text-soft">{job}</h2>
              <ul>
                {mine
                  .sort((a, b) => a.shower.state.created!.body.name.localeCompare(b.shower.state.created!.body.name))
                  .map((row) => (
                    <ShowerRow key={row.shower.id} row={row} parts={parts} nowMs={nowMs} wide={wide} />
                  ))}
              </ul>
            </section>
          ))}
      </main>
      <footer className="border-edge border-t px-5 py-1 max-md:px-3">
        <BandLegend />
      </footer>
    </div>
  );
}
