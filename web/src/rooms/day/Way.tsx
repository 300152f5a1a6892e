import type { DayPins } from '@careful-seam/contract/api/plan';
import type { InspectorDay, Price } from '@careful-seam/core/plan/inspectorDay';
import { whatMoved } from '@careful-seam/core/plan/whatMoved';
import { dayAt } from '@careful-seam/core/plan/workCalendar';
import { clockWords } from '@careful-seam/words/sentences/moments';
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  type DragOverEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { useCallback, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { type LocalShower, useParts } from '../../tablet/store';
import { DayBand } from './DayBand';
import type { DayPart } from './dayAxis';
import { pinsOf, type SeenWay, seenOf, useDayPins } from './dayPins';
import { planWork } from './planWork';
import { StopRow } from './StopRow';
import { dayOf, withCure } from './showerDay';
import type { DayPlan } from './useDayPlan';
import { type RowBox, WayLine } from './WayLine';
import { movedWords, priceWords } from './wayWords';

/** Nothing is dragged before a finger has gone so far, px: a tap opens the keys. */
const DRAG_AFTER_PX = 8;

/** A tablet that was just opened still reads what it keeps for so long, ms. */
const SETTLES_MS = 8000;

/** A move that was made, so that it can be taken back. */
interface Move {
  id: string;
  price: Price;
  before: Pick<DayPins, 'pins' | 'order'>;
}

/** A way as it is kept to tell later what moved. */
const asSeen = (day: InspectorDay, atMs: number): SeenWay => ({
  atMs,
  order: day.route.order,
  begins: day.route.begins,
  opens: Object.fromEntries([...day.byId].map(([id, s]) => [id, s.opensMs])),
});

/** What moved since the way was seen last, with the cause first; a key takes note of it. */
function MovedLine({
  day,
  date,
  zone,
  nameOf,
}: {
  day: InspectorDay;
  date: string;
  zone: string;
  nameOf: (id: string) => string;
}) {
  const { t } = useTranslation();
  const { person: me, connection, lastSyncAt, behind } = useParts('person', 'connection', 'lastSyncAt', 'behind');
  const person = me?.id ?? '';
  // Until it has heard the server of all its showers, or can't, a tablet does not know what there is.
  const ready = (lastSyncAt !== null && behind === 0) || connection === 'offline';
  const seen = seenOf(
    useDayPins((s) => s.seen),
    person,
    date,
  );
  const see = useDayPins((s) => s.see);
  const now = useMemo(() => asSeen(day, Date.now()), [day]);
  const take = useCallback(() => see(person, date, now), [see, person, date, now]);
  const began = useRef<number | null>(seen === null ? null : 0);
  const isFirst = seen === null;
  useLayoutEffect(() => {
    // The first look at a day is what later ones are compared with; while a tablet still reads what it keeps, nothing has moved.
    if (ready) began.current ??= Date.now();
    if (isFirst || began.current === null || Date.now() - began.current < SETTLES_MS) take();
  }, [isFirst, take, ready]);
  const moved = seen === null ? [] : whatMoved(seen, now);
  if (seen === null || moved.length === 0) return null;
  const words = movedWords(t, moved, nameOf, day, zone);
  return (
    <p role="status" className="flex flex-wrap items-center gap-x-3 border-cure border-l-4 bg-leaf px-3 py-1">
      <span className="flex-1">
        <span className="font-bold">{t('way.movedSince', { at: clockWords(seen.atMs) })}</span>{' '}
        {words.slice(0, 3).join(' ')}
        {words.length > 3 && ` +${words.length - 3}`}
      </span>
      <button type="button" className="key" onClick={take}>
        {t('way.seen')}
      </button>
    </p>
  );
}

/** Where the rows of a list stand, measured again when their sizes change. */
function useRowBoxes(order: string) {
  const list = useRef<HTMLOListElement>(null);
  const [boxes, setBoxes] = useState<RowBox[]>([]);
  useLayoutEffect(() => {
    const box = list.current;
    if (!box || order === '') return;
    const measure = () =>
      setBoxes(
        [...box.querySelectorAll<HTMLElement>('[data-stop]')].map((row) => ({
          top: row.offsetTop,
          // A stop whose keys are open is as high as without them.
          height: row.offsetHeight - (row.querySelector<HTMLElement>('[data-keys]')?.offsetHeight ?? 0),
        })),
      );
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(box);
    return () => watch.disconnect();
    // The same rows in another order stand elsewhere.
  }, [order]);
  return { list, boxes };
}

/** What is drawn of the way. */
interface WayProps {
  plan: DayPlan;
  day: InspectorDay;
  showers: ReadonlyMap<string, LocalShower>;
  parts: readonly DayPart[];
  wide: number;
  zone: string;
  nowMs: number;
  /** Told while a finger is on a stop. */
  onHold: (held: boolean) => void;
}

/** Moving stops: what was moved last with its price, what a drag would cost, and the keys of a stop. */
function useMoves(plan: DayPlan, order: readonly string[], onHold: (held: boolean) => void) {
  const me = useParts('person').person?.id ?? '';
  const { days, change } = useDayPins();
  const { pins, order: pinnedIn, refused } = pinsOf(days, me, plan.date);
  const [move, setMove] = useState<Move | null>(null);
  const [over, setOver] = useState<Pick<Move, 'id' | 'price'> | null>(null);
  const dragged = useRef<string | null>(null);
  const without = (id: string) => Object.fromEntries(Object.entries(pins).filter(([other]) => other !== id));
  const moveTo = async (id: string, place: number) => {
    const { price, route } = await planWork().moveStop(plan.asked, id, place);
    // All that is pinned is told by its place in the order as it is now.
    const kept = [id, ...Object.keys(without(id))].flatMap((p) => {
      const now = p === id ? place : order.indexOf(p);
      return now >= 0 && (p === id || now !== place) ? [[p, now] as const] : [];
    });
    change(me, plan.date, { pins: Object.fromEntries(kept), order: route.order });
    setMove({ id, price, before: { pins, order: pinnedIn } });
  };
  const letGo = () => {
    dragged.current = null;
    onHold(false);
    setOver(null);
  };
  const placeOf = ({ active, over: under }: Pick<DragOverEvent, 'active' | 'over'>): number | null => {
    const place = under ? order.indexOf(String(under.id)) : -1;
    return place < 0 || order[place] === active.id ? null : place;
  };
  return {
    pins,
    move,
    told: over ?? move,
    isDragged: over !== null,
    putBack: () => {
      if (move) change(me, plan.date, move.before);
      setMove(null);
    },
    keep: () => setMove(null),
    keys: {
      moveTo: (id: string, place: number) => void moveTo(id, place),
      loose: (id: string) => {
        change(me, plan.date, { pins: without(id) });
        setMove(null);
      },
      refuse: (id: string) => change(me, plan.date, { pins: without(id), refused: [...refused, id] }),
    },
    drag: {
      onDragStart: () => onHold(true),
      onDragOver: (event: DragOverEvent) => {
        const place = placeOf(event);
        if (place === null) return setOver(null);
        const id = String(event.active.id);
        const at = `${id} ${place}`;
        dragged.current = at;
        void planWork()
          .moveStop(plan.asked, id, place)
          // What was asked for another place, or comes after the finger let go, is not shown.
          .then(({ price }) => dragged.current === at && setOver({ id, price }));
      },
      onDragCancel: letGo,
      onDragEnd: (event: DragEndEvent) => {
        letGo();
        const place = placeOf(event);
        if (place !== null) void moveTo(String(event.active.id), place);
      },
    },
  };
}

/** What it costs that a stop was moved, or would be; it can be put back. */
function PriceBar({ moves, nameOf }: { moves: ReturnType<typeof useMoves>; nameOf: (id: string) => string }) {
  const { t } = useTranslation();
  const { crews } = useParts('crews');
  const { told, move, isDragged, putBack, keep } = moves;
  if (!told) return null;
  const crewOf = (id: string) => crews.find((c) => c.id === id)?.name ?? id;
  return (
    <p
      role="status"
      className="sticky bottom-0 z-20 flex flex-wrap items-center gap-3 border-edge border-t-2 bg-leaf px-3 py-1"
      data-testid="price"
    >
      <span className="flex-1">
        <span className="font-bold">{nameOf(told.id)}</span>: {priceWords(t, told.price, nameOf, crewOf)}
      </span>
      {move && !isDragged && (
        <>
          <button type="button" className="key" onClick={putBack}>
            {t('way.putBack')}
          </button>
          <button type="button" className="key" onClick={keep}>
            {t('way.keep')}
          </button>
        </>
      )}
    </p>
  );
}

/** The stops of the day in their order, with the way through the hours; each can be moved, and what that costs is said. */
export function Way({ plan, day, showers, parts, wide, zone, nowMs, onHold }: WayProps) {
  const { t } = useTranslation();
  const [open, setOpen] = useState<string | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: DRAG_AFTER_PX } }));
  const { order, begins } = day.route;
  const { list, boxes } = useRowBoxes([...order, open].join(' '));
  const moves = useMoves(plan, order, onHold);
  const nameOf = (id: string) => showers.get(id)?.state.created?.body.name ?? '';
  const stops = order.flatMap((id, place) => {
    const [stop, shower] = [day.byId.get(id), showers.get(id)];
    return stop && shower ? [{ id, place, stop, shower, beginMs: begins[place]! }] : [];
  });
  return (
    <section id="stops" aria-label={t('way.title')}>
      <MovedLine key={plan.date} day={day} date={plan.date} zone={zone} nameOf={nameOf} />
      {order.length === 0 && <p className="py-6 text-lg text-soft">{t('way.none')}</p>}
      <DndContext sensors={sensors} collisionDetection={closestCenter} {...moves.drag}>
        <SortableContext items={order} strategy={verticalListSortingStrategy}>
          <div className="relative">
            <ol ref={list}>
              {stops.map(({ id, place, stop, shower, beginMs }) => (
                <StopRow
                  key={id}
                  stop={stop}
                  place={place}
                  of={order.length}
                  beginMs={beginMs}
                  zone={zone}
                  nowMs={nowMs}
                  today={dayAt(zone, beginMs) === plan.date}
                  shower={shower}
                  pinned={Object.hasOwn(moves.pins, id)}
                  open={open === id}
                  onOpen={() => setOpen(open === id ? null : id)}
                  keys={moves.keys}
                  band={
                    <DayBand
                      day={withCure(dayOf(shower.state, zone), stop.reason === 'waited' ? stop.opensMs : null)}
                      ready={{ fromMs: stop.opensMs, toMs: stop.closesMs }}
                      parts={parts}
                      nowMs={nowMs}
                      zone={zone}
                      wide={wide}
                    />
                  }
                />
              ))}
            </ol>
            <div className="max-md:hidden">
              <WayLine day={day} rows={boxes} parts={parts} wide={wide} nowMs={nowMs} />
            </div>
          </div>
        </SortableContext>
      </DndContext>
      <PriceBar moves={moves} nameOf={nameOf} />
      {day.assumedTravel && order.length > 1 && <p className="px-2 text-soft text-sm">{t('way.assumed')}</p>}
      {day.leftOut > 0 && <p className="px-2 font-semibold text-hold">{t('way.leftOut', { count: day.leftOut })}</p>}
    </section>
  );
}
