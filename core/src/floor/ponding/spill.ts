/** A heap of vertices by height, for one flooding after another without new memory. */
class LowestFirst {
  private readonly items: Int32Array;
  private readonly keys: Float64Array;
  size = 0;
  constructor(capacity: number) {
    this.items = new Int32Array(capacity);
    this.keys = new Float64Array(capacity);
  }
  push(item: number, key: number): void {
    let at = this.size;
    this.size += 1;
    while (at > 0) {
      const up = (at - 1) >> 1;
      if (this.keys[up]! <= key) break;
      this.items[at] = this.items[up]!;
      this.keys[at] = this.keys[up]!;
      at = up;
    }
    this.items[at] = item;
    this.keys[at] = key;
  }
  pop(): number {
    const top = this.items[0]!;
    this.size -= 1;
    const [item, key] = [this.items[this.size]!, this.keys[this.size]!];
    let at = 0;
    for (;;) {
      let down = 2 * at + 1;
      if (down >= this.size) break;
      if (down + 1 < this.size && this.keys[down + 1]! < this.keys[down]!) down += 1;
      if (this.keys[down]! >= key) break;
      this.items[at] = this.items[down]!;
      this.keys[at] = this.keys[down]!;
      at = down;
    }
    this.items[at] = item;
    this.keys[at] = key;
    return top;
  }
}

/** Places joined to each other: the neighbours of place i are `list[from[i]]` to `list[from[i + 1] - 1]`. */
export interface Network {
  /** Where the neighbours of each vertex begin in the list. */
  from: Int32Array;
  /** Neighbours, vertex by vertex. */
  list: Int32Array;
}

/** A network from the neighbours of each place. */
export function networkOf(neighbours: readonly (readonly number[])[]): Network {
  const from = new Int32Array(neighbours.length + 1);
  neighbours.forEach((n, i) => {
    from[i + 1] = from[i]! + n.length;
  });
  return { from, list: Int32Array.from(neighbours.flat()) };
}

/**
 * Level to which water stands over every place before it runs to an outlet [Barnes, Lehman & Mulla 2014,
 * "Priority-flood"]: the lowest of all ways out has its highest place there. On a surface of triangles pits, passes and
 * ways over them lie on vertices and sides, so that the network of vertices gives it exactly. Places that no outlet is
 * joined to keep `Infinity`.
 */
export function makeSpill({ from, list }: Network) {
  const count = from.length - 1;
  const heap = new LowestFirst(count + 1);
  const seen = new Uint8Array(count);
  const level = new Float64Array(count);
  return (z: ArrayLike<number>, outlets: ArrayLike<number>): Float64Array => {
    seen.fill(0);
    level.fill(Infinity);
    heap.size = 0;
    for (let k = 0; k < outlets.length; k += 1) {
      const o = outlets[k]!;
      if (seen[o]) continue;
      seen[o] = 1;
      level[o] = z[o]!;
      heap.push(o, z[o]!);
    }
    while (heap.size > 0) {
      const i = heap.pop();
      const here = level[i]!;
      for (let k = from[i]!; k < from[i + 1]!; k += 1) {
        const j = list[k]!;
        if (seen[j]) continue;
        seen[j] = 1;
        const up = z[j]! > here ? z[j]! : here;
        level[j] = up;
        heap.push(j, up);
      }
    }
    return level;
  };
}

/** The deepest water that stands anywhere, same unit as z; 0 where all runs off. */
export function deepestOf(z: ArrayLike<number>, level: ArrayLike<number>): number {
  let deepest = 0;
  for (let i = 0; i < level.length; i += 1) {
    const depth = level[i]! - z[i]!;
    if (depth > deepest && depth < Infinity) deepest = depth;
  }
  return deepest;
}
