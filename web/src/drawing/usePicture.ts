import { useEffect, useRef, useState } from 'react';
import { pictureUrl } from '../tablet/pictures';
import { useStore } from '../tablet/store';

/**
 * The address of a picture for an `img`, or null while it is pending. A picture often arrives after the entry that names it, so
 * a pending one is asked for again after each round of sync.
 */
export function usePicture(hash: string): string | null {
  const db = useStore((s) => s.db)!;
  const round = useStore((s) => s.lastSyncAt);
  const [found, setFound] = useState<{ hash: string; url: string } | null>(null);
  const url = found?.hash === hash ? found.url : null;
  /** The hash that is shown now, null once this is gone; and what was asked last, in which round, until it is answered. */
  const shown = useRef<string | null>(null);
  const asked = useRef<{ hash: string; round: number | null; open: boolean } | null>(null);
  useEffect(() => {
    shown.current = hash;
    return () => {
      shown.current = null;
    };
  }, [hash]);
  useEffect(() => {
    const last = asked.current;
    if (url !== null || (last?.hash === hash && (last.open || last.round === round))) return;
    const now = { hash, round, open: true };
    asked.current = now;
    void pictureUrl(db, hash).then((made) => {
      now.open = false;
      if (made === null) return;
      if (shown.current === hash) setFound({ hash, url: made });
      else URL.revokeObjectURL(made);
    });
  }, [db, hash, round, url]);
  useEffect(() => (found ? () => URL.revokeObjectURL(found.url) : undefined), [found]);
  return url;
}
