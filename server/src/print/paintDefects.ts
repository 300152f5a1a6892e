import type { Defect } from '@careful-seam/core/log/defect';
import type { PhotoUse } from '@careful-seam/core/log/places';
import type { Call } from '@careful-seam/core/log/state';
import { rankedDefects } from '@careful-seam/core/proof/shown/rankedDefects';
import { callLines } from '@careful-seam/words/sentences/callSentences';
import { defectKindLabel } from '@careful-seam/words/sentences/sentences';
import { placesName } from '@careful-seam/words/texts/names';
import { heightOf, paintPicture } from './paintPictures';
import { length, type PaintOptions, type Paper } from './paintRecord';
import { HOLD, heading, line, MARGIN, need, SOFT } from './recordSheet';

/** What happened to a defect, in a paragraph. */
function defectStory({ t, when }: Paper, d: Defect): string {
  const ends = d.closedAt ? t('record.closed', { at: when(d.closedAt) }) : t('record.stillOpen');
  return [
    t('record.found', { name: d.author, at: when(d.observedAt) }),
    d.redoneAt ? t('record.redone', { at: when(d.redoneAt) }) : '',
    ends,
  ]
    .filter(Boolean)
    .join('; ');
}
/** The two answers that a defect was closed with, as far as they were given. */
function causeWords({ t, state }: Paper, d: Defect): string[] {
  const { causes = [], escapes = [] } = state.rules?.book ?? {};
  const named = (list: readonly { id: string; label: string }[], id: string) =>
    list.find((x) => x.id === id)?.label ?? id;
  return [
    ...d.answers.map((a) => `${a.author}: ${a.words}`),
    ...(d.cause
      ? [
          `${t('record.cause', { cause: named(causes, d.cause.family), sure: t(`confidence.${d.cause.confidence}`) })} ${d.cause.words ?? ''}`,
        ]
      : []),
    ...(d.escape ? [`${t('record.escape', { escape: named(escapes, d.escape.family) })} ${d.escape.words ?? ''}`] : []),
  ];
}
/** Pictures with their marks. */
async function paintTheirs(paper: Paper, photos: readonly PhotoUse[], picture: PaintOptions['picture']): Promise<void> {
  const { doc } = paper;
  for (const use of photos) {
    const bytes = await picture(use.hash);
    if (!bytes) {
      line(doc, paper.t('record.picturePending'), HOLD);
      continue;
    }
    const width = 220;
    const height = heightOf(use, width);
    need(doc, height + 8);
    const y = doc.y + 2;
    await paintPicture(doc, use, bytes, { x: MARGIN, y, width });
    doc.x = MARGIN;
    doc.y = y + height + 6;
  }
}
/** All defects. */
export async function paintDefects(paper: Paper, picture: PaintOptions['picture']): Promise<void> {
  const { doc, t, state } = paper;
  heading(doc, t('record.defects'));
  if (state.defects.size === 0) line(doc, t('record.noDefects'));
  for (const { worth, defects } of rankedDefects(state.defects.values())) {
    doc.font('strong');
    line(doc, t(`record.ranked.${worth}`), SOFT);
    doc.font('text');
    for (const d of defects) await paintDefect(paper, d, picture);
  }
}

/** One defect: where, what, what happened to it, its pictures. */
async function paintDefect(paper: Paper, d: Defect, picture: PaintOptions['picture']): Promise<void> {
  const { doc, t, state } = paper;
  const model = state.geometry!.model;
  const where = placesName(t, model, d.places);
  const value = d.valueMm === null ? '' : ` ${length(paper, d.valueMm)}`;
  doc.font('strong');
  line(
    doc,
    `${where}: ${state.rules ? defectKindLabel(state.rules.book, d.kind, d.check) : (d.kind ?? d.check ?? '')}${value} (${t(`severity.${d.severity}`)})`,
  );
  doc.font('text');
  line(doc, `${d.words ? `${d.words}. ` : ''}${defectStory(paper, d)}`, d.closedAt ? SOFT : HOLD);
  for (const words of causeWords(paper, d)) line(doc, words, SOFT);
  await paintTheirs(paper, [...d.photos, ...d.answers.flatMap((a) => a.photos), ...d.photosAfter], picture);
}

/** Every picture of a call: what was told, tried, watched, taken out and found. */
const picturesOf = ({ opened, tests, watched, stripped, closed }: Call): PhotoUse[] => [
  ...(opened.body.photos ?? []),
  ...tests.flatMap((e) => e.body.photos ?? []),
  ...watched.flatMap((e) => e.body.photos),
  ...stripped.flatMap((e) => [...e.body.before, ...e.body.after]),
  ...(closed?.body.photos ?? []),
];

/** Calls about water: what was told, tried, taken out and found, with the pictures of it. */
export async function paintCalls(paper: Paper, picture: PaintOptions['picture']): Promise<void> {
  const { doc, t, state, when, unit } = paper;
  const model = state.geometry?.model;
  if (!model || state.calls.size === 0) return;
  heading(doc, t('call.heading'));
  for (const call of state.calls.values()) {
    doc.font('strong');
    line(doc, when(call.opened.observedAt));
    doc.font('text');
    for (const words of callLines(t, model, call, unit)) line(doc, words);
    await paintTheirs(paper, picturesOf(call), picture);
  }
}
