import type { Point2 } from '@careful-seam/core/shower/geometry/point';
import type { Selection } from 'd3-selection';
import type { ZoomBehavior } from 'd3-zoom';
import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';

/** Largest and one step of enlargement. */
const MOST = 6;
/** How much one tap makes larger or smaller. */
const STEP = 1.5;
/** A finger that moved farther than this was moving the map, not choosing, px. */
const TAP_PX = 8;

/** What enlarges a map; it comes when the map stands. */
const zooming = async () => {
  const [{ select }, { zoom, zoomIdentity }] = await Promise.all([import('d3-selection'), import('d3-zoom')]);
  return { select, zoom, zoomIdentity };
};

/** The sheet as it was drawn first. */
const AS_DRAWN: Transform = { k: 1, x: 0, y: 0 };

/** Scale and offset of the sheet. */
interface Transform {
  /** How much larger than it was drawn first. */
  k: number;
  /** Offsets, in units of the sheet. */
  x: number;
  y: number;
}

/** The zoom of one map, once it is here. */
interface Zooming {
  /** What answers wheel, drag and two fingers. */
  behavior: ZoomBehavior<SVGSVGElement, unknown>;
  /** The map that it works on. */
  map: Selection<SVGSVGElement, unknown, null, undefined>;
  /** All of it again. */
  whole: () => void;
}

/** How large the map is drawn and where it is, with the ways to change it. */
export interface MapZoom {
  /** Scale and offset of the sheet. */
  transform: Transform;
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
  const [transform, setTransform] = useState(AS_DRAWN);
  const zoomed = useRef<Zooming | null>(null);
  const downAt = useRef<{ x: number; y: number; moved: boolean } | null>(null);

  useEffect(() => {
    const node = svg.current;
    if (!node) return;
    let gone = false;
    const begin = async () => {
      const { select, zoom, zoomIdentity } = await zooming();
      if (gone) return;
      const { x, y, height } = node.viewBox.baseVal;
      const width = sheetWidth - 2 * x;
      const behavior = zoom<SVGSVGElement, unknown>()
        .scaleExtent([1, MOST])
        .translateExtent([
          [x, y],
          [x + width, y + height],
        ])
        .filter((event: Event) => !(event instanceof MouseEvent) || event.button === 0)
        .on('zoom', (event: { transform: Transform }) => setTransform(event.transform));
      const map = select(node);
      map.call(behavior).on('dblclick.zoom', null);
      zoomed.current = { behavior, map, whole: () => behavior.transform(map, zoomIdentity) };
    };
    // Without a network it may not be had: the map stands as it is.
    void begin().catch(() => undefined);
    const down = (event: PointerEvent) => {
      const first = downAt.current === null || !event.isPrimary ? downAt.current : null;
      downAt.current = first
        ? { ...first, moved: true }
        : { x: event.clientX, y: event.clientY, moved: !event.isPrimary };
    };
    node.addEventListener('pointerdown', down);
    return () => {
      gone = true;
      node.removeEventListener('pointerdown', down);
      zoomed.current?.map.on('.zoom', null);
      zoomed.current = null;
    };
  }, [svg, sheetWidth]);

  const by = useCallback((factor: number) => {
    const z = zoomed.current;
    if (z) z.behavior.scaleBy(z.map, factor);
  }, []);
  return {
    transform,
    placeOf: (event) => {
      const from = downAt.current;
      downAt.current = null;
      const node = svg.current;
      if (!node || from?.moved) return null;
      if (from && Math.hypot(event.clientX - from.x, event.clientY - from.y) > TAP_PX) return null;
      const matrix = node.getScreenCTM();
      if (!matrix) return null;
      const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
      return [(at.x - transform.x) / transform.k, (at.y - transform.y) / transform.k];
    },
    larger: () => by(STEP),
    smaller: () => by(1 / STEP),
    whole: () => zoomed.current?.whole(),
    show: ([x, y]) => {
      const z = zoomed.current;
      if (z && transform.k > 1) z.behavior.translateTo(z.map, x, y);
    },
  };
}
