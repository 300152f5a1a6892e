import { useEffect, useRef, useState } from 'react';

/** Width of a box on this screen, px, measured again when it changes; `least` while it is not known, and never less. */
export function useWidth<T extends HTMLElement = HTMLDivElement>(least: number) {
  const box = useRef<T>(null);
  const [wide, setWide] = useState(least);
  useEffect(() => {
    if (!box.current) return;
    const watch = new ResizeObserver(([entry]) => setWide(Math.max(least, Math.round(entry!.contentRect.width))));
    watch.observe(box.current);
    return () => watch.disconnect();
  }, [least]);
  return { box, wide };
}
