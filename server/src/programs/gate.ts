/** Lets so many through at a time; the others wait in their order, and with more than `waiting` of them it is full. */
export function makeGate(most: number, waiting = Infinity) {
  const line: (() => void)[] = [];
  let inside = 0;
  return {
    isFull: (): boolean => inside >= most && line.length >= waiting,
    async run<T>(work: () => Promise<T>): Promise<T> {
      if (inside >= most) await new Promise<void>((free) => line.push(free));
      else inside += 1;
      try {
        return await work();
      } finally {
        // Whoever waits longest takes this one's place at once: nobody who comes in that moment slips in beside.
        const next = line.shift();
        if (next) next();
        else inside -= 1;
      }
    },
  };
}
