import type { NotToday } from '@careful-seam/core/plan/dayStops';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import type { LocalShower } from '../../tablet/store';
import { DayBand } from './DayBand';
import type { DayPart } from './dayAxis';
import { dayOf, withCure } from './showerDay';
import { notTodayWords } from './wayWords';

/** How bands are drawn on this screen. */
export interface Drawn {
  parts: readonly DayPart[];
  nowMs: number;
  wide: number;
  zone: string;
}

/** A shower beside the way: what it waits for, with its hours. */
function Row({
  shower,
  words,
  cureMs,
  drawn,
  refused,
  onBack,
}: {
  shower: LocalShower;
  words: string;
  /** When a running cure is likely over, ms since 1970; null where none runs. */
  cureMs: number | null;
  drawn: Drawn;
  refused: boolean;
  onBack: () => void;
}) {
  const { t } = useTranslation();
  const { name, job } = shower.state.created!.body;
  return (
    <li className="grid min-h-12 grid-cols-[23rem_1fr] items-center gap-x-3 border-hair border-b px-2 max-md:grid-cols-1">
      <span className="flex items-center gap-2">
        <Link
          to={`/showers/${shower.id}${shower.state.flood?.running ? '/flood' : ''}`}
          className="min-w-0 flex-1 py-1 text-ink leading-tight no-underline"
        >
          <span className="font-bold">{name}</span> <span className="text-soft text-sm">{job}</span>
          {words && <span className="block text-soft text-sm">{words}</span>}
        </Link>
        {refused && (
          <button type="button" className="key" onClick={onBack}>
            {t('way.back')}
          </button>
        )}
      </span>
      <div className="max-md:hidden">
        <DayBand day={withCure(dayOf(shower.state, drawn.zone), cureMs)} ready={null} {...drawn} />
      </div>
    </li>
  );
}

/** What can't be looked at on these days, soonest first; then what was taken out of the day, and what has nothing ahead. */
export function Waiting({
  notToday,
  showers,
  others,
  refused,
  drawn,
  onBack,
}: {
  notToday: readonly NotToday[];
  showers: ReadonlyMap<string, LocalShower>;
  /** Showers of which the plan says nothing. */
  others: readonly LocalShower[];
  refused: readonly string[];
  drawn: Drawn;
  onBack: (id: string) => void;
}) {
  const { t } = useTranslation();
  const out = refused.flatMap((id) => showers.get(id) ?? []);
  const waits = notToday.flatMap((row) => {
    const shower = showers.get(row.shower);
    return shower
      ? [
          {
            shower,
            words: notTodayWords(t, row, drawn.zone),
            cureMs: row.planned.ahead.stages[0]!.wait?.likelyMs ?? null,
          },
        ]
      : [];
  });
  const groups = [
    { title: t('way.notYet'), rows: waits },
    { title: t('way.refused'), rows: out.map((shower) => ({ shower, words: '', cureMs: null })) },
    { title: t('way.nothing'), rows: others.map((shower) => ({ shower, words: '', cureMs: null })) },
  ];
  return groups
    .filter((g) => g.rows.length > 0)
    .map(({ title, rows }) => (
      <section key={title}>
        <h2 className="px-2 pt-2 font-semibold text-soft">{title}</h2>
        <ul>
          {rows.map(({ shower, words, cureMs }) => (
            <Row
              key={shower.id}
              shower={shower}
              words={words}
              cureMs={cureMs}
              drawn={drawn}
              refused={refused.includes(shower.id)}
              onBack={() => onBack(shower.id)}
            />
          ))}
        </ul>
      </section>
    ));
}
