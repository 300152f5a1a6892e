import { statfs } from 'node:fs/promises';
import { Refusal } from '../refusals/refusal';

/** Free room of a disk, and whether it is nearly full: under a tenth, or under 2 GB. */
export interface Room {
  /** What is left. */
  freeBytes: number;
  /** What there is in all. */
  totalBytes: number;
  /** Somebody should look. */
  nearlyFull: boolean;
}

/** A gigabyte, bytes. */
const GB = 1_000_000_000;
/** Pictures stop here, so that what is typed still finds its place: an entry is a thousandth of a picture. */
const KEPT_FOR_ENTRIES = 200_000_000;

/** Common practice, no source: a disk that is nine tenths full is seen to. A small one is judged by its share alone. */
export const isNearlyFull = (freeBytes: number, totalBytes: number): boolean =>
  freeBytes < totalBytes / 10 || (totalBytes > 20 * GB && freeBytes < 2 * GB);

/** Room of the disk that a folder lies on. */
export async function roomOf(folder: string): Promise<Room> {
  const { bavail, blocks, bsize } = await statfs(folder);
  const [freeBytes, totalBytes] = [bavail * bsize, blocks * bsize];
  return { freeBytes, totalBytes, nearlyFull: isNearlyFull(freeBytes, totalBytes) };
}

/** Refuses what would take the last room of a disk; `bytes` is what is to be written. A disk that is small keeps a tenth. */
export async function keepRoom(folder: string, bytes: number): Promise<void> {
  const { freeBytes, totalBytes } = await roomOf(folder);
  if (freeBytes - bytes >= Math.min(KEPT_FOR_ENTRIES, totalBytes / 10)) return;
  throw new Refusal('disk-nearly-full', 'picture');
}
