import { lowestCurbMm } from '@careful-seam/core/checks/waterProof';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import type { Panel } from '@careful-seam/core/shower/map/panel';
import { unfold } from '@careful-seam/core/shower/map/unfold';
import { showLength } from '@careful-seam/core/units/length';
import type { RefObject } from 'react';
import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';

/** The foot of the walls with the water before them. */
interface Props {
  /** The drawn shower: faces, seams, corners, openings and the drain, mm. */
  model: ShowerModel;
  /** Water line, mm above the drain rim. */
  levelMm: number;
  /** What lies below this height is proved; drawn as doubled lines. */
  provedBelowMm: number | null;
  /** Told of another level while it is planned; without it the level stands. */
  onLevel?: (mm: number) => void;
}

/** Room for the names over the walls, px. */
const TOP = 24;
/** Between two walls, px. */
const GAP = 10;
/** Steps of the drag: an eighth of an inch, or 2 mm. */
const STEP = { in: 25.4 / 8, mm: 2 };

/** Width and height of the picture on this screen, px. */
function useSizeOf(svg: RefObject<SVGSVGElement | null>): [number, number] {
  const [size, setSize] = useState<[number, number]>([760, 190]);
  useEffect(() => {
    const box = svg.current;
    if (!box) return;
    const measure = () => setSize([Math.max(200, box.clientWidth), Math.max(80, box.clientHeight)]);
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(box);
    return () => watch.disconnect();
  }, [svg]);
  return size;
}

/** The foot of one wall with the water before it. */
interface FootProps {
  /** The wall or curb. */
  panel: Panel;
  /** Where it begins and how wide it is, px. */
  left: number;
  /** Its width on the band, px. */
  across: number;
  /** Its top and its foot over the drain's rim, mm. */
  headMm: number;
  /** Height of its foot over the drain, mm. */
  lowMm: number;
  /** Level of the water over the rim of the drain, mm. */
  levelMm: number;
  /** Below this height the water has proved, mm over the drain; null while it has not. */
  provedBelowMm: number | null;
  /** From mm over the drain's rim to px. */
  y: (mm: number) => number;
}

/** One wall or curb with the water before it, and how high the water proved it. */
function Foot({ panel, left, across, headMm: head, lowMm: low, levelMm, provedBelowMm, y }: FootProps) {
  const { t } = useTranslation();
  return (
    <g>
      <rect x={left} y={y(head)} width={across} height={y(low) - y(head)} className="fill-leaf stroke-hair" />
      {levelMm > low && (
        <rect
          x={left}
          y={y(Math.min(levelMm, head))}
          width={across}
          height={y(low) - y(Math.min(levelMm, head))}
          className="fill-water opacity-20"
        />
      )}
      <path d={`M${left} ${y(low)}H${left + across}`} className="stroke-ink [stroke-width:2.4]" />
      {provedBelowMm !== null && provedBelowMm > low && (
        <path
          d={`M${left} ${y(low) - 5}H${left + across}M${left + 4} ${y(low)}V${y(provedBelowMm)}M${left + across - 4} ${y(low)}V${y(provedBelowMm)}`}
          className="fill-none stroke-water [stroke-width:1.8]"
        />
      )}
      <text x={left + 8} y={16} className="fill-soft text-[14px] font-semibold">
        {panel.kind === 'curb' ? t('flood.curb', { letter: panel.letter }) : t('flood.wall', { letter: panel.letter })}
      </text>
    </g>
  );
}

/**
 * The foot of the shower laid open: walls and curbs side by side, cut off above the water, heights drawn larger than
 * lengths. One horizontal line runs across all of them; it can be dragged, and stepped with the arrow keys.
 */
export function WaterBand({ model, levelMm, provedBelowMm, onLevel }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const svg = useRef<SVGSVGElement>(null);
  const [wide, high] = useSizeOf(svg);
  const panels = useMemo(() => unfold(model).filter((p) => p.kind === 'wall' || p.kind === 'curb'), [model]);
  const curb = lowestCurbMm(model);
  const topMm = Math.max(180, (curb ?? 0) * 1.3, levelMm * 1.25);
  const total = panels.reduce((sum, p) => sum + p.lengthMm, 0);
  const scale = (wide - GAP * (panels.length - 1)) / total;
  const y = (mm: number) => TOP + (high - TOP - 4) * (1 - mm / topMm);
  const place = (event: PointerEvent) => {
    if (!onLevel || !svg.current || event.buttons === 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const box = svg.current.getBoundingClientRect();
    const at = ((event.clientY - box.top) / box.height) * high;
    const mm = (1 - (at - TOP) / (high - TOP - 4)) * topMm;
    onLevel(Math.max(STEP[unit], Math.round(mm / STEP[unit]) * STEP[unit]));
  };
  let x = 0;
  const placed = panels.map((panel) => {
    const left = x;
    x += panel.lengthMm * scale + GAP;
    return { panel, left };
  });
  const curbTop = (edge: number | null): number => {
    const spec = edge === null ? null : model.geometry.edges[edge];
    return spec?.kind === 'curb' ? spec.heightMm : topMm;
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${wide} ${high}`}
      className={`h-full w-full select-none ${onLevel ? 'cursor-ns-resize touch-none' : ''}`}
      role={onLevel ? 'slider' : 'img'}
      aria-label={t('flood.band')}
      {...(onLevel
        ? {
            tabIndex: 0,
            'aria-orientation': 'vertical' as const,
            'aria-valuemin': 0,
            'aria-valuemax': Math.round(topMm),
            'aria-valuenow': Math.round(levelMm),
            'aria-valuetext': showLength(levelMm, unit),
          }
        : {})}
      onPointerDown={place}
      onPointerMove={place}
      onKeyDown={(e) => {
        const by = e.key === 'ArrowUp' ? STEP[unit] : e.key === 'ArrowDown' ? -STEP[unit] : 0;
        if (by === 0 || !onLevel) return;
        e.preventDefault();
        onLevel(Math.max(STEP[unit], levelMm + by));
      }}
      data-testid="water-band"
    >
      <title>{t('flood.band')}</title>
      {placed.map(({ panel, left }) => (
        <Foot
          key={panel.id}
          panel={panel}
          left={left}
          across={panel.lengthMm * scale}
          headMm={Math.min(topMm, curbTop(panel.edge))}
          lowMm={Math.max(panel.kind === 'curb' ? 0 : panel.box.minY, model.geometry.perimeterRiseMm ?? 0)}
          levelMm={levelMm}
          provedBelowMm={provedBelowMm}
          y={y}
        />
      ))}
      <path d={`M0 ${y(levelMm)}H${wide}`} className="stroke-water [stroke-width:3]" />
      {onLevel && (
        <rect
          x={wide - 64}
          y={y(levelMm) - 9}
          width={56}
          height={18}
          rx={9}
          className="fill-leaf stroke-water [stroke-width:2]"
        />
      )}
    </svg>
  );
}
