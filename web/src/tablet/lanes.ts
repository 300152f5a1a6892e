/**
 * Does the work for each item, a few at a time: while the server answers one, the next is on its way. After a failure
 * nothing new is begun; what runs is waited for, and the first failure is thrown.
 */
export async function inLanes<T>(items: Iterable<T>, atOnce: number, work: (item: T) => Promise<void>): Promise<void> {
  const left = items[Symbol.iterator]();
  const failures: unknown[] = [];
  const lane = async () => {
    for (let next = left.next(); !next.done && failures.length === 0; next = left.next())
      await work(next.value).catch((failure: unknown) => failures.push(failure));
  };
  await Promise.all(Array.from({ length: atOnce }, lane));
  if (failures.length > 0) throw failures[0];
}
