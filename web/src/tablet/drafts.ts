import { useSyncExternalStore } from 'react';
import { z } from 'zod';
import type { Database } from './database';

// What was typed and not kept yet. It lies in the tablet's store from the first letter on, so that Back, another address, a call or
// the browser's death take nothing of it; it is no entry, is sent nowhere, and goes when it is kept or thrown away.

/** The forms that hold what is typed. */
const DRAFT_KINDS = ['defect', 'redo', 'close', 'coat', 'mark', 'sound', 'shower', 'rules', 'call'] as const;
/** One of them. */
export type DraftKind = (typeof DRAFT_KINDS)[number];

/** Whose form it is, and of what. */
export const DraftAbout = z.object({
  kind: z.enum(DRAFT_KINDS),
  /** Id of who types. */
  personId: z.string(),
  /** Id of the shower that it will be written to; null for what is no shower's yet. */
  showerId: z.string().nullable(),
  /** Stage, element and defect that the form is opened with; null where it has none. */
  stage: z.string().nullable(),
  element: z.string().nullable(),
  defect: z.string().nullable(),
});
/** Whose form it is, and of what. */
export type DraftAbout = z.infer<typeof DraftAbout>;

/** What was typed, as it lies in the tablet's store. */
export const StoredDraft = z.object({
  key: z.string(),
  about: DraftAbout,
  /** When it was last typed at, ms since 1970. */
  atMs: z.number(),
  /** As its form left it. */
  value: z.unknown(),
});
/** What was typed and not kept. */
export type StoredDraft = z.infer<typeof StoredDraft>;

/** One form of one thing has one draft. */
export const keyOf = (about: DraftAbout): string =>
  [about.personId, about.kind, about.showerId, about.stage, about.element, about.defect].map((p) => p ?? '').join(' ');

/** All drafts of this tablet; another list whenever one of them changed. */
let held: ReadonlyMap<string, StoredDraft> = new Map();
let store: Database | null = null;
const listeners = new Set<() => void>();

function change(next: ReadonlyMap<string, StoredDraft>): void {
  held = next;
  for (const tell of listeners) tell();
}

/** Reads what was left, once, when the tablet's store is opened. What can't be read stays where it is. */
export async function openDrafts(db: Database): Promise<void> {
  store = db;
  const read = (await db.getAll('drafts')).flatMap((row) => {
    const draft = StoredDraft.safeParse(row);
    return draft.success ? [[draft.data.key, draft.data] as const] : [];
  });
  change(new Map(read));
}

/** What was left of a form; null where nothing was, or where this program can't read it. */
export function readDraft<T>(about: DraftAbout, schema: z.ZodType<T>): { value: T; atMs: number } | null {
  const left = held.get(keyOf(about));
  const value = left ? schema.safeParse(left.value) : null;
  return left && value?.success ? { value: value.data, atMs: left.atMs } : null;
}

/** Holds what is typed. A store that is full keeps it in memory alone: the screen that writes says so. */
export function holdDraft(about: DraftAbout, value: unknown, nowMs = Date.now()): void {
  const draft = { key: keyOf(about), about, atMs: nowMs, value };
  change(new Map(held).set(draft.key, draft));
  const tx = store?.transaction('drafts', 'readwrite', { durability: 'relaxed' });
  void tx?.store.put(draft).catch(() => undefined);
  void tx?.done.catch(() => undefined);
  // Nothing follows: it is on its way at once, also where the page goes now.
  tx?.commit();
}

/** It was kept as entries, which took it from the tablet's store: nothing is left of it. */
export function forgetDraft(key: string): void {
  if (!held.has(key)) return;
  const next = new Map(held);
  next.delete(key);
  change(next);
}

/** It was kept elsewhere, or thrown away. */
export function dropDraft(about: DraftAbout): void {
  const key = keyOf(about);
  if (!held.has(key)) return;
  forgetDraft(key);
  void store?.delete('drafts', key).catch(() => undefined);
}

/** All drafts of a person, the newest first. */
export function useDrafts(personId: string | undefined): StoredDraft[] {
  const all = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => held,
  );
  return [...all.values()].filter((d) => d.about.personId === personId).sort((a, b) => b.atMs - a.atMs);
}
