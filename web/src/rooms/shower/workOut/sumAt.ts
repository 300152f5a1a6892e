/** The sum that is worked out at an element: a curb's cut, a niche's layout, a bench's span. Null for all else. */
export function sumAt(element: string): { kind: 'curb' | 'niche' | 'bench'; id: string } | null {
  const found = /(?:^|\|)(curb|niche|bench):([^:|]+)/.exec(element);
  return found ? { kind: found[1] as 'curb' | 'niche' | 'bench', id: found[2]! } : null;
}
