import { resolve } from 'node:path';

/** Whether a place is an S3-compatible store, with TLS or without. */
export const isS3Address = (place: string): boolean => /^s3(\+http)?:\/\//.test(place);

/** A setting as a place: the address of an S3-compatible store as it is, anything else a folder from the root on. */
export const picturePlaceOf = (setting: string): string => (isS3Address(setting) ? setting : resolve(setting));

/** Why an address of a store can't be one, in words; null: it can. */
export function placeFault(setting: string): string | null {
  if (!isS3Address(setting)) return null;
  const wanted = 'must be a folder or an address such as s3://KEY:SECRET@s3.example.com/bucket?region=eu-1';
  if (!URL.canParse(setting)) return wanted;
  const { username, password, hostname, pathname } = new URL(setting);
  return username && password && hostname && pathname.length > 3 ? null : wanted;
}
