/** A way as it was seen: the order with its hours, and when each stop opened. Moments in ms since 1970. */
export interface SeenWay {
  order: readonly string[];
  begins: readonly number[];
  opens: Readonly<Record<string, number>>;
}

/** Changes smaller than this nobody plans by, ms: a quarter of an hour. */
const SMALL_MS = 15 * 60_000;

/** What became of a stop since a way was seen. */
export interface Moved {
  id: string;
  /** It is new, gone, opens later or sooner, or is gone to later or sooner for what others did. */
  what: 'new' | 'gone' | 'opens-later' | 'opens-sooner' | 'later' | 'sooner';
  /** By how much, ms; 0 where it is new or gone. */
  byMs: number;
}

/** What moved between two ways: causes first (new, gone, opening otherwise), then what follows from them. */
export function whatMoved(before: SeenWay, now: SeenWay): Moved[] {
  const beganAt = new Map(before.order.map((id, k) => [id, before.begins[k]!]));
  const causes: Moved[] = [];
  const follows: Moved[] = [];
  for (const id of before.order) if (!now.order.includes(id)) causes.push({ id, what: 'gone', byMs: 0 });
  for (const [k, id] of now.order.entries()) {
    const began = beganAt.get(id);
    if (began === undefined) {
      causes.push({ id, what: 'new', byMs: 0 });
      continue;
    }
    const opensBy = (now.opens[id] ?? 0) - (before.opens[id] ?? now.opens[id] ?? 0);
    const by = now.begins[k]! - began;
    if (Math.abs(opensBy) >= SMALL_MS)
      causes.push({ id, what: opensBy > 0 ? 'opens-later' : 'opens-sooner', byMs: Math.abs(opensBy) });
    else if (Math.abs(by) >= SMALL_MS && before.order.indexOf(id) !== k)
      follows.push({ id, what: by > 0 ? 'later' : 'sooner', byMs: Math.abs(by) });
  }
  return [...causes, ...follows];
}
