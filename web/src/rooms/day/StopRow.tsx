import type { DayStop } from '@careful-seam/core/plan/dayStops';
import { useSortable } from '@dnd-kit/sortable';
import { memo } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import type { LocalShower } from '../../tablet/store';
import { DayBand } from './DayBand';
import type { DayPart } from './dayAxis';
import { dayOf, withCure } from './showerDay';
import { beginWords, stopWords } from './wayWords';

/** What a person can do with a stop. */
export interface StopKeys {
  /** Takes it to another place in the order, the first being 0. */
  moveTo: (id: string, place: number) => void;
  /** Lets the plan choose its place again. */
  loose: (id: string) => void;
  /** Takes it out of this day. */
  refuse: (id: string) => void;
}

/** A stop in the order of the day. */
interface StopProps {
  stop: DayStop;
  /** Its place, the first being 0, and how many there are. */
  place: number;
  of: number;
  beginMs: number;
  zone: string;
  nowMs: number;
  /** It begins on the day that is shown. */
  today: boolean;
  shower: LocalShower;
  /** Somebody set it to this place. */
  pinned: boolean;
  /** Its keys are open. */
  open: boolean;
  onOpen: (id: string) => void;
  keys: StopKeys;
  /** The hours that its band is drawn over, and how wide, px. */
  parts: readonly DayPart[];
  wide: number;
}

/** What one takes along, by the kinds of what is asked there. */
const TAKE: Readonly<Record<string, string>> = {
  measured: 'rule',
  film: 'gauge',
  survey: 'laser',
  flood: 'floodRule',
  number: 'rule',
};
/** What is needed at a stage, each once. */
function takeAlong({ state }: LocalShower, stageKey: string): string[] {
  const checks = state.rules?.method.stages.find((s) => s.key === stageKey)?.checks ?? [];
  return [...new Set(checks.flatMap((c) => TAKE[c.kind] ?? []))];
}

/** Keys of a stop: earlier, later, not today, as the plan has it. */
function Keys({ stop: { id }, place, of, pinned, keys }: Pick<StopProps, 'stop' | 'place' | 'of' | 'pinned' | 'keys'>) {
  const { t } = useTranslation();
  return (
    <p data-keys className="col-span-full flex flex-wrap gap-2 pb-2">
      <button type="button" className="key" disabled={place === 0} onClick={() => keys.moveTo(id, place - 1)}>
        {t('way.earlier')}
      </button>
      <button type="button" className="key" disabled={place === of - 1} onClick={() => keys.moveTo(id, place + 1)}>
        {t('way.later')}
      </button>
      {pinned ? (
        <button type="button" className="key" onClick={() => keys.loose(id)}>
          {t('way.loose')}
        </button>
      ) : (
        <button type="button" className="key" onClick={() => keys.moveTo(id, place)}>
          {t('way.pin')}
        </button>
      )}
      <button type="button" className="key" onClick={() => keys.refuse(id)}>
        {t('way.refuse')}
      </button>
    </p>
  );
}

/**
 * One stop: its number, which is also what it is dragged by, when and why one goes there, and its hours. The next one is large. Of a list
 * only the row that a tap changes is drawn anew.
 */
export const StopRow = memo(function StopRow(props: StopProps) {
  const { stop, place, beginMs, zone, nowMs, today, shower, pinned, open, onOpen, parts, wide } = props;
  const { t } = useTranslation();
  const { setNodeRef, listeners, transform, isDragging } = useSortable({ id: stop.id });
  const isNext = place === 0;
  const to = shower.state.flood?.running ? `/showers/${stop.shower}/flood` : `/showers/${stop.shower}`;
  const take = isNext ? takeAlong(shower, stop.stage) : [];
  const isLate = stop.closesMs !== null && beginMs > stop.closesMs;
  return (
    <li
      ref={setNodeRef}
      data-stop={stop.id}
      className={`grid grid-cols-[3rem_19rem_1fr] items-center gap-x-3 border-hair border-b px-2 max-md:grid-cols-[3rem_1fr] ${isNext ? 'min-h-28 border-b-2 border-edge bg-leaf' : 'min-h-14'} ${isDragging ? 'relative z-10 bg-leaf outline-3 outline-water' : ''}`}
      style={transform ? { transform: `translateY(${transform.y}px)` } : undefined}
    >
      <button
        type="button"
        className={`key cursor-grab touch-none px-0 ${isNext ? 'min-h-16' : ''}`}
        aria-expanded={open}
        aria-label={t('way.move', { number: place + 1, name: stop.name })}
        onClick={() => onOpen(stop.id)}
        {...listeners}
      >
        {place + 1}
        {pinned && <span aria-hidden="true" className="mx-auto block h-1 w-6 bg-ink" />}
      </button>
      <Link to={to} className="min-w-0 py-1 text-ink leading-tight no-underline">
        <span className={isNext ? 'font-bold text-2xl' : 'font-bold'}>{stop.name}</span>{' '}
        <span className="text-soft text-sm">{stop.job}</span>
        <span className={`block ${isNext ? 'text-base' : 'text-sm'} ${isLate ? 'font-semibold text-hold' : ''}`}>
          <span className="font-bold">{beginWords(beginMs, zone, today)}</span> {stopWords(t, stop, zone, nowMs)}
        </span>
        {take.length > 0 && (
          <span className="block text-soft text-sm">
            {t('way.take', { list: take.map((what) => t(`way.taken.${what}`)).join(', ') })}
          </span>
        )}
      </Link>
      <div className="max-md:hidden">
        <DayBand
          day={withCure(dayOf(shower.state, zone), stop.reason === 'waited' ? stop.opensMs : null)}
          ready={{ fromMs: stop.opensMs, toMs: stop.closesMs }}
          parts={parts}
          nowMs={nowMs}
          zone={zone}
          wide={wide}
        />
      </div>
      {open && <Keys {...props} />}
    </li>
  );
});
