import { ratesOf } from '@careful-seam/core/trace/rates';
import { type WaterWay, type WaySide, waterWay } from '@careful-seam/core/trace/waterWay';
import { percentWords, sideName } from '@careful-seam/words/sentences/callSentences';
import { edgeLetters, elementName } from '@careful-seam/words/texts/names';
import { useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { ShowerMap } from '../../drawing/ShowerMap';
import { type LocalShower, useParts } from '../../tablet/store';
import { Beside } from './Beside';
import { useLedger } from './useLedger';

/** Barriers that a side is drawn with at most. */
const DRAWN_AT_MOST = 2;

/** A cut through one side: water, tile and bed, the barriers that stand or stand open, what lies behind. */
function Section({ side }: { side: WaySide }) {
  const isOpen = side.barriersLeft === 0;
  const lines = Math.min(DRAWN_AT_MOST, Math.max(1, side.barriersLeft));
  const at = (k: number) => 150 + k * 22;
  return (
    <svg viewBox="0 0 300 44" preserveAspectRatio="xMinYMid" className="h-11 w-full" aria-hidden="true">
      <rect x="0" y="0" width="70" height="44" className="fill-water opacity-45" />
      <rect x="70" y="0" width="80" height="44" className="fill-water opacity-20" />
      <path d="M70 0v44M96 0v44M122 0v44M70 22h80" className="stroke-hair" />
      {isOpen ? (
        <>
          <rect x="150" y="0" width="150" height="44" className="fill-water opacity-20" />
          <path d="M150 0v14M150 30v14" className="stroke-hold [stroke-width:5]" />
          <path d="M96 22h150m-12 -8l14 8l-14 8" className="fill-none stroke-water [stroke-width:3]" />
        </>
      ) : (
        Array.from({ length: lines }, (_, k) => (
          <path key={at(k)} d={`M${at(k)} 0v44`} className="stroke-ink [stroke-width:5]" />
        ))
      )}
      {[200, 232, 264].map((x) => (
        <path key={x} d={`M${x} 6v32`} className="stroke-soft [stroke-width:1.5]" />
      ))}
    </svg>
  );
}

/** One side: what stands before it, what water comes through, what carries most of its risk. */
function Side({ shower, side }: { shower: LocalShower; side: WaySide }) {
  const { t } = useTranslation();
  const model = shower.state.geometry!.model;
  const name = t(
    side.side === 'floor' ? 'call.way.floor' : side.side === 'ceiling' ? 'call.way.ceiling' : 'call.way.side',
    {
      side: sideName(t, model, side.side),
    },
  );
  return (
    <li className="border-hair border-b py-2" data-side={side.side}>
      <p className="flex items-baseline gap-2">
        <span className="flex-1 font-bold">{name}</span>
        <span className={side.barriersLeft === 0 ? 'font-semibold text-hold' : ''}>
          {t('call.way.left', { count: side.barriersLeft })}
        </span>
      </p>
      <Section side={side} />
      {side.through.length > 0 && (
        <p className="text-sm">
          {t('call.way.through', { list: side.through.map((e) => elementName(t, model, e)).join('; ') })}
        </p>
      )}
      {side.weakest && (
        <p className="text-soft text-sm">
          {t('call.way.weakest', {
            what: elementName(t, model, side.weakest.element),
            share: percentWords(t, side.weakest.share),
          })}
        </p>
      )}
    </li>
  );
}

/** What one sentence says of all of it. */
function Whole({ shower, way }: { shower: LocalShower; way: WaterWay }) {
  const { t } = useTranslation();
  const model = shower.state.geometry!.model;
  if (way.barriersLeft > 0) return <p className="text-lg">{t('call.way.holds', { count: way.barriersLeft })}</p>;
  return (
    <p className="border-hold border-l-4 pl-2 font-semibold text-lg" role="status">
      {t('call.way.open', {
        count: way.cut.length,
        list: [...new Set(way.cut.map((b) => elementName(t, model, b.element)))].join('; '),
      })}
    </p>
  );
}

/** Water's way: the layers of this shower as it was built; a place is opened by a tap to see where water could go. */
export function WayView({ shower }: { shower: LocalShower }) {
  const { t } = useTranslation();
  const { leaks } = useParts('leaks');
  const { state } = shower;
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const [chosen, setChosen] = useState<string | null>(null);
  const way = useMemo(() => waterWay(state, ratesOf(leaks.finds, leaks.own), opened), [state, leaks, opened]);
  const ledger = useLedger(state);
  if (!way) return null;
  const model = state.geometry!.model;
  // What is open first, then as one goes round.
  const letters = edgeLetters(model);
  const place = (side: string) => letters.get(side) ?? (side === 'floor' ? '~' : '~~');
  const sides = [...way.sides].sort(
    (a, b) => a.barriersLeft - b.barriersLeft || place(a.side).localeCompare(place(b.side)),
  );
  const byHand = new Set(way.barriers.filter((b) => opened.has(b.name)).map((b) => b.element));
  const toggle = (element: string) => {
    const names = way.barriers.filter((b) => b.element === element).map((b) => b.name);
    setChosen(element);
    if (names.length === 0) return;
    const next = new Set(opened);
    const wasOpen = names.every((n) => next.has(n));
    for (const n of names) wasOpen ? next.delete(n) : next.add(n);
    setOpened(next);
  };
  return (
    <Beside
      label={t('call.way.title')}
      map={
        <ShowerMap
          model={model}
          lines={ledger.lines}
          marks={new Map()}
          chosen={chosen}
          together={byHand}
          onChoose={toggle}
          onWalk={setChosen}
        />
      }
      below={<p className="text-soft text-sm">{t('call.way.how')}</p>}
    >
      <Whole shower={shower} way={way} />
      {byHand.size > 0 && (
        <p className="flex flex-wrap items-center gap-2">
          <span className="flex-1">
            {t('call.way.opened', { list: [...byHand].map((e) => elementName(t, model, e)).join('; ') })}
          </span>
          <button type="button" className="key" onClick={() => setOpened(new Set())}>
            {t('call.way.closeAll')}
          </button>
        </p>
      )}
      <ul data-testid="way-sides">
        {sides.map((side) => (
          <Side key={side.side} shower={shower} side={side} />
        ))}
      </ul>
    </Beside>
  );
}
