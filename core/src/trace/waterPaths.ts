import { z } from 'zod';
import { done, type Outcome, refuse } from '../outcome/outcome';

const name = z.string().min(1).max(200);
/** Open ways that are listed at most. */
const WAYS_AT_MOST = 200;

/** Spaces, what stands between them, and from where to where water would go. */
export const WaterPathsInput = z.object({
  spaces: z.array(name).min(1).max(500),
  barriers: z.array(z.object({ name, between: z.tuple([name, name]), intact: z.boolean() })).max(2000),
  from: name,
  to: name,
});
export type WaterPathsInput = z.infer<typeof WaterPathsInput>;
type Barrier = WaterPathsInput['barriers'][number];

/** What stands between water and where it must not come. */
export interface WaterPaths {
  /** Least number of intact barriers on any way; null where there is no way at all. */
  barriersLeft: number | null;
  /** Smallest set of broken barriers that closed again leave no open way; empty where none is open. */
  cut: string[];
  /** Ways that stand open, each as its barriers in order. */
  paths: string[][];
  /** There are more open ways than are listed. */
  more: boolean;
}

/** What can't be: names that stand twice, barriers between what is no space. */
function wrong({ spaces, barriers, from, to }: WaterPathsInput): Outcome<never> | null {
  const known = new Set(spaces);
  const again = spaces.findIndex((s, k) => spaces.indexOf(s) !== k);
  if (again >= 0) return refuse('water-space-twice', `spaces.${again}`, { space: spaces[again]! });
  const names = new Set<string>();
  for (const [k, b] of barriers.entries()) {
    if (names.has(b.name)) return refuse('water-barrier-twice', `barriers.${k}.name`, { barrier: b.name });
    names.add(b.name);
    const stray = b.between.find((s) => !known.has(s));
    if (stray !== undefined)
      return refuse('water-space-unknown', `barriers.${k}.between`, { barrier: b.name, space: stray });
  }
  for (const [field, space] of [
    ['from', from],
    ['to', to],
  ] as const)
    if (!known.has(space)) return refuse('water-end-unknown', field, { space });
  return null;
}

/** Barriers at each space. */
function at(barriers: readonly Barrier[]): Map<string, { index: number; to: string }[]> {
  const found = new Map<string, { index: number; to: string }[]>();
  const add = (from: string, index: number, to: string) => found.set(from, [...(found.get(from) ?? []), { index, to }]);
  for (const [
    index,
    {
      between: [a, b],
    },
  ] of barriers.entries()) {
    if (a === b) continue;
    add(a, index, b);
    add(b, index, a);
  }
  return found;
}

/** Least number of intact barriers between two spaces: a broken one costs nothing (0-1 breadth-first search). */
function leastIntact(input: WaterPathsInput): number | null {
  const ways = at(input.barriers);
  const cost = new Map([[input.from, 0]]);
  const queue = [input.from];
  while (queue.length > 0) {
    const space = queue.shift()!;
    for (const { index, to } of ways.get(space) ?? []) {
      const intact = input.barriers[index]!.intact;
      const through = cost.get(space)! + (intact ? 1 : 0);
      if (through >= (cost.get(to) ?? Infinity)) continue;
      cost.set(to, through);
      if (intact) queue.push(to);
      else queue.unshift(to);
    }
  }
  return cost.get(input.to) ?? null;
}

/**
 * Smallest set of broken barriers whose closing parts two spaces, nearest to the first: the maximum flow through them with one unit
 * each, and the barriers that lead out of what the flow still reaches (Ford and Fulkerson 1956).
 */
function smallestCut({ barriers, from, to }: WaterPathsInput): string[] {
  if (from === to) return [];
  const open = barriers.map((b, index) => ({ ...b, index })).filter((b) => !b.intact);
  const ways = at(open);
  // Units that run through a barrier, counted from its first space to its second.
  const flow = open.map(() => 0);
  const canTake = (index: number, start: string) =>
    open[index]!.between[0] === start ? flow[index]! < 1 : flow[index]! > -1;
  const reach = () => {
    const cameBy = new Map<string, { index: number; start: string } | null>([[from, null]]);
    const queue = [from];
    for (let space = queue.shift(); space !== undefined; space = queue.shift())
      for (const way of ways.get(space) ?? []) {
        if (cameBy.has(way.to) || !canTake(way.index, space)) continue;
        cameBy.set(way.to, { index: way.index, start: space });
        queue.push(way.to);
      }
    return cameBy;
  };
  let reached = reach();
  for (; reached.has(to); reached = reach())
    for (let step = reached.get(to); step; step = reached.get(step.start))
      flow[step.index]! += open[step.index]!.between[0] === step.start ? 1 : -1;
  return open.filter(({ between: [a, b] }) => reached.has(a) !== reached.has(b)).map((b) => b.name);
}

/** Ways through broken barriers that come to no space twice, in the order of the barriers. */
function openWays({ barriers, from, to }: WaterPathsInput): { paths: string[][]; more: boolean } {
  const ways = at(barriers.filter((b) => !b.intact));
  const open = barriers.filter((b) => !b.intact);
  // Spaces from which the end can't be come to are not gone into.
  const leads = new Set([to]);
  const queue = [to];
  for (let space = queue.shift(); space !== undefined; space = queue.shift())
    for (const way of ways.get(space) ?? [])
      if (!leads.has(way.to)) {
        leads.add(way.to);
        queue.push(way.to);
      }
  const paths: string[][] = [];
  let more = false;
  const been = new Set([from]);
  // Where there are very many ways, the search itself must end too.
  let steps = 0;
  const go = (space: string, path: readonly string[]): void => {
    if (space === to) {
      if (paths.length < WAYS_AT_MOST) paths.push([...path]);
      else more = true;
      return;
    }
    for (const way of ways.get(space) ?? []) {
      if (been.has(way.to) || !leads.has(way.to) || more) continue;
      steps += 1;
      if (steps > WAYS_AT_MOST * 1000) {
        more = true;
        return;
      }
      been.add(way.to);
      go(way.to, [...path, open[way.index]!.name]);
      been.delete(way.to);
    }
  };
  if (from !== to && leads.has(from)) go(from, []);
  return { paths, more };
}

/** Where water can go from one space to another, and what would stop it. */
export function waterPaths(input: WaterPathsInput): Outcome<WaterPaths> {
  const fault = wrong(input);
  if (fault) return fault;
  return done({ barriersLeft: leastIntact(input), cut: smallestCut(input), ...openWays(input) });
}
