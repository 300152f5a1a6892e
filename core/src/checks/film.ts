import type { Worst } from '../log/judgement';
import type { Evidence, ShowerState } from '../log/state';
import { FILM_ZONES, type FilmZone, PART_OF_ZONE, zoneAreas } from '../membrane/film/filmZones';
import { type FilmJudged, type FilmLimits, judgeFilm } from '../membrane/film/judgeFilm';
import type { FilmCheck } from '../rules/checks/film';
import type { ShowerModel } from '../shower/geometry/showerModel';
import { type AskedOf, askedOfKind } from './asked';
import type { Judge } from './checkJudge';
import { type Measured, plain } from './found';

/** The limits of a film check as films are judged by them. */
export function filmLimits(check: FilmCheck): FilmLimits {
  const { dryLeastUm, dryMostUm, wetLeastUm, wetMostUm, solidsPercent, lossShare, recoatHours } = check;
  const solids = solidsPercent === null ? null : solidsPercent / 100;
  return { dryLeastUm, dryMostUm, wetLeastUm, wetMostUm, solids, lossShare, recoatHours };
}

/** Areas by zone, m², remembered by the drawing and the height of the lower walls. */
const areasOf = new WeakMap<ShowerModel, Map<string, Map<FilmZone, number>>>();

/** Areas of the zones that the check's parts are built with, m². Worked out once for a drawing. */
export function filmAreas(model: ShowerModel, check: FilmCheck): Map<FilmZone, number> {
  const key = JSON.stringify([check.lowerMm, check.parts ?? null]);
  const known = areasOf.get(model) ?? new Map<string, Map<FilmZone, number>>();
  areasOf.set(model, known);
  const before = known.get(key);
  if (before) return before;
  const all = zoneAreas(model, check.lowerMm);
  const mine = FILM_ZONES.filter((z) => !check.parts || check.parts.includes(PART_OF_ZONE[z]));
  const areas = new Map(mine.flatMap((z) => (all.has(z) ? [[z, all.get(z)!] as const] : [])));
  known.set(key, areas);
  return areas;
}

/** A film judged by the readings that stand. */
export function judgeShowerFilm(model: ShowerModel, check: FilmCheck, readings: readonly Evidence[]): FilmJudged {
  const records = readings.flatMap((r) => (r.film ? [r.film] : []));
  return judgeFilm(check.zones, filmAreas(model, check), filmLimits(check), records);
}

/** How bad a film is: of each zone its reasons, what lacks of the least and what is over the most. */
function worstFilm(judged: FilmJudged): Worst {
  return Object.fromEntries(
    judged.zones
      .filter((z) => z.verdict !== 'pass')
      .flatMap((z) => [
        ...z.reasons.map((r) => [`${z.zone} ${r}`, 1] as const),
        ...(z.meanDryUm === null
          ? []
          : ([
              [`${z.zone} thin`, -z.meanDryUm],
              [`${z.zone} thick`, z.meanDryUm],
            ] as const)),
        ...(z.thinnestWet ? [[`${z.zone} wet`, -z.thinnestWet.wettedUm] as const] : []),
        ...(z.spots ? [[`${z.zone} spot`, -z.spots.lowestSpotUm] as const] : []),
      ]),
  );
}

/** A film as a check. */
export function filmFound(model: ShowerModel, check: FilmCheck, readings: readonly Evidence[]): Measured {
  const judged = judgeShowerFilm(model, check, readings);
  return plain(judged.verdict, worstFilm(judged));
}

/** The liquid film of a shower: the check that asks for it, what was read, and how each zone stands. */
export interface ShowerFilm {
  /** What is asked, with the limits of this drawing. */
  requirement: AskedOf<'film'>;
  /** Readings that stand, oldest first. */
  readings: Evidence[];
  /** Zone by zone, and as a whole. */
  judged: FilmJudged;
}

/** The liquid films of a shower, one for each method that coats a part of it; empty where none is coated. */
export function showerFilms(state: ShowerState): ShowerFilm[] {
  return askedOfKind(state.requirements, 'film').map((requirement) => {
    const { check, stage, element } = requirement;
    const readings = (state.evidence.get(element) ?? []).filter(
      (e) => e.film && e.stage === stage.key && e.check === check.id && !e.voided && !e.lookAgain,
    );
    const judged = judgeShowerFilm(state.geometry!.model, check, readings);
    return { requirement, readings, judged };
  });
}

/** A liquid film, judged zone by zone. */
export const filmJudge: Judge<FilmCheck> = {
  answeredBy: () => 'work',
  judge: ({ state, requirement, readings }) => ({
    measured: filmFound(state.geometry!.model, requirement.check, readings),
  }),
};
