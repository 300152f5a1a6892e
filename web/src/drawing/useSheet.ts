import type { Sheet } from '@careful-seam/core/shower/map/arrange';
import { type RefObject, useEffect, useMemo, useState } from 'react';

/** Height of the sheet that the map is laid out on, px. */
const HIGH = 660;
/** Room at the right for the keys that enlarge, in sheet units. */
export const KEYS = 54;
/** The sheet is as wide as its window allows, between these shares of its height. */
const NARROW = 0.75;
const WIDE = 1.35;

/** A sheet in the proportions of the window that it is shown in, and about how large its unit is there, px. */
export function useSheet(svg: RefObject<SVGSVGElement | null>): { sheet: Sheet; scale: number } {
  const [width, setWidth] = useState(HIGH);
  const [scale, setScale] = useState(1);
  useEffect(() => {
    const node = svg.current;
    if (!node) return;
    const fit = () => {
      const { width: wide, height: high } = node.getBoundingClientRect();
      if (high > 0) setScale(high / HIGH);
      if (high > 0) setWidth(Math.round(HIGH * Math.min(WIDE, Math.max(NARROW, wide / high))) - KEYS);
    };
    const watcher = new ResizeObserver(fit);
    watcher.observe(node);
    return () => watcher.disconnect();
  }, [svg]);
  const sheet = useMemo(() => ({ width, height: HIGH, gap: 12, title: 22 }), [width]);
  return { sheet, scale };
}
