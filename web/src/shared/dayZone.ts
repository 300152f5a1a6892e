/**
 * The zone that a day is told in: that of most showers, the firm's own where as many lie in it. One shower elsewhere, or the order in which
 * they come, turns no day over.
 */
export function dayZone(zones: readonly string[], own: string): string {
  const counts = new Map<string, number>();
  for (const zone of zones) counts.set(zone, (counts.get(zone) ?? 0) + 1);
  return (
    [...counts].sort(
      ([a, m], [b, n]) => n - m || Number(b === own) - Number(a === own) || a.localeCompare(b),
    )[0]?.[0] ?? own
  );
}
