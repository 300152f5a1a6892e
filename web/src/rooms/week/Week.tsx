import { type Assigned, AssignMany, WeekAnswer, type WeekShower } from '@careful-seam/contract/api/plan';
import { atHour } from '@careful-seam/core/plan/workCalendar';
import { clockWords, dayWords, hourWords, momentWords } from '@careful-seam/words/sentences/moments';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { dayZone } from '../../shared/dayZone';
import { HelpKey } from '../../shared/Help';
import { useParts } from '../../tablet/store';
import { useChange, useLiveList } from '../../tablet/useList';
import { useStageLabels } from '../../tablet/useStageLabels';
import { Choice } from '../../ui/Choice';
import { Problem } from '../../ui/Loaded';
import { PageTitle } from '../../ui/PageTitle';
import { useWidth } from '../../ui/useWidth';
import { LANES, type LaneKey, lanesOf } from './lanes';
import { WeekPatterns, WeekRow } from './WeekRow';

/** Where the week is read. */
const PATH = '/api/plan/week';
/** Looks of a shower as they stand: set by the office, or as it is suggested. */
const isSet = (s: WeekShower): boolean => s.inspectorId !== null && s.visitOn !== null;

/** What waits for something that is no work, and what can't be kept: named before all else. */
function Warnings({ week }: { week: WeekAnswer }) {
  const nameOf = useStageLabels();
  const { t } = useTranslation();
  const squeezed = week.showers.filter((s) => s.squeeze !== null);
  const waits = week.showers.filter((s) => s.goods.length > 0);
  if (squeezed.length + waits.length === 0) return null;
  return (
    <ul className="flex flex-col gap-1 border-hold border-l-4 bg-leaf px-3 py-1">
      {squeezed.map((s) => {
        const most = [...s.squeeze!.missing].sort((a, b) => b.hours - a.hours)[0];
        const labelOf = (key: string) => nameOf(key, s.steps.find((step) => step.stage === key)?.label ?? key);
        return (
          <li key={s.shower} className="text-hold">
            <Link to={`/showers/${s.shower}`} className="font-bold text-hold">
              {s.name}
            </Link>{' '}
            {t('way.squeeze', { needs: s.squeeze!.needs, left: s.squeeze!.left })}{' '}
            {most &&
              t('way.missing', {
                from: labelOf(most.stage),
                to: labelOf(most.next),
                hours: t('way.hours', { count: Math.round(most.hours) }),
              })}{' '}
            {t('week.instead', { at: momentWords(s.readyMs, s.timeZone) })}
          </li>
        );
      })}
      {waits.map((s) => (
        <li key={s.shower}>
          <span className="font-bold">{s.name}</span>{' '}
          {t('week.waitsFor', {
            list: s.goods.map((g) => `${g.what} (${dayWords(Date.parse(`${g.dueOn}T12:00:00Z`), 'UTC')})`).join(', '),
          })}
        </li>
      ))}
    </ul>
  );
}

/** One look with who gives it: chosen by its box, to be set with others at once. */
function LookLine({
  shower,
  suggested,
  week,
  chosen,
  onChoose,
}: {
  shower: WeekShower;
  suggested: Assigned | undefined;
  week: WeekAnswer;
  chosen: boolean;
  onChoose: () => void;
}) {
  const labelOf = useStageLabels();
  const { t } = useTranslation();
  const nameOf = (id: string | null | undefined) => week.inspectors.find((i) => i.id === id)?.name;
  const who = nameOf(shower.inspectorId);
  const day = (iso: string) => dayWords(Date.parse(`${iso}T12:00:00Z`), 'UTC');
  return (
    <li className="border-hair border-b">
      <label className="flex min-h-12 items-center gap-3 py-1">
        <input type="checkbox" className="size-8 flex-none" checked={chosen} onChange={onChoose} />
        <span className="min-w-0 flex-1 leading-tight">
          <span className="font-bold">{shower.name}</span> <span className="text-soft text-sm">{shower.job}</span>
          <span className="block text-sm">
            {t('week.look', {
              label: labelOf(shower.lookStage, shower.lookLabel),
              at: hourWords(shower.lookMs, shower.timeZone),
              minutes: shower.lookMinutes,
            })}
          </span>
          <span className="block text-soft text-sm">
            {who
              ? t('week.setTo', { who, day: shower.visitOn ? day(shower.visitOn) : t('week.anyDay') })
              : suggested
                ? t('week.suggested', { who: nameOf(suggested.inspectorId), day: day(suggested.visitOn!) })
                : t('week.nobody')}
          </span>
        </span>
      </label>
    </li>
  );
}

