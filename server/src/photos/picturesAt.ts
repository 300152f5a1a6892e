import { diskPictures } from './diskPictures';
import { isS3Address } from './picturePlace';
import type { PictureStore } from './pictureStore';
import { s3Pictures } from './s3Pictures';

/** Stores that are open, by their place. */
const storesByPlace = new Map<string, PictureStore>();

/** The store at a place: `s3://…` (TLS) and `s3+http://…` are S3-compatible ones, anything else is a folder. */
export function picturesAt(place: string): PictureStore {
  const known = storesByPlace.get(place);
  if (known) return known;
  const made = isS3Address(place) ? s3Pictures(new URL(place)) : diskPictures(place);
  storesByPlace.set(place, made);
  return made;
}
