import type { SiteTest, SymptomPlace } from '@careful-seam/core/log/callBodies';
import { edgeId } from '@careful-seam/core/shower/geometry/showerGeometry';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import type { Suspect } from '@careful-seam/core/trace/suspects';
import type { LengthUnit } from '@careful-seam/core/units/length';
import { showLength } from '@careful-seam/core/units/length';
import { edgeLetters, elementName } from '@careful-seam/words/texts/names';
import type { TFunction } from 'i18next';

/** A share as people say it: under one of a hundred is told as that. */
export const percentWords = (t: TFunction, share: number): string =>
  share > 0 && share < 0.01 ? t('call.underOne') : `${Math.round(share * 100)} %`;

/** What is suspected, by its name: an element of the drawing, or what is no part of it. */
export function suspectName(
  t: TFunction,
  model: ShowerModel,
  { id, faces, kind }: Pick<Suspect, 'id' | 'faces' | 'kind'>,
): string {
  return faces.length > 0 ? elementName(t, model, id) : t(`call.thing.${kind}`);
}

/** A side of the shower, as a person calls it. */
function sideName(t: TFunction, model: ShowerModel, side: string): string {
  const letter = edgeLetters(model).get(side);
  const index = model.geometry.edges.findIndex((_, k) => edgeId(model.geometry, k) === side);
  const kind = model.geometry.edges[index]?.kind;
  if (side === 'drain') return t('drain');
  if (letter === undefined) return t('call.opening');
  return t(kind === 'curb' ? 'part.curb' : 'part.wall', { letter });
}

/** A corner of the floor by the two sides that meet there. */
function cornerName(t: TFunction, model: ShowerModel, corner: number): string {
  const n = model.geometry.footprint.length;
  const side = (k: number) => sideName(t, model, edgeId(model.geometry, k));
  return t('call.cornerOf', { a: side((corner + n - 1) % n), b: side(corner % n) });
}

/** A test in words. */
export function testName(t: TFunction, model: ShowerModel, test: SiteTest, unit: LengthUnit): string {
  return t(`call.test.${test.kind}`, {
    level: test.levelMm === undefined ? '' : showLength(test.levelMm, unit),
    corner: test.corner === undefined ? '' : cornerName(t, model, test.corner),
    wall: test.wall === undefined ? '' : sideName(t, model, test.wall),
    element: test.element === undefined ? '' : elementName(t, model, test.element),
  });
}

/** What a test showed. */
export function outcomeName(t: TFunction, model: ShowerModel, test: SiteTest, outcome: string): string {
  if (test.kind === 'map' && outcome !== 'dry' && outcome !== 'unclear')
    return t('call.wettestAt', { side: sideName(t, model, outcome) });
  return t(`call.outcome.${test.kind === 'open' ? 'open.' : ''}${outcome}`);
}

/** Where somebody saw water. */
export function placeWords(t: TFunction, model: ShowerModel, place: SymptomPlace, unit: LengthUnit): string {
  if (place.on === 'inside') return t('call.at.inside');
  if (place.on === 'ceiling')
    return t('call.at.ceiling', { x: showLength(place.xMm, unit), y: showLength(place.yMm, unit) });
  const where = { side: sideName(t, model, place.edge), along: showLength(place.alongMm, unit) };
  return place.on === 'curb'
    ? t('call.at.curb', where)
    : t('call.at.wall', { ...where, height: showLength(place.heightMm, unit) });
}
