import type { SeamLine } from '@careful-seam/core/proof/shown/seamLine';
import type { Point2 } from '@careful-seam/core/shower/geometry/point';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { foldedView } from '@careful-seam/core/shower/map/foldedView';
import { type PointerEvent, useMemo, useRef } from 'react';
import { useTranslation } from 'react-i18next';
import { pathOf } from './pathOf';
import { nearest, type Spot } from './spots';

/** The shower as a body, with what may be tapped on it. */
interface Props {
  /** The drawn shower: faces, seams, corners, openings and the drain, mm. */
  model: ShowerModel;
  /** How each seam stands, stretch by stretch. */
  lines: readonly SeamLine[];
  /** Id of the element that is chosen; null for none. */
  chosen: string | null;
  /** Told of a tapped element; without it nothing can be chosen. */
  onChoose?: ((element: string) => void) | undefined;
}

/** Width of the drawing, px. */
const WIDE = 700;
/** Air round it, px. */
const PAD = 30;
/** What is worst on a seam decides how it is drawn here: this view is for finding one's way, the open one for evidence. */
function strokeOf(line: SeamLine | undefined): string {
  const states = new Set(line?.pieces.map((p) => p.state));
  if (states.has('defect')) return 'stroke-hold [stroke-width:3]';
  if (states.has('unseen') || states.has('covered'))
    return 'stroke-ink [stroke-width:2.6] [stroke-dasharray:0.1_6] [stroke-linecap:round]';
  return line ? 'stroke-ink [stroke-width:2]' : 'stroke-hair [stroke-width:1]';
}

/** The shower as it stands, looked into from above its opening. Choosing here chooses on the open map as well. */
export function FoldedMap({ model, lines, chosen, onChoose }: Props) {
  const { t } = useTranslation();
  const svg = useRef<SVGSVGElement>(null);
  const folded = useMemo(() => foldedView(model), [model]);
  const { box } = folded;
  const scale = (WIDE - 2 * PAD) / Math.max(box.maxX - box.minX, box.maxY - box.minY);
  const high = (box.maxY - box.minY) * scale + 2 * PAD;
  const wide = (box.maxX - box.minX) * scale + 2 * PAD;
  const at = ([x, y]: Point2): Point2 => [(x - box.minX) * scale + PAD, (y - box.minY) * scale + PAD];
  const lineOf = new Map(lines.map((l) => [l.seam, l]));
  const spots: Spot[] = [
    ...folded.seams.map((s) => ({ element: s.seam, points: s.points.map(at), kind: 'line' as const })),
    ...[...folded.faces].reverse().map((f) => ({ element: f.face, points: f.outline.map(at), kind: 'area' as const })),
  ];
  const choose = (event: PointerEvent) => {
    const matrix = svg.current?.getScreenCTM();
    if (!onChoose || !matrix) return;
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    const spot = nearest(spots, [p.x, p.y], 18);
    if (spot) onChoose(spot.element);
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${wide.toFixed(0)} ${high.toFixed(0)}`}
      className="h-full w-full touch-manipulation select-none"
      role="img"
      aria-label={t('map.folded')}
      onPointerUp={choose}
      data-testid="folded"
    >
      <title>{t('map.folded')}</title>
      {folded.faces.map((f) => (
        <path
          key={f.face}
          d={[f.outline, ...f.holes].map((loop) => `${pathOf(loop.map(at))}Z`).join('')}
          fillRule="evenodd"
          className={f.face === chosen ? 'fill-rule stroke-hair' : 'fill-leaf stroke-hair'}
          strokeWidth={0.8}
        />
      ))}
      {folded.seams
        .filter((s) => s.seam === chosen)
        .map((s) => (
          <path
            key={`${s.seam} chosen`}
            d={pathOf(s.points.map(at))}
            className="fill-none stroke-water opacity-45 [stroke-width:14]"
          />
        ))}
      {folded.seams.map((s) => (
        <path key={s.seam} d={pathOf(s.points.map(at))} className={`fill-none ${strokeOf(lineOf.get(s.seam))}`} />
      ))}
    </svg>
  );
}
