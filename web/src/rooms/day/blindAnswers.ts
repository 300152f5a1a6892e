import { BLIND_ANSWERS, type BlindAnswer } from '@careful-seam/core/crews/codes';
import { z } from 'zod';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

/** What was tapped and not kept yet, by blind look and element. */
const Tapped = z.object({ tapped: z.record(z.string(), z.record(z.string(), z.enum(BLIND_ANSWERS))) });

/** Answers that were tapped on this tablet and are not kept yet. */
interface BlindTapped extends z.infer<typeof Tapped> {
  /** Notes an answer. */
  tap: (look: string, element: string, answer: BlindAnswer) => void;
  /** Forgets those of a look: they are kept, or it is gone. */
  forget: (look: string) => void;
}

/** Tapped answers outlive closing the sheet and the browser, until the server has them. */
export const useBlindTapped = create<BlindTapped>()(
  persist(
    (set) => ({
      tapped: {},
      tap: (look, element, answer) =>
        set(({ tapped }) => ({ tapped: { ...tapped, [look]: { ...tapped[look], [element]: answer } } })),
      forget: (look) => set(({ tapped: { [look]: _, ...tapped } }) => ({ tapped })),
    }),
    {
      name: 'careful-seam-blind',
      partialize: ({ tapped }) => ({ tapped }),
      merge: (stored, now) => ({ ...now, ...(Tapped.safeParse(stored).data ?? {}) }),
    },
  ),
);
