import { Coordinates } from '@careful-seam/contract/api/plan';
import { z } from 'zod';

/** Days as they are typed, one after the other. */
export const daysOf = (typed: string): string[] => typed.split(/[\s,;]+/).filter((day) => day !== '');
/** A list of days, each as 2026-12-24. */
export const Days = z.string().refine((typed) => daysOf(typed).every((day) => z.iso.date().safeParse(day).success));
/** A place as maps give it, 40.118, -88.243; nothing for none. */
export const placeOf = (typed: string): unknown => {
  const [latitude, longitude] = typed.split(',').map((part) => (part.trim() === '' ? Number.NaN : Number(part)));
  return typed.trim() === '' ? null : { latitude, longitude };
};
export const Place = z.string().refine((typed) => Coordinates.nullable().safeParse(placeOf(typed)).success);
export const shownPlace = (place: z.infer<typeof Coordinates> | null): string =>
  place ? `${place.latitude}, ${place.longitude}` : '';
/** A number as it is typed. */
export const numeric = {
  setValueAs: (typed: unknown) => (typed === '' || typed === null ? Number.NaN : Number(typed)),
};
