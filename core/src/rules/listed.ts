import { z } from 'zod';

/** What became of a kind, cause or escape that the firm offers no more: what was said with it stays readable. */
export const listed = {
  /** It is not offered any more. */
  retired: z.boolean().optional(),
  /** It was merged into this one: counted as it, and not offered any more. */
  into: z.string().optional(),
};

/** A kind, cause or escape as far as that matters here. */
interface Listed {
  id: string;
  label: string;
  retired?: boolean | undefined;
  into?: string | undefined;
}

/** Those that a person can choose; one that was chosen before stays among them. */
export const offered = <T extends Listed>(list: readonly T[], chosen?: string | null): T[] =>
  list.filter((x) => x.id === chosen || (!x.retired && x.into === undefined));

/** What an id is counted as: what it was merged into, through all mergers; itself where it was not, or where they go in a circle. */
export function countedAs(list: readonly Listed[], id: string): string {
  const seen = new Set<string>();
  for (let at = id; !seen.has(at); ) {
    seen.add(at);
    const next = list.find((x) => x.id === at)?.into;
    if (next === undefined || !list.some((x) => x.id === next)) return at;
    at = next;
  }
  return id;
}
