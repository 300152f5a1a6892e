/** A stretch of a seam in mm from its start, from < to. */
export interface Stretch {
  fromMm: number;
  toMm: number;
}

/** Sorted, without overlaps; touching stretches join. */
export function union(stretches: readonly Stretch[]): Stretch[] {
  const sorted = stretches.filter((s) => s.toMm > s.fromMm).sort((a, b) => a.fromMm - b.fromMm);
  const joined: Stretch[] = [];
  for (const s of sorted) {
    const last = joined.at(-1);
    if (last && s.fromMm <= last.toMm) last.toMm = Math.max(last.toMm, s.toMm);
    else joined.push({ ...s });
  }
  return joined;
}

/** What of `from` lies outside all of `holes`. */
export function subtract(from: readonly Stretch[], holes: readonly Stretch[]): Stretch[] {
  let rest = union(from);
  for (const hole of holes) {
    rest = rest.flatMap((s) => {
      if (hole.toMm <= s.fromMm || hole.fromMm >= s.toMm) return [s];
      return [
        { fromMm: s.fromMm, toMm: hole.fromMm },
        { fromMm: hole.toMm, toMm: s.toMm },
      ].filter((part) => part.toMm > part.fromMm);
    });
  }
  return rest;
}

/** Length covered, mm; what overlaps counts once. */
export function totalMm(stretches: readonly Stretch[]): number {
  return union(stretches).reduce((sum, s) => sum + s.toMm - s.fromMm, 0);
}

/** The part of a stretch between 0 and `lengthMm`; turned round (from > to) when it lies outside. */
export function clip(s: Stretch, lengthMm: number): Stretch {
  return { fromMm: Math.max(0, s.fromMm), toMm: Math.min(lengthMm, s.toMm) };
}
