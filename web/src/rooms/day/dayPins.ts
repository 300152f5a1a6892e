import { DayPins, NO_PINS } from '@careful-seam/contract/api/plan';
import { z } from 'zod';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { call } from '../../tablet/api';

/** What somebody saw of a way: its order with the hours, so that what moved since can be told. */
export const SeenWay = z.object({
  /** When it was seen, ms since 1970. */
  atMs: z.number(),
  order: z.array(z.string()),
  begins: z.array(z.number()),
  opens: z.record(z.string(), z.number()),
});
export type SeenWay = z.infer<typeof SeenWay>;

const Stored = z.object({
  days: z.record(z.string(), DayPins),
  unsent: z.array(z.string()),
  seen: z.record(z.string(), SeenWay),
});

/** How somebody means to go, by person and day, and which of it the server has not heard. */
interface Pins extends z.infer<typeof Stored> {
  /** Changes a day. */
  change: (person: string, day: string, change: Partial<DayPins>) => void;
  /** Notes what was seen of a way. */
  see: (person: string, day: string, way: SeenWay) => void;
  /** Sends what the server has not heard; tried again while it can't be reached. */
  sendAll: (person: string) => Promise<void>;
}

const keyOf = (person: string, day: string): string => `${person} ${day}`;
/** Days that are kept. */
const DAYS = 4;
/** The newest of what stands by day. */
const newest = <T>(record: Record<string, T>): Record<string, T> =>
  Object.fromEntries(
    Object.entries(record)
      .sort(([a], [b]) => b.slice(-10).localeCompare(a.slice(-10)))
      .slice(0, DAYS * 3),
  );

/** Kept on this tablet at once, and sent when there is a network. */
export const useDayPins = create<Pins>()(
  persist(
    (set, get) => ({
      days: {},
      unsent: [],
      seen: {},
      change: (person, day, change) => {
        const key = keyOf(person, day);
        set(({ days, unsent }) => ({
          days: newest({ ...days, [key]: { ...(days[key] ?? NO_PINS), ...change } }),
          unsent: [...new Set([...unsent, key])],
        }));
        void get().sendAll(person);
      },
      see: (person, day, way) => set(({ seen }) => ({ seen: newest({ ...seen, [keyOf(person, day)]: way }) })),
      sendAll: async (person) => {
        for (const key of get().unsent.filter((k) => k.startsWith(`${person} `))) {
          const pins = get().days[key];
          const sent =
            pins &&
            (await call(DayPins, 'PUT', `/api/plan/days/${key.slice(-10)}`, pins).then(
              () => true,
              () => false,
            ));
          if (pins && !sent) return;
          // What was changed while it was under way is sent again.
          if (get().days[key] === pins) set(({ unsent }) => ({ unsent: unsent.filter((k) => k !== key) }));
        }
      },
    }),
    {
      name: 'careful-seam-way',
      partialize: ({ days, unsent, seen }) => ({ days, unsent, seen }),
      merge: (stored, now) => ({ ...now, ...(Stored.safeParse(stored).data ?? {}) }),
    },
  ),
);

/** A person's own day. */
export const pinsOf = (days: Readonly<Record<string, DayPins>>, person: string, day: string): DayPins =>
  days[keyOf(person, day)] ?? NO_PINS;
/** What a person saw of a day's way. */
export const seenOf = (seen: Readonly<Record<string, SeenWay>>, person: string, day: string): SeenWay | null =>
  seen[keyOf(person, day)] ?? null;
