import type { Stroke } from '@careful-seam/core/proof/shown/lineWork';
import type { SeamLine } from '@careful-seam/core/proof/shown/seamLine';
import type { Point2 } from '@careful-seam/core/shower/geometry/point';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { arrange, type PlacedPanel, toSheet } from '@careful-seam/core/shower/map/arrange';
import { unfold } from '@careful-seam/core/shower/map/unfold';
import { elementName } from '@careful-seam/words/texts/names';
import { type KeyboardEvent, type PointerEvent, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../ui/preferences';
import { curbTitle } from './curbTitle';
import { FoldedMap } from './FoldedMap';
import { Leaders } from './Leaders';
import { Faces, Halo, Lengths, Points, SeamLines, Suspected } from './MapParts';
import { nearest, neighbour, spotsOf } from './spots';
import { useMapZoom } from './useMapZoom';
import { KEYS, useSheet } from './useSheet';

/** Nothing is looked at as one. */
const NOTHING: ReadonlySet<string> = new Set();
/** Room round the sheet for marks on its edge. */
const PAD = 12;
/** Smaller than this share of their size lengths can't be read, and are left out until the map is larger. */
const READABLE = 0.8;
/** Sizes of what is drawn along a line, px. */
export const SIZE = { tooth: 9, tick: 6, gap: 4.5 };

/** How a mark stands: what its checks say, so that corners and holes read without colour too. */
export type MarkState = 'unseen' | 'pass' | 'fail' | 'not-required';

/** What the map shows, and what may be tapped on it. */
export interface Props {
  /** The drawn shower: faces, seams, corners, openings and the drain, mm. */
  model: ShowerModel;
  /** How each seam stands, stretch by stretch. */
  lines: readonly SeamLine[];
  /** How corners, openings, the drain and faces stand, by their ids. */
  marks: ReadonlyMap<string, MarkState>;
  /** Id of the element that is chosen; null for none. */
  chosen: string | null;
  /** Ids of what is looked at as one. */
  together?: ReadonlySet<string>;
  /** Told of a tapped element. */
  onChoose?: (element: string) => void;
  /** Told of the element that the arrow keys came to, where that is not the same as choosing it; Enter chooses it then. */
  onWalk?: (element: string) => void;
  /** The arrow keys walk along the seams; off where somebody turned shortcuts off. */
  keys?: boolean;
  /** How much elements are suspected of a leak, 0 to 1, by their ids: drawn as the width of a halo. */
  suspected?: ReadonlyMap<string, number>;
  /** Water standing in the shower up to this height over the drain rim, mm. */
  waterMm?: number | null;
}

/** How each state of a seam is drawn: by its shape first, by its colour beside. */
export const STROKES: Record<Stroke['state'], string> = {
  unseen: 'stroke-ink [stroke-width:3.2] [stroke-dasharray:0.1_7]',
  seen: 'stroke-ink [stroke-width:1.6]',
  measured: 'stroke-ink [stroke-width:3.6]',
  defect: 'stroke-hold [stroke-width:2.6]',
  covered: 'stroke-ink [stroke-width:2.6] [stroke-dasharray:12_7]',
  'not-required': 'stroke-hair [stroke-width:1]',
  tick: 'stroke-ink [stroke-width:1.8]',
  water: 'stroke-water [stroke-width:1.8]',
};

/** The sign of what is no line: dotted unseen, whole passed, jagged failed. */
export function Mark({ at, radius, state }: { at: Point2; radius: number; state: MarkState }) {
  const [x, y] = at;
  if (state === 'not-required') return <circle cx={x} cy={y} r={radius} className="fill-none stroke-hair" />;
  const common = { cx: x, cy: y, r: radius };
  if (state === 'unseen')
    return (
      <circle
        {...common}
        className="fill-leaf stroke-ink [stroke-dasharray:0.1_4.5] [stroke-linecap:round] [stroke-width:2.4]"
      />
    );
  if (state === 'pass') return <circle {...common} className="fill-leaf stroke-ink [stroke-width:2]" />;
  return (
    <g>
      <circle {...common} className="fill-leaf stroke-hold [stroke-width:2.4]" />
      <path
        d={`M${x - radius} ${y + radius * 0.3}l${radius * 0.65} ${-radius * 0.8}l${radius * 0.7} ${radius}l${radius * 0.65} ${-radius}`}
        className="fill-none stroke-hold [stroke-width:2]"
      />
    </g>
  );
}

/** The name of a wall or part over its drawing. */
function PanelTitle({ placed, text }: { placed: PlacedPanel; text: string }) {
  return (
    <text x={placed.x + 2} y={placed.y - 13} className="fill-soft text-[13px] font-semibold">
      {text}
    </text>
  );
}

/** What stands under water, tinted, with the water line across. The curb's panel shows its inner face lowest. */
function Tint({ placed, waterMm }: { placed: PlacedPanel; waterMm: number }) {
  const { panel } = placed;
  const height = waterMm - panel.box.minY;
  if (panel.kind === 'plan' || height <= 0) return null;
  const [, y] = toSheet(placed, [panel.box.minX, waterMm]);
  return (
    <g>
      <rect x={placed.x} y={y} width={placed.width} height={height * placed.scaleY} className="fill-water opacity-25" />
      <path d={`M${placed.x} ${y}h${placed.width}`} className="stroke-water [stroke-width:1.4]" />
    </g>
  );
}

/** The keys at the edge of the map. */
interface KeysProps {
  /** The shower is drawn as a body instead of laid out. */
  folded: boolean;
  /** Lays it out, or folds it up. */
  onFold: (folded: boolean) => void;
  /** How large it is drawn, with the ways to change it. */
  zoom: ReturnType<typeof useMapZoom>;
  /** Lengths stand beside the seams. */
  lengths: boolean;
  /** Shows them, or leaves them out. */
  onLengths: (shown: boolean) => void;
}

/** Folded or laid open, larger and smaller. */
function MapKeys({ folded, onFold, zoom, lengths, onLengths }: KeysProps) {
  const { t } = useTranslation();
  return (
    <div className="absolute right-0 bottom-0 flex flex-col gap-1" role="toolbar" aria-label={t('map.zoom')}>
      <button type="button" className="key px-0 text-xs" aria-pressed={folded} onClick={() => onFold(!folded)}>
        {t('map.fold')}
      </button>
      {!folded && (
        <button type="button" className="key px-0 text-xs" aria-pressed={lengths} onClick={() => onLengths(!lengths)}>
          {t('map.lengths')}
        </button>
      )}
      {!folded && zoom.transform.k > 1 && (
        <button type="button" className="key px-1 text-sm" onClick={zoom.whole}>
          {t('map.whole')}
        </button>
      )}
      {!folded && (
        <button type="button" className="key px-0 text-xl" aria-label={t('map.larger')} onClick={zoom.larger}>
          +
        </button>
      )}
      {!folded && zoom.transform.k > 1 && (
        <button type="button" className="key px-0 text-xl" aria-label={t('map.smaller')} onClick={zoom.smaller}>
          −
        </button>
      )}
    </div>
  );
}

/** What the keys for the size of the map do. */
const enlargeKeys = (zoom: ReturnType<typeof useMapZoom>): Record<string, () => void> => ({
  '+': zoom.larger,
  '=': zoom.larger,
  '-': zoom.smaller,
  '0': zoom.whole,
});

/** What is chosen and how it stands, for who walks the map by its arrows and does not see it. */
function Told({ model, lines, chosen }: Pick<Props, 'model' | 'lines' | 'chosen'>) {
  const { t } = useTranslation();
  const line = lines.find((l) => l.seam === chosen);
  const states = [...new Set(line?.pieces.map((p) => p.state) ?? [])].map((s) => t(`line.${s}`));
  return (
    <p className="sr-only" role="status" data-testid="map-told">
      {chosen && [elementName(t, model, chosen), ...states].join(', ')}
    </p>
  );
}

/**
 * The unfolded shower with its evidence as line work. A tap chooses the nearest seam, corner or opening; with the
 * focus on the map arrows walk along the seams. Parts are outlined in hairlines; the choice is a halo outside the line.
 */
export function ShowerMap(props: Props) {
  const {
    model,
    lines,
    marks,
    chosen,
    together = NOTHING,
    onChoose,
    onWalk,
    keys = true,
    waterMm = null,
    suspected,
  } = props;
  const { t } = useTranslation();
  const svg = useRef<SVGSVGElement>(null);
  const [folded, setFolded] = useState(false);
  const { sheet, scale } = useSheet(svg);
  const { lengths, set } = usePreferences();
  const { panels } = useMemo(() => arrange(unfold(model), sheet), [model, sheet]);
  const spots = useMemo(() => spotsOf(panels), [panels]);
  const titleOf = ({ panel, width }: PlacedPanel) => {
    if (panel.kind === 'curb') return curbTitle(t, width, panel.letter);
    if (panel.kind === 'wall' || panel.kind === 'plan') return elementName(t, model, panel.id);
    return t(`map.parts.${panel.kind}`, { letter: panel.letter });
  };

  const zoom = useMapZoom(svg, sheet.width + KEYS);
  const choose = (event: PointerEvent) => {
    const place = zoom.placeOf(event);
    if (!onChoose || !place) return;
    // Enlarged, the finger covers less of the sheet.
    const spot = nearest(spots, place, 26 / zoom.transform.k);
    if (spot) onChoose(spot.element);
  };
  const enlarge = enlargeKeys(zoom);
  const walk = (event: KeyboardEvent) => {
    if (!keys) return;
    const change = enlarge[event.key];
    if (change && (event.key !== '0' || zoom.transform.k > 1)) {
      event.preventDefault();
      event.stopPropagation();
      return change();
    }
    if (onWalk && onChoose && chosen !== null && event.key === 'Enter') {
      event.preventDefault();
      return onChoose(chosen);
    }
    if (!onChoose || !event.key.startsWith('Arrow')) return;
    event.preventDefault();
    const next = neighbour(spots, chosen, event.key);
    if (!next) return;
    (onWalk ?? onChoose)(next.element);
    zoom.show(next.points[Math.floor(next.points.length / 2)]!);
  };

  return (
    <div className="relative h-full w-full">
      <Told model={model} lines={lines} chosen={chosen} />
      {folded && <FoldedMap model={model} lines={lines} chosen={chosen} onChoose={onChoose} />}
      <svg
        ref={svg}
        viewBox={`${-PAD} ${-PAD} ${sheet.width + 2 * PAD + KEYS} ${sheet.height + 2 * PAD}`}
        className={`h-full w-full touch-none select-none ${folded ? 'hidden' : ''}`}
        role="application"
        aria-label={t('map.label')}
        aria-describedby="map-choice"
        tabIndex={onChoose ? 0 : -1}
        onPointerUp={choose}
        onKeyDown={walk}
        data-testid="map"
      >
        <title>{t('map.label')}</title>
        <g transform={`translate(${zoom.transform.x},${zoom.transform.y}) scale(${zoom.transform.k})`}>
          <Faces panels={panels} marks={marks} chosen={chosen} together={together} />
          {panels.map((placed) => (
            <g key={placed.panel.id}>
              <PanelTitle placed={placed} text={titleOf(placed)} />
              {waterMm !== null && <Tint placed={placed} waterMm={waterMm} />}
            </g>
          ))}
          <Leaders model={model} panels={panels} chosen={chosen} />
          {suspected && <Suspected panels={panels} suspected={suspected} />}
          <Halo panels={panels} chosen={chosen} together={together} />
          <SeamLines model={model} panels={panels} lines={lines} />
          {lengths && scale * zoom.transform.k > READABLE && <Lengths model={model} panels={panels} />}
          <Points panels={panels} marks={marks} chosen={chosen} together={together} />
        </g>
      </svg>
      <MapKeys
        folded={folded}
        onFold={setFolded}
        zoom={zoom}
        lengths={lengths}
        onLengths={(shown) => set({ lengths: shown })}
      />
    </div>
  );
}
