import { mayWrite } from '@careful-seam/core/log/roles';
import type { InspectorDay } from '@careful-seam/core/plan/inspectorDay';
import { longDayWords } from '@careful-seam/words/sentences/moments';
import { useEffect, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useSearchParams } from 'react-router';
import { deviationsOf } from '../../shared/Approvals';
import { dayZone } from '../../shared/dayZone';
import { HelpKey } from '../../shared/Help';
import { Settings } from '../../shared/Settings';
import { SyncMark } from '../../shared/SyncMark';
import { useParts } from '../../tablet/store';
import type { StoredShower } from '../../tablet/stored';
import { useQueue } from '../../tablet/useList';
import { PageTitle } from '../../ui/PageTitle';
import { useWidth } from '../../ui/useWidth';
import { BlindLooks } from './BlindLooks';
import { BandLegend, BandPatterns, HourAxis } from './DayBand';
import { DayEnd } from './DayEnd';
import { dayParts } from './dayAxis';
import { pinsOf, useDayPins } from './dayPins';
import { FindShower } from './FindShower';
import { Unkept } from './Unkept';
import { useDayPlan } from './useDayPlan';
import { Waiting } from './Waiting';
import { Way } from './Way';

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

/** Keys of the days: today, the next one, and the firm's week. */
function DayKeys() {
  const { t } = useTranslation();
  const [search, setSearch] = useSearchParams();
  const tomorrow = search.get('day') === 'tomorrow';
  return (
    <>
      <button
        type="button"
        className="key"
        aria-pressed={tomorrow}
        onClick={() => setSearch(tomorrow ? {} : { day: 'tomorrow' }, { replace: true })}
      >
        {t('way.tomorrow')}
      </button>
      <Link to="/week" className="key flex items-center">
        {t('way.week')}
      </Link>
    </>
  );
}

