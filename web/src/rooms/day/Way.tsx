import type { DayPins } from '@careful-seam/contract/api/plan';
import type { InspectorDay, Price } from '@careful-seam/core/plan/inspectorDay';
import { dayAt } from '@careful-seam/core/plan/workCalendar';
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
import type { DayPart } from './dayAxis';
import { pinsOf, useDayPins } from './dayPins';
import { MovedLine } from './MovedLine';
import { planWork } from './planWork';
import { type StopKeys, StopRow } from './StopRow';
import type { DayPlan } from './useDayPlan';
import { type RowBox, WayLine } from './WayLine';
import { priceWords } from './wayWords';

/**
 * Nothing is dragged before a finger has gone so far, px: a tap opens the keys. One object for good: another one would be another sensor,
 * for which every row is drawn anew.
 */
const DRAG = { activationConstraint: { distance: 8 } };

/** A move that was made, so that it can be taken back. */
interface Move {
  id: string;
  price: Price;
  before: Pick<DayPins, 'pins' | 'order'>;
}

const sameBoxes = (a: readonly RowBox[], b: readonly RowBox[]): boolean =>
  a.length === b.length && a.every(({ top, height }, k) => top === b[k]!.top && height === b[k]!.height);

/** Where the rows of a list stand, measured again when their sizes change. */
function useRowBoxes(order: string) {
  const list = useRef<HTMLOListElement>(null);
  const [boxes, setBoxes] = useState<RowBox[]>([]);
  useLayoutEffect(() => {
    const box = list.current;
    if (!box || order === '') return;
    const measure = () => {
      const measured = [...box.querySelectorAll<HTMLElement>('[data-stop]')].map((row) => ({
        top: row.offsetTop,
        // A stop whose keys are open is as high as without them.
        height: row.offsetHeight - (row.querySelector<HTMLElement>('[data-keys]')?.offsetHeight ?? 0),
      }));
      setBoxes((before) => (sameBoxes(before, measured) ? before : measured));
    };
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
  const acts: StopKeys = {
    moveTo: (id, place) => void moveTo(id, place),
    loose: (id) => {
      change(me, plan.date, { pins: without(id) });
      setMove(null);
    },
    refuse: (id) => change(me, plan.date, { pins: without(id), refused: [...refused, id] }),
  };
  // The same keys for as long as the list stands: a row is drawn anew only for what is its own.
  const newest = useRef(acts);
  useLayoutEffect(() => {
    newest.current = acts;
  });
  const keys = useMemo(
    (): StopKeys => ({
      moveTo: (id, place) => newest.current.moveTo(id, place),
      loose: (id) => newest.current.loose(id),
      refuse: (id) => newest.current.refuse(id),
    }),
    [],
  );
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
    keys,
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
  const toggle = useCallback((id: string) => setOpen((before) => (before === id ? null : id)), []);
  const sensors = useSensors(useSensor(PointerSensor, DRAG));
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
                  onOpen={toggle}
                  keys={moves.keys}
                  parts={parts}
                  wide={wide}
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
