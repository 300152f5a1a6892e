import { mayWrite } from '@careful-seam/contract/api/roles';
import { blockersOf } from '@careful-seam/core/proof/release';
import { buildLedger, currentStage } from '@careful-seam/core/proof/seamLine';
import { showLength } from '@careful-seam/core/units/length';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { Settings } from '../shell/Settings';
import { SyncMark } from '../shell/SyncMark';
import { usePreferences } from '../state/preferences';
import { type LocalShower, useStore } from '../state/store';

function useSummary(shower: LocalShower) {
  return useMemo(() => {
    const { state } = shower;
    const stage = currentStage(state);
    if (!stage || !state.rules) return null;
    const stages = state.rules.method.stages.filter((s) => s.checks.length > 0);
    const word = state.stages.get(stage)?.word ?? 'open';
    return {
      label: state.rules.method.stages.find((s) => s.key === stage)!.label,
      word,
      left: word === 'open' ? 0 : blockersOf(state, stage).length,
      hold: [...state.defects.values()].some((d) => d.closedAt === null && d.severity !== 'note'),
      figures: buildLedger(state, [stage]).figures,
      stages: stages.map((s) => ({ key: s.key, word: state.stages.get(s.key)?.word ?? 'open' })),
    };
  }, [shower]);
}

function ShowerLine({ shower }: { shower: LocalShower }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const crews = useStore((s) => s.crews);
  const summary = useSummary(shower);
  const created = shower.state.created?.body;
  if (!summary || !created) return null;
  const { figures } = summary;
  const left = figures.byState.unseen + figures.byState.defect;
  const text =
    summary.word === 'released'
      ? t('today.released')
      : summary.word === 'open'
        ? t('today.waits', { stage: summary.label })
        : summary.left === 0
          ? t('today.ready', { stage: summary.label })
          : t('today.left', { stage: summary.label, count: summary.left });
  return (
    <li>
      <Link
        to={`/showers/${shower.id}`}
        className="grid min-h-16 grid-cols-[14rem_1fr_18rem] items-center gap-4 border-hair border-b px-2 py-1 text-ink no-underline hover:bg-leaf max-md:grid-cols-1"
      >
        <span>
          <span className="font-bold text-lg">{created.name}</span>
          <span className="block text-sm text-soft">
            {crews.find((c) => c.id === created.crewId)?.name ?? created.crewId}
          </span>
        </span>
        <span className={summary.hold ? 'font-semibold text-hold' : ''}>
          {text}
          {left > 0 && summary.word !== 'open' && (
            <span className="block text-sm text-soft">
              {t('today.seam', { left: showLength(left, unit), total: showLength(figures.totalMm, unit) })}
            </span>
          )}
        </span>
        <svg viewBox="0 0 200 20" className="h-5 w-full max-w-64" aria-hidden="true">
          {summary.stages.map((s, i) => (
            <path
              key={s.key}
              d={`M${6 + i * 33} 10h24`}
              className={
                s.word === 'released'
                  ? 'stroke-ink [stroke-width:6]'
                  : s.word === 'open'
                    ? 'stroke-edge [stroke-width:3] [stroke-dasharray:0.1_6] [stroke-linecap:round]'
                    : 'stroke-hold [stroke-width:3]'
              }
            />
          ))}
        </svg>
      </Link>
    </li>
  );
}

/** The list of the day: each job's showers, what each one waits for. */
export function Today() {
  const { t } = useTranslation();
  const { showers, person, connection } = useStore();
  const jobs = new Map<string, LocalShower[]>();
  for (const shower of showers.values()) {
    const job = shower.state.created?.body.job;
    if (job) jobs.set(job, [...(jobs.get(job) ?? []), shower]);
  }
  const day = new Intl.DateTimeFormat('en-US', { weekday: 'long', month: 'long', day: 'numeric' }).format(new Date());
  return (
    <div className="grid h-full grid-rows-[auto_1fr]">
      <header className="flex items-center gap-4 border-edge border-b-2 px-5 py-2 max-md:flex-wrap">
        <h1 className="font-bold text-2xl">{day}</h1>
        <p className="flex-1 text-soft">{t('today.count', { count: showers.size })}</p>
        <SyncMark />
        <Settings />
        {person && mayWrite(person.role, 'shower-created') && (
          <Link to="/new" className="key key-main flex items-center">
            {t('today.new')}
          </Link>
        )}
      </header>
      <main className="overflow-y-auto px-5 py-2">
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
        {[...jobs].sort().map(([job, list]) => (
          <section key={job} className="mb-2">
            <h2 className="pt-2 font-semibold text-soft">{job}</h2>
            <ul>
              {list
                .sort((a, b) => a.state.created!.body.name.localeCompare(b.state.created!.body.name))
                .map((s) => (
                  <ShowerLine key={s.id} shower={s} />
                ))}
            </ul>
          </section>
        ))}
      </main>
    </div>
  );
}
