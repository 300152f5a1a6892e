import type { Body } from '@careful-seam/core/log/bodies';
import { DRY, type SiteTest, type SymptomPlace, type TrapFound, UNCLEAR } from '@careful-seam/core/log/callBodies';
import type { Call } from '@careful-seam/core/log/state';
import { edgeId } from '@careful-seam/core/shower/geometry/showerGeometry';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { type Material, toldByBreak } from '@careful-seam/core/trace/breakSigns';
import { FLOOR, type PartOut, WHOLE } from '@careful-seam/core/trace/stripParts';
import { type StrippedPart, strippedParts } from '@careful-seam/core/trace/stripSays';
import { PLACELESS, type Suspect } from '@careful-seam/core/trace/suspects';
import { CUT_UNDER_MM, trapFaults } from '@careful-seam/core/trace/trapKept';
import { showLength } from '@careful-seam/core/units/length';
import type { Words } from '../texts/language';
import { edgeLetters, elementName } from '../texts/names';
import type { ShownUnit } from './sentences';

/** A share as people say it: under one of a hundred is told as that. */
export const percentWords = (t: Words, share: number): string =>
  share > 0 && share < 0.01 ? t('call.underOne') : `${Math.round(share * 100)} %`;

/** What is suspected, by its name: an element of the drawing, or what is no part of it. */
export function suspectName(
  t: Words,
  model: ShowerModel,
  { id, faces, kind }: Pick<Suspect, 'id' | 'faces' | 'kind'>,
): string {
  return faces.length > 0 ? elementName(t, model, id) : t(`call.thing.${kind}`);
}

/** A side of the shower, as a person calls it. */
export function sideName(t: Words, model: ShowerModel, side: string): string {
  const letter = edgeLetters(model).get(side);
  const index = model.geometry.edges.findIndex((_, k) => edgeId(model.geometry, k) === side);
  const kind = model.geometry.edges[index]?.kind;
  if (side === 'drain') return t('drain');
  if (letter === undefined) return t('call.opening');
  return t(kind === 'curb' ? 'part.curb' : 'part.wall', { letter });
}

/** A corner of the floor by the two sides that meet there. */
function cornerName(t: Words, model: ShowerModel, corner: number): string {
  const n = model.geometry.footprint.length;
  const side = (k: number) => sideName(t, model, edgeId(model.geometry, k));
  return t('call.cornerOf', { a: side((corner + n - 1) % n), b: side(corner % n) });
}

/** A test in words. */
export function testName(t: Words, model: ShowerModel, test: SiteTest, unit: ShownUnit): string {
  return t(`call.test.${test.kind}`, {
    level: test.levelMm === undefined ? '' : showLength(test.levelMm, unit),
    corner: test.corner === undefined ? '' : cornerName(t, model, test.corner),
    wall: test.wall === undefined ? '' : sideName(t, model, test.wall),
    element: test.element === undefined ? '' : elementName(t, model, test.element),
  });
}

/** What a test showed. */
export function outcomeName(t: Words, model: ShowerModel, test: SiteTest, outcome: string): string {
  if (test.kind === 'map' && outcome !== DRY && outcome !== UNCLEAR)
    return t('call.wettestAt', { side: sideName(t, model, outcome) });
  return t(`call.outcome.${test.kind === 'open' ? 'open.' : ''}${outcome}`);
}

/** What a test showed, with where its level settled. */
export function resultWords(
  t: Words,
  model: ShowerModel,
  { test, outcome, settled }: Body<'call-tested'>,
  unit: ShownUnit,
): string {
  const said = outcomeName(t, model, test, outcome);
  if (!settled) return said;
  const [low, high] = [settled.lowMm, settled.highMm].map((mm) => showLength(mm, unit));
  return `${said}, ${t('call.settled', { low, high })}`;
}

