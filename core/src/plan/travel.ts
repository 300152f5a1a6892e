/** Mean radius of the earth, km. */
const EARTH_KM = 6371;
/** A road is longer than the straight line [common practice, no source]. */
const ROAD_FACTOR = 1.3;
/** Minutes to park, carry in and find the room [common practice, no source]. */
const ARRIVING_MINUTES = 5;
/** Minutes from one shower of a job to the next [common practice, no source]. */
export const NEXT_DOOR_MINUTES = 2;
/** Minutes between two jobs of which nobody said where they are [common practice, no source]. */
export const UNKNOWN_MINUTES = 20;
/** How fast one drives in and around a town, km/h [common practice, no source]. */
export const USUAL_KMH = 35;

/** A place on the earth, degrees. */
export interface Coordinates {
  latitude: number;
  longitude: number;
}

/** What is known of the ways between jobs. */
export interface Ways {
  /** Where jobs lie, by their names. */
  places: Readonly<Record<string, Coordinates>>;
  /** Minutes that somebody typed from one job to another: job → job → minutes; the same both ways. */
  minutes: Readonly<Record<string, Readonly<Record<string, number>>>>;
  /** How fast one drives, km/h. */
  kmPerHour: number;
  /** Where a day begins; null where nobody said. */
  start: Coordinates | null;
}

/** What a firm keeps of its ways: where each job lies, minutes that somebody typed, how fast one drives, where a day begins. */
export interface KeptWays {
  jobs: Readonly<Record<string, { place: Coordinates | null; minutes: Readonly<Record<string, number>> }>>;
  settings: Pick<Ways, 'kmPerHour' | 'start'>;
}

/** The same as the way of a day takes it. */
export const waysOf = ({ jobs, settings }: KeptWays): Ways => ({
  places: Object.fromEntries(Object.entries(jobs).flatMap(([job, j]) => (j.place ? [[job, j.place]] : []))),
  minutes: Object.fromEntries(Object.entries(jobs).map(([job, j]) => [job, j.minutes])),
  kmPerHour: settings.kmPerHour,
  start: settings.start,
});

/** Length of the shortest way over the earth between two places, km (haversine formula). */
export function greatCircleKm(a: Coordinates, b: Coordinates): number {
  const rad = (degrees: number) => (degrees * Math.PI) / 180;
  const [north, east] = [rad(b.latitude - a.latitude), rad(b.longitude - a.longitude)];
  const h = Math.sin(north / 2) ** 2 + Math.cos(rad(a.latitude)) * Math.cos(rad(b.latitude)) * Math.sin(east / 2) ** 2;
  return 2 * EARTH_KM * Math.asin(Math.min(1, Math.sqrt(h)));
}

/** Minutes on the road between two places at a speed, parking included. */
const byRoad = (a: Coordinates, b: Coordinates, kmPerHour: number): number =>
  Math.round((greatCircleKm(a, b) * ROAD_FACTOR * 60) / kmPerHour) + ARRIVING_MINUTES;

/** Minutes from one job to another, null for where the day begins; and whether somebody said them or the places do. */
export function minutesBetween(from: string | null, to: string, ways: Ways): { minutes: number; known: boolean } {
  if (from === to) return { minutes: NEXT_DOOR_MINUTES, known: true };
  const own = <T>(record: Readonly<Record<string, T>> | undefined, key: string): T | undefined =>
    record && Object.hasOwn(record, key) ? record[key] : undefined;
  const typed = from === null ? undefined : (own(own(ways.minutes, from), to) ?? own(own(ways.minutes, to), from));
  if (typed !== undefined) return { minutes: typed, known: true };
  const [a, b] = [from === null ? ways.start : own(ways.places, from), own(ways.places, to)];
  if (a && b) return { minutes: byRoad(a, b, ways.kmPerHour), known: true };
  return { minutes: UNKNOWN_MINUTES, known: false };
}

/** The table of minutes for a route: row and column 0 where it begins (a job, or null for the firm’s own place), then the stops. */
export function travelTable(
  begin: string | null,
  jobs: readonly string[],
  ways: Ways,
): { minutes: number[][]; assumed: boolean } {
  let assumed = false;
  const between = (from: string | null, to: string): number => {
    const told = minutesBetween(from, to, ways);
    assumed ||= !told.known;
    return told.minutes;
  };
  const rows = [begin, ...jobs].map((from, r) => [0, ...jobs.map((to, k) => (k + 1 === r ? 0 : between(from, to)))]);
  return { minutes: rows, assumed };
}
