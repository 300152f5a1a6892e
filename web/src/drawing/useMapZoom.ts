import type { Point2 } from '@careful-seam/core/shower/geometry/point';
import { pointer, select } from 'd3-selection';
import { type ZoomBehavior, type ZoomTransform, zoom, zoomIdentity } from 'd3-zoom';
import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';

/** Largest and one step of enlargement. */
const MOST = 6;
/** How much one tap makes larger or smaller. */
const STEP = 1.5;
/** A finger that moved farther than this was moving the map, not choosing, px. */
const TAP_PX = 8;

/** How large the map is drawn and where it is, with the ways to change it. */
export interface MapZoom {
  /** Scale and offset of the sheet. */
  transform: ZoomTransform;
  /** A pointer's place on the sheet, in its units; null when it moved the map. */
  placeOf: (event: { clientX: number; clientY: number }) => Point2 | null;
  /** One step larger. */
  larger: () => void;
  /** One step smaller. */
  smaller: () => void;
  /** All of it again. */
  whole: () => void;
  /** Moves the map so that a point lies in sight. */
  show: (point: Point2) => void;
}

/** Zoom and pan of the map by wheel, drag and two fingers; the sheet never leaves the window. */
export function useMapZoom(svg: RefObject<SVGSVGElement | null>, sheetWidth: number): MapZoom {
  const [transform, setTransform] = useState<ZoomTransform>(zoomIdentity);
  const behavior = useRef<ZoomBehavior<SVGSVGElement, unknown> | null>(null);
  const downAt = useRef<{ x: number; y: number; moved: boolean } | null>(null);

  useEffect(() => {
    const node = svg.current;
    if (!node) return;
    const { x, y, height } = node.viewBox.baseVal;
    const width = sheetWidth - 2 * x;
    const zooming = zoom<SVGSVGElement, unknown>()
      .scaleExtent([1, MOST])
      .translateExtent([
        [x, y],
        [x + width, y + height],
      ])
      .filter((event: Event) => !(event instanceof MouseEvent) || event.button === 0)
      .on('zoom', (event: { transform: ZoomTransform }) => setTransform(event.transform));
    behavior.current = zooming;
    const selected = select(node);
    selected.call(zooming).on('dblclick.zoom', null);
    const down = (event: PointerEvent) => {
      const first = downAt.current === null || !event.isPrimary ? downAt.current : null;
      downAt.current = first
        ? { ...first, moved: true }
        : { x: event.clientX, y: event.clientY, moved: !event.isPrimary };
    };
    node.addEventListener('pointerdown', down);
    return () => {
      node.removeEventListener('pointerdown', down);
      selected.on('.zoom', null);
    };
  }, [svg, sheetWidth]);

  const by = useCallback(
    (factor: number) => {
      if (svg.current) behavior.current?.scaleBy(select(svg.current), factor);
    },
    [svg],
  );
  return {
    transform,
    placeOf: (event) => {
      const from = downAt.current;
      downAt.current = null;
      if (!svg.current || from?.moved) return null;
      if (from && Math.hypot(event.clientX - from.x, event.clientY - from.y) > TAP_PX) return null;
      return transform.invert(pointer(event, svg.current));
    },
    larger: () => by(STEP),
    smaller: () => by(1 / STEP),
    whole: () => {
      if (svg.current) behavior.current?.transform(select(svg.current), zoomIdentity);
    },
    show: ([x, y]) => {
      if (svg.current && transform.k > 1) behavior.current?.translateTo(select(svg.current), x, y);
    },
  };
}