/** Looks and who gives them: the suggestion is taken whole, or some looks are given to one person for one day. */
function Looks({ week }: { week: WeekAnswer }) {
  const { t } = useTranslation();
  const { sync } = useParts('sync');
  const { change, problem, busy } = useChange([PATH]);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [who, setWho] = useState<string | null>(null);
  const [day, setDay] = useState<string>(week.days[0] ?? '');
  const set = async (looks: Assigned[]) => {
    if (looks.length === 0) return;
    if (await change(AssignMany, 'POST', '/api/plan/looks', { looks })) {
      setChosen(new Set());
      await sync();
    }
  };
  const suggestions = new Map(week.suggested.map((s) => [s.shower, s]));
  const open = week.showers.filter((s) => !isSet(s));
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    setChosen(next);
  };
  const rows = [...week.showers].sort((a, b) => Number(isSet(a)) - Number(isSet(b)) || a.lookMs - b.lookMs);
  const inDay = week.days.filter((d) => !(who && week.inspectors.find((i) => i.id === who)?.away.includes(d)));
  return (
    <aside className="flex min-h-0 flex-col gap-2 border-edge border-l-2 px-3 py-2 max-lg:border-l-0">
      <h2 className="font-bold text-lg">{t('week.looks', { count: open.length })}</h2>
      {suggestions.size > 0 && (
        <button
          type="button"
          className="key key-main"
          disabled={busy}
          onClick={() =>
            void set(week.suggested.map(({ shower, inspectorId, visitOn }) => ({ shower, inspectorId, visitOn })))
          }
        >
          {t('week.accept', { count: suggestions.size })}
        </button>
      )}
      <Problem text={problem} />
      <ul className="min-h-0 flex-1 overflow-y-auto">
        {rows.map((s) => (
          <LookLine
            key={s.shower}
            shower={s}
            week={week}
            suggested={suggestions.get(s.shower)}
            chosen={chosen.has(s.shower)}
            onChoose={() => toggle(s.shower)}
          />
        ))}
      </ul>
      {chosen.size > 0 && (
        <div className="flex flex-col gap-2 border-edge border-t pt-2">
          <Choice
            label={t('week.who')}
            value={who}
            options={week.inspectors.map((i) => ({ key: i.id, label: i.name }))}
            onChoose={setWho}
          />
          <select className="field" aria-label={t('week.day')} value={day} onChange={(e) => setDay(e.target.value)}>
            {inDay.map((d) => (
              <option key={d} value={d}>
                {dayWords(Date.parse(`${d}T12:00:00Z`), 'UTC')}
              </option>
            ))}
          </select>
          <div className="flex gap-2">
            <button
              type="button"
              className="key key-main flex-1"
              disabled={busy || who === null}
              onClick={() => void set([...chosen].map((shower) => ({ shower, inspectorId: who, visitOn: day })))}
            >
              {t('week.set', { count: chosen.size })}
            </button>
            <button
              type="button"
              className="key"
              disabled={busy}
              onClick={() => void set([...chosen].map((shower) => ({ shower, inspectorId: null, visitOn: null })))}
            >
              {t('week.unset')}
            </button>
          </div>
        </div>
      )}
    </aside>
  );
}

/** The firm's week: showers by day with what happens to each, or by who looks and by crew; looks nobody is set to beside it. */
export function Week() {
  const { t } = useTranslation();
  const { person } = useParts('person');
  const { data: week, isError } = useLiveList(WeekAnswer, PATH);
  // Who looks begins with the own looks; who plans, with all showers.
  const looks = person?.role === 'inspector';
  const [lane, setLane] = useState<LaneKey>(looks ? 'mine' : 'showers');
  const { box, wide } = useWidth<HTMLSpanElement>(300);
  const zone = dayZone(
    (week?.showers ?? []).map((s) => s.timeZone),
    'UTC',
  );
  const days = (week?.days ?? []).map((day) => ({ day, fromMs: atHour(zone, day, 6), toMs: atHour(zone, day, 18) }));
  const groups = week ? lanesOf(t, week, lane, person?.id ?? '') : [];
  return (
    <div className="grid h-full grid-rows-[auto_1fr]">
      <WeekPatterns />
      <header className="flex flex-wrap items-center gap-3 border-edge border-b-2 px-5 py-2 max-md:px-3">
        <PageTitle text={t('way.week')} />
        <h1 className="font-bold text-2xl">{t('week.title')}</h1>
        <div className="flex-1">
          <Choice
            label={t('week.lanes')}
            value={lane}
            options={LANES.filter((key) => looks || key !== 'mine').map((key) => ({
              key,
              label: t(`week.lane.${key}`),
            }))}
            onChoose={setLane}
          />
        </div>
        <HelpKey />
        <Link to="/" className="key flex items-center">
          {t('shower.day')}
        </Link>
      </header>
      <main
        className={`grid min-h-0 ${person?.role === 'manager' ? 'grid-cols-[1fr_24rem] max-lg:grid-cols-1' : ''} max-lg:overflow-y-auto`}
      >
        <section className="min-h-0 overflow-y-auto px-5 py-1 max-md:px-3">
          {!week && <p className="py-6 text-lg text-soft">{t(isError ? 'week.offline' : 'week.loading')}</p>}
          {week && <Warnings week={week} />}
          {lane === 'mine' && week && groups.length === 0 && (
            <p className="py-6 text-lg text-soft">{t('week.noneMine')}</p>
          )}
          {week && week.showers.length === 0 && <p className="py-6 text-lg text-soft">{t('week.empty')}</p>}
          <div className="grid grid-cols-[13rem_1fr] gap-2 pt-1 max-md:hidden">
            <span className="text-soft text-sm">{week && t('week.made', { at: clockWords(week.madeMs, zone) })}</span>
            <span ref={box} className="grid gap-x-[6px]" style={{ gridTemplateColumns: `repeat(${days.length}, 1fr)` }}>
              {days.map(({ day, fromMs }) => (
                <span key={day} className="font-semibold text-sm">
                  {dayWords(fromMs, zone)}
                </span>
              ))}
            </span>
          </div>
          {groups.map((g) => (
            <section key={g.key}>
              {g.title && (
                <h2 className="flex gap-3 pt-2 font-bold">
                  {g.title} <span className="font-normal text-soft">{g.note}</span>
                </h2>
              )}
              <ul>
                {g.showers.map((s) => (
                  <WeekRow key={s.shower} shower={s} axis={{ days, wide }} nowMs={week!.madeMs} />
                ))}
              </ul>
            </section>
          ))}
        </section>
        {week && person?.role === 'manager' && <Looks week={week} />}
      </main>
    </div>
  );
}
