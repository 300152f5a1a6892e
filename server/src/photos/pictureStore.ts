import type { Room } from './room';

/**
 * Where the bytes of pictures lie. It has two twins, a disk and an S3-compatible store, and one suite holds both. A name is the
 * hash of the bytes, or that of a smaller copy; the same name always has the same bytes.
 */
export interface PictureStore {
  /** Where a picture lies, for people who look for it; no secret is in it. */
  where: (name: string) => string;
  /** The bytes, or null where there are none. Throws a `Refusal` "busy" where the store does not answer. */
  read: (name: string) => Promise<Buffer | null>;
  /** Keeps bytes: whole or not at all, and safe from a power cut when it ends. Refuses "disk-full" and "busy". */
  write: (name: string, bytes: Buffer) => Promise<void>;
  /** Free room, or null where nobody can say. */
  room: () => Promise<Room | null>;
  /** Takes in every picture of a folder that is laid out as the disk's own, each whole or not at all; a broken one here is mended by it. */
  takeFrom: (folder: string) => Promise<void>;
  /** Gives a folder in which these names lie, laid out as the disk's own: its own, or `into`. What is not there is left out. */
  lay: (names: readonly string[], into: string) => Promise<{ folder: string; paths: string[] }>;
  /** Takes all pictures away, and nothing else. */
  clear: () => Promise<void>;
}

/** The place within a store, the same in both: the first two digits of the hash are a folder. */
export const pathOf = (name: string): string => `${name.slice(0, 2)}/${name}`;
/** Whether it is a path of a picture or of a smaller copy. */
export const isPathOfPicture = (path: string): boolean =>
  /^[0-9a-f]{2}\/[0-9a-f]{64}(\.\d+\.webp)?$/.test(path) && path.slice(0, 2) === path.slice(3, 5);
