import type { CrewPlanLine } from '@careful-seam/contract/api/plan';
import { alsoCrews } from '@careful-seam/core/log/created';
import { openLookRequests } from '@careful-seam/core/proof/holds/lookRequests';
import { currentStage } from '@careful-seam/core/proof/shown/seamLine';
import { dayWords } from '@careful-seam/words/sentences/moments';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { HelpKey } from '../../shared/Help';
import { Settings } from '../../shared/Settings';
import { SyncMark } from '../../shared/SyncMark';
import { type LocalShower, useParts } from '../../tablet/store';
import { PageTitle } from '../../ui/PageTitle';
import { usePreferences } from '../../ui/preferences';
import { CrewPlanWords, useCrewPlan } from './CrewPlan';
import { firstDueMs, type Hold, holdsOf, isToFix } from './holds';

/** A shower of the crew with what holds it. */
function ShowerLine({
  shower,
  holds,
  line,
}: {
  shower: LocalShower;
  holds: readonly Hold[];
  line: CrewPlanLine | undefined;
}) {
  const { t } = useTranslation();
  const { state } = shower;
  const { name, job } = state.created!.body;
  const open = holds.filter(isToFix);
  const waits = holds.length - open.length;
  const asked = openLookRequests(state);
  const [first] = open;
  const stage = currentStage(state);
  const labelOf = (key: string | null) => state.rules?.method.stages.find((s) => s.key === key)?.label ?? '';
  const label = labelOf(stage);
  const overdue = first !== undefined && first.dueMs !== null && first.dueMs < state.clockMs;
  return (
    <li className="border-hair border-b">
      <Link to={`/crew/${shower.id}`} className="flex min-h-16 items-center gap-3 py-2 text-ink no-underline">
        <span
          aria-hidden="true"
          className={`w-1.5 self-stretch ${open.length > 0 ? 'bg-hold' : holds.length > 0 ? 'bg-cure' : 'bg-hair'}`}
        />
        <span className="min-w-0 flex-1 leading-snug">
          <span className="font-bold">{name}</span> <span className="text-soft text-sm">{job}</span>
          <span className={`block ${open.length > 0 ? 'text-hold' : 'text-soft'}`}>
            {open.length > 0
              ? t('crew.toFix', { count: open.length })
              : holds.length > 0
                ? t('crew.putRight', { count: waits })
                : t('crew.nothing', { stage: label })}
          </span>
          {open.length > 0 && waits > 0 && (
            <span className="block text-cure text-sm">{t('crew.putRight', { count: waits })}</span>
          )}
          {asked.length > 0 && (
            <span className="block text-cure text-sm">
              {t('crew.looksAsked', { stages: [...new Set(asked.map((r) => labelOf(r.body.stage)))].join(', ') })}
            </span>
          )}
          {line && <CrewPlanWords line={line} shower={shower} />}
          {first?.dueMs && (
            <span className={`block text-sm ${overdue ? 'font-semibold text-hold' : 'text-cure'}`}>
              {t(overdue ? 'life.overdue' : 'life.due', { at: dayWords(first.dueMs, state.created!.body.timeZone) })}
            </span>
          )}
        </span>
        <span className="key flex items-center text-sm">{t('crew.open')}</span>
      </Link>
    </li>
  );
}

/** A crew's day on a phone: its showers, those with something to put right first. */
export function CrewDay() {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { showers, connection, lastSyncAt, person, crews } = useParts(
    'showers',
    'connection',
    'lastSyncAt',
    'person',
    'crews',
  );
  const isMine = ({ state: { created } }: LocalShower) =>
    created !== null &&
    (created.body.crewId === person?.crewId || alsoCrews(created.body).includes(person?.crewId ?? ''));
  const plan = useCrewPlan();
  const mine = [...showers.values()].filter(isMine);
  const rows = mine
    .map((shower) => ({ shower, holds: holdsOf(t, shower.state, unit) }))
    .sort((a, b) => {
      const open = (holds: readonly Hold[]) => holds.filter(isToFix).length;
      const [dueA, dueB] = [firstDueMs(a.holds), firstDueMs(b.holds)];
      if (dueA !== dueB) return dueA < dueB ? -1 : 1;
      return open(b.holds) - open(a.holds) || b.holds.length - a.holds.length;
    });
  const total = rows.reduce((n, r) => n + r.holds.filter(isToFix).length, 0);
  return (
    <div className="mx-auto flex h-full max-w-2xl flex-col">
      <header className="flex flex-wrap items-center gap-2 border-edge border-b-2 px-3 py-2">
        <div className="min-w-0 flex-1 max-md:basis-full">
          <PageTitle text={t('shower.day')} />
          <h1 className="font-bold text-xl leading-tight">
            {crews.find((c) => c.id === person?.crewId)?.name ?? t('crew.title')}
          </h1>
          <p className={total > 0 ? 'text-hold' : 'text-soft'}>{t('crew.toFix', { count: total })}</p>
        </div>
        <SyncMark />
        <HelpKey />
        <Link to="/across/crews" className="key flex items-center">
          {t('across.own')}
        </Link>
        <Settings />
      </header>
      <main className="flex-1 overflow-y-auto px-3">
        {rows.length === 0 && (
          <p className="py-6 text-soft">
            {t(
              connection === 'starting' || (connection === 'online' && lastSyncAt === null)
                ? 'today.loading'
                : connection === 'offline'
                  ? 'today.emptyOffline'
                  : 'crew.empty',
            )}
          </p>
        )}
        <ul>
          {rows.map((row) => (
            <ShowerLine key={row.shower.id} {...row} line={plan.get(row.shower.id)} />
          ))}
        </ul>
      </main>
    </div>
  );
}