/** Where somebody saw water. */
export function placeWords(t: Words, model: ShowerModel, place: SymptomPlace, unit: ShownUnit): string {
  if (place.on === 'inside') return t('call.at.inside');
  if (place.on === 'ceiling')
    return t('call.at.ceiling', { x: showLength(place.xMm, unit), y: showLength(place.yMm, unit) });
  const where = { side: sideName(t, model, place.edge), along: showLength(place.alongMm, unit) };
  return place.on === 'curb'
    ? t('call.at.curb', where)
    : t('call.at.wall', { ...where, height: showLength(place.heightMm, unit) });
}

/** What a call came to: what was found, or that the path stayed unknown. */
export function foundWords(t: Words, model: ShowerModel, found: Body<'call-closed'>['found']): string {
  if (found === null) return t('call.pathUnknown');
  return t('call.foundIs', {
    what: PLACELESS.includes(found.element) ? t(`call.thing.${found.element}`) : elementName(t, model, found.element),
  });
}

/** A part of a shower as it comes out, with its side where there are several. */
export function partName(t: Words, model: ShowerModel, { part, side }: Pick<PartOut, 'part' | 'side'>): string {
  const name = t(`call.strip.part.${part}`);
  return side === FLOOR || side === WHOLE ? name : t('call.strip.on', { part: name, side: sideName(t, model, side) });
}

/** What a board or a pan most likely is. */
export const materialWords = (t: Words, likely: readonly Material[]): string =>
  t('call.strip.likely', { list: likely.map((m) => t(`call.strip.material.${m}`)).join(t('call.strip.or')) });

/** Whether a trap stays, and why not. */
export function trapWords(t: Words, found: TrapFound, cutUnderMm: number, unit: ShownUnit): string {
  const faults = trapFaults(found);
  return faults.length === 0
    ? t('call.strip.trap.keep', { under: showLength(cutUnderMm, unit) })
    : t('call.strip.trap.replace', { list: faults.map((f) => t(`call.strip.trap.${f}`)).join(', ') });
}

/** A part that came out: what it was, where, by which signs, and why a fault of it is no cause. */
export function partWords(t: Words, model: ShowerModel, { entry, why }: StrippedPart, unit: ShownUnit): string {
  const { part, side, verdict, element, mark, breaks, trap, words } = entry.body;
  if (part === 'safety') return `${partName(t, model, { part, side })}: ${t('call.strip.done')}`;
  const likely = breaks ? toldByBreak(part === 'wall-board' ? 'board' : 'pan', breaks).likely : [];
  const more = [
    ...(element ? [elementName(t, model, element)] : []),
    ...(words ? [words] : []),
    ...(mark
      ? [t('call.strip.mark', { height: showLength(mark.heightMm, unit), along: showLength(mark.alongMm, unit) })]
      : []),
    ...(likely.length > 0 ? [materialWords(t, likely)] : []),
    ...(trap ? [trapWords(t, trap, CUT_UNDER_MM, unit)] : []),
    ...(why ? [t(`call.strip.why.${why}`)] : []),
  ];
  return [`${partName(t, model, { part, side })}: ${t(`call.strip.verdict.${verdict}`)}`, ...more].join('. ');
}

/** A call as lines of a record: what was told, where, what was tried, what came out, what was found. */
export function callLines(t: Words, model: ShowerModel, call: Call, unit: ShownUnit): string[] {
  const { opened, tests, watched, closed } = call;
  const places = opened.body.symptoms.map(
    (s) => `${placeWords(t, model, s.place, unit)}, ${t(`call.whens.${s.when}`)}, ${t(`call.amounts.${s.amount}`)}`,
  );
  const tried = tests.map(({ body }) => `${testName(t, model, body.test, unit)}: ${resultWords(t, model, body, unit)}`);
  return [
    opened.body.words,
    ...places,
    ...tried,
    ...watched.map(({ body }) =>
      t('call.strip.watched', { hours: body.hours, look: t(`call.strip.look.${body.look}`) }),
    ),
    ...strippedParts(call).map((told) => partWords(t, model, told, unit)),
    ...(closed ? [[foundWords(t, model, closed.body.found), closed.body.words ?? ''].filter(Boolean).join('. ')] : []),
  ];
}
