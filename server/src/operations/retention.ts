/** A backup that lies in the folder, by the day in its name. */
const NAME = /^careful-seam-(\d{4}-\d{2}-\d{2})T(\d{6})\.tar$/;

/** The name of a backup made at this moment; its own day stands in it. */
export const backupName = (now: Date): string =>
  `careful-seam-${now.toISOString().slice(0, 19).replaceAll(':', '')}.tar`;

/**
 * Which of the backups in a folder may go: kept are the newest `daily` of them, and the first of each month for `monthly` months
 * back. What does not bear the name of a backup is never touched.
 */
export function mayGo(names: readonly string[], { daily, monthly }: { daily: number; monthly: number }): string[] {
  const backups = names.filter((name) => NAME.test(name)).sort();
  const newest = new Set(backups.slice(-Math.max(1, daily)));
  const firsts = new Map<string, string>();
  for (const name of backups) {
    const month = NAME.exec(name)![1]!.slice(0, 7);
    if (!firsts.has(month)) firsts.set(month, name);
  }
  const months = new Set([...firsts.keys()].sort().slice(-Math.max(0, monthly)));
  if (monthly <= 0) months.clear();
  return backups.filter(
    (name) =>
      !newest.has(name) &&
      !(months.has(NAME.exec(name)![1]!.slice(0, 7)) && firsts.get(NAME.exec(name)![1]!.slice(0, 7)) === name),
  );
}

/** Whether today's is due: its hour has come, and none was begun since. `at` is "HH:MM" in UTC. */
export function isDue(at: string, lastBegan: Date | null, now: Date): boolean {
  const hour = new Date(`${now.toISOString().slice(0, 10)}T${at}:00.000Z`);
  const latest = now >= hour ? hour : new Date(hour.getTime() - 86_400_000);
  // One that was begun later than now was begun by a clock that stood ahead.
  return lastBegan === null || lastBegan < latest || lastBegan > now;
}
