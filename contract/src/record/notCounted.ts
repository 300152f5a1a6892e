import type { OrphanReason } from '@careful-seam/core/log/state';

/** Entries that are written down and not counted, by the reason why, with how many there are of each. */
export function orphansByReason(orphans: readonly { why: OrphanReason }[]): [why: OrphanReason, count: number][] {
  const counts = new Map<OrphanReason, number>();
  for (const { why } of orphans) counts.set(why, (counts.get(why) ?? 0) + 1);
  return [...counts];
}