/** The day's name, and the keys of the whole application; on a phone they wait behind one. */
function Head({
  title,
  assigned,
  mineOnly,
  setMineOnly,
}: {
  title: string;
  assigned: boolean;
  mineOnly: boolean;
  setMineOnly: (on: boolean) => void;
}) {
  const { t } = useTranslation();
  const { person, showers } = useParts('person', 'showers');
  const [keys, setKeys] = useState(false);
  const isManager = person?.role === 'manager';
  const queue = useQueue(isManager);
  const here = isManager ? deviationsOf(showers.values()).waiting.length : 0;
  const approvals = queue.data?.pages[0]?.decisions ?? here;
  return (
    <header className="flex items-center gap-4 border-edge border-b-2 px-5 py-2 max-lg:flex-wrap max-md:gap-2 max-md:px-3">
      <PageTitle text={t('shower.day')} />
      <h1 className="flex-1 whitespace-nowrap font-bold text-2xl">{title}</h1>
      <SyncMark />
      <button type="button" className="key md:hidden" aria-expanded={keys} onClick={() => setKeys(!keys)}>
        {t('way.more')}
      </button>
      <div className={`contents ${keys ? '' : 'max-md:hidden'}`}>
        {assigned && (
          <button type="button" className="key" aria-pressed={mineOnly} onClick={() => setMineOnly(!mineOnly)}>
            {t('rounds.mine')}
          </button>
        )}
        <DayKeys />
        <HelpKey />
        <DayEnd />
        <FindShower />
        <Link to="/across" className="key flex items-center">
          {t('across.title')}
        </Link>
        {isManager && (
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
      </div>
    </header>
  );
}

/** What there is to do: a key that shows these alone, floods to read among them, minutes on the road. */
function DayCount({
  day,
  alone,
  setAlone,
  zone,
}: {
  day: InspectorDay | null;
  alone: boolean;
  setAlone: (on: boolean) => void;
  zone: string;
}) {
  const { t } = useTranslation();
  if (!day) return <p className="text-soft">{t('way.working')}</p>;
  const floods = [...day.byId.values()].filter((s) => s.reason === 'read-flood').length;
  return (
    <p className="flex items-center gap-3 pb-1 leading-tight">
      <button type="button" className="key flex-none" aria-pressed={alone} onClick={() => setAlone(!alone)}>
        {t('rounds.waiting', { count: day.route.order.length })}
      </button>
      <span className="text-soft text-sm">
        {floods > 0 && `${t('rounds.floods', { count: floods })} · `}
        {t('way.road', { minutes: t('way.minutes', { count: Math.round(day.route.driveMinutes) }) })}
        <span className="block">{t('rounds.zone', { zone })}</span>
      </span>
    </p>
  );
}

/** The day as one way through a band of hours: where to go next and why, then the others in their order, then what can't be looked at yet. */
export function Rounds() {
  const { t } = useTranslation();
  const { showers, asleep, more, person, connection, lastSyncAt, settings } = useParts(
    'showers',
    'asleep',
    'more',
    'person',
    'connection',
    'lastSyncAt',
    'settings',
  );
  const { box, wide } = useWidth(240);
  const nowMs = Date.now();
  const [mineOnly, setMineOnly] = useState(false);
  const [alone, setAlone] = useState(false);
  const [held, setHeld] = useState(false);
  const [search] = useSearchParams();
  const tomorrow = search.get('day') === 'tomorrow';
  const all = useMemo(() => [...showers.values()].filter((s) => s.state.created), [showers]);
  const assigned = all.some((s) => s.stored.row?.inspectorId);
  const mine = mineOnly ? (person?.id ?? null) : undefined;
  const list = useMemo(
    () =>
      mine === undefined ? all : all.filter((s) => !s.stored.row?.inspectorId || s.stored.row.inspectorId === mine),
    [all, mine],
  );
  // The band's hours are the firm's; a row of another zone says its own beside.
  const zone = dayZone(
    list.map((s) => s.state.created!.body.timeZone),
    settings?.timeZone ?? Intl.DateTimeFormat().resolvedOptions().timeZone,
  );
  const plan = useDayPlan(list, zone, tomorrow, held);
  const { day } = plan;
  const fromMs = plan.asked.laterMs ?? plan.asked.nowMs;
  const parts = dayParts(fromMs, zone, wide > 500);
  const drawn = { parts, nowMs, wide, zone };
  const { days, change, sendAll } = useDayPins();
  const me = person?.id ?? '';
  const { refused } = pinsOf(days, me, plan.date);
  // What was changed without a network is sent with the next news.
  useEffect(() => {
    if (lastSyncAt !== null && me !== '') void sendAll(me);
  }, [lastSyncAt, me, sendAll]);
  const planned = new Set([...(day ? [...day.byId.keys(), ...day.notToday.map((n) => n.shower)] : []), ...refused]);
  // Before the way is there nothing is listed: it would move from under a finger.
  const others = day || plan.failed ? list.filter((s) => !planned.has(s.id)) : [];
  return (
    <div className="grid h-full grid-rows-[auto_1fr_auto]">
      <BandPatterns />
      <Head title={longDayWords(fromMs, zone)} assigned={assigned} mineOnly={mineOnly} setMineOnly={setMineOnly} />
      <main className="overflow-y-auto px-5 py-1 max-md:px-3">
        <Unkept />
        {person && mayWrite(person.role, 'look') && <BlindLooks />}
        <div className="grid grid-cols-[23rem_1fr] items-end gap-3 px-2 max-md:grid-cols-1">
          <DayCount day={day} alone={alone} setAlone={setAlone} zone={zone} />
          <div ref={box} className="max-md:hidden">
            {list.length > 0 && <HourAxis parts={parts} nowMs={nowMs} wide={wide} />}
          </div>
        </div>
        {list.length === 0 && (
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
        {plan.failed && <p className="font-semibold text-hold">{t('way.failed')}</p>}
        {day && list.length > 0 && <Way plan={plan} day={day} showers={showers} onHold={setHeld} {...drawn} />}
        {!alone && (day || plan.failed) && (
          <Waiting
            notToday={day?.notToday ?? []}
            showers={showers}
            others={others}
            refused={refused}
            drawn={drawn}
            onBack={(id) => change(me, plan.date, { refused: refused.filter((r) => r !== id) })}
          />
        )}
        {!alone && <Asleep showers={asleep} more={more} />}
      </main>
      <footer className="border-edge border-t px-5 py-1 max-md:hidden">
        <BandLegend />
      </footer>
    </div>
  );
}
