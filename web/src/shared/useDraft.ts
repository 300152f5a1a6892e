import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { z } from 'zod';
import { type DraftAbout, type DraftKind, dropDraft, holdDraft, readDraft } from '../tablet/drafts';
import { useStore } from '../tablet/store';

/** What a form is of; what is not said is null. */
export type FormAbout = { kind: DraftKind } & Partial<Pick<DraftAbout, 'showerId' | 'stage' | 'element' | 'defect'>>;

/** What a form holds of what is typed in it. */
export interface FormDraft<T> {
  /** Whose form it is, and of what: what it keeps is written as typed there. */
  about: DraftAbout;
  /** What the form begins with: what was left of it, or what it began with. */
  start: T;
  /** When it was left, ms since 1970; null for a form that begins anew. */
  leftAtMs: number | null;
  /** Told of all that the form says now, at each change. */
  hold: (value: T) => void;
  /** It was kept, or is thrown away: nothing is left of it, and later changes of this form are not held. */
  drop: () => void;
  /** Nothing is left of it, and the form goes on: what is typed next is held again. */
  clear: () => void;
}

/**
 * Holds what is typed in a form until it is kept, whatever happens to the screen. `anew` is what an untouched form says: a form that
 * says it again leaves nothing behind.
 */
export function useDraft<T>(of: FormAbout, schema: z.ZodType<T>, anew: T): FormDraft<T> {
  const personId = useStore((s) => s.person?.id) ?? '';
  const { kind, showerId = null, stage = null, element = null, defect = null } = of;
  const about = useMemo<DraftAbout>(
    () => ({ kind, personId, showerId, stage, element, defect }),
    [kind, personId, showerId, stage, element, defect],
  );
  const [{ start, left, untouched }] = useState(() => {
    const found = readDraft(about, schema);
    return { start: found ? found.value : anew, left: found?.atMs ?? null, untouched: JSON.stringify(anew) };
  });
  const [leftAtMs, setLeftAt] = useState(left);
  const dropped = useRef(false);
  const hold = useCallback(
    (value: T) => {
      if (dropped.current) return;
      if (JSON.stringify(value) === untouched) dropDraft(about);
      else holdDraft(about, value);
    },
    [about, untouched],
  );
  const drop = useCallback(() => {
    dropped.current = true;
    dropDraft(about);
  }, [about]);
  const clear = useCallback(() => {
    setLeftAt(null);
    dropDraft(about);
  }, [about]);
  return { about, start, leftAtMs, hold, drop, clear };
}

/**
 * What a form says, held from the first letter on: what it says now, how it is told more, its draft, and how it begins anew. `tell` may
 * come late, when more was typed meanwhile.
 */
export function useHeld<T extends object>(of: FormAbout, schema: z.ZodType<T>, anew: T) {
  const draft = useDraft(of, schema, anew);
  const [told, setTold] = useState(draft.start);
  const { hold, clear } = draft;
  useEffect(() => hold(told), [hold, told]);
  const tell = (next: Partial<T>) => setTold((now) => ({ ...now, ...next }));
  const begin = () => {
    clear();
    setTold(anew);
  };
  return { told, tell, draft, begin };
}
