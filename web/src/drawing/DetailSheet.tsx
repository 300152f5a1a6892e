import { partOfFace } from '@careful-seam/core/checks/requirements';
import type { ShowerState } from '@careful-seam/core/log/state';
import { methodsOfParts } from '@careful-seam/core/rules/combineMethods';
import { type Details, findMethod } from '@careful-seam/core/rules/ruleBook';
import { useTranslation } from 'react-i18next';
import { Sheet } from '../ui/Sheet';
import { CORNER_WRONGS, cornerAxes, cornerMarks, cornerView, type Mark, USUAL_AXES } from './corner';
import { DRAIN_WRONGS, drainMarks, PENETRATION_WRONGS, penetrationMarks } from './section';

/** Side of a drawing, in its own units. */
const SIZE = 200;

/** A detail that can be drawn: which one, and in how many ways it goes wrong. */
interface Detail {
  /** What it is a detail of. */
  what: 'corner' | 'penetration' | 'drain';
  /** How this method makes it. */
  kind: string;
  /** Names of the ways in which it goes wrong. */
  wrongs: readonly string[];
  /** The strokes of the drawing, right or with one fault. */
  marks: (wrong: string | null) => Mark[];
}

/** The details of the method that builds this element; null where it has none, or where the element is none to draw. */
function detailOf(state: ShowerState, element: string): Detail | null {
  const model = state.geometry!.model;
  const corner = model.corners.find((c) => c.id === element);
  const hole = model.penetrations.find((p) => p.id === element);
  const isDrain = element === model.drain.id;
  if (!corner && !hole && !isDrain) return null;
  const faces = corner?.faces ?? (hole ? [hole.face] : ['floor']);
  const parts = faces.map((id) => model.faces.find((f) => f.id === id)).map((f) => (f ? partOfFace(f.kind) : null));
  const part = parts.includes('floor') ? 'floor' : parts.find((p) => p !== null);
  const { book, pinned } = state.rules!;
  const details: Details | undefined = part ? findMethod(book, methodsOfParts(pinned)[part])?.details : undefined;
  if (!details) return null;
  if (corner) {
    const view = cornerView(cornerAxes(model, element) ?? USUAL_AXES, SIZE);
    const kind = details.corner;
    return { what: 'corner', kind, wrongs: CORNER_WRONGS[kind], marks: (wrong) => cornerMarks(view, kind, wrong) };
  }
  if (hole) {
    const kind = details.penetration;
    const share = Math.min(1, hole.diameterMm / 200);
    return {
      what: 'penetration',
      kind,
      wrongs: PENETRATION_WRONGS[kind],
      marks: (wrong) => penetrationMarks(kind, wrong, share),
    };
  }
  const kind = details.drain;
  return { what: 'drain', kind, wrongs: DRAIN_WRONGS[kind], marks: (wrong) => drainMarks(kind, wrong) };
}

/** Whether there is a drawing of what right looks like for this element. */
export const hasDetail = (state: ShowerState, element: string): boolean => detailOf(state, element) !== null;

/** One drawing with its words under it. */
function Drawing({ marks, words }: { marks: readonly Mark[]; words: string }) {
  return (
    <svg viewBox={`0 0 ${SIZE} ${SIZE}`} className="w-full border border-hair bg-paper" role="img" aria-label={words}>
      {marks.map((m, i) => (
        <path key={`${i} ${m.path}`} d={m.path} className={m.className} fillRule="evenodd" />
      ))}
    </svg>
  );
}

/** What right looks like here for the method that builds it, and the usual wrongs beside it. */
export function DetailSheet({ state, element, onClose }: { state: ShowerState; element: string; onClose: () => void }) {
  const { t } = useTranslation();
  const detail = detailOf(state, element);
  if (!detail) return null;
  const text = `detail.${detail.what}.${detail.kind}`;
  return (
    <Sheet title={t(`detail.${detail.what}.title`)} onClose={onClose}>
      <figure className="grid grid-cols-[200px_1fr] gap-3 border-ink border-l-4 pl-2" data-testid="detail-right">
        <Drawing marks={detail.marks(null)} words={t(`${text}.right`)} />
        <figcaption>
          <span className="block font-bold">{t('detail.right')}</span>
          {t(`${text}.right`)}
        </figcaption>
      </figure>
      <p className="font-bold text-hold">{t('detail.wrongs')}</p>
      <div className="grid grid-cols-3 gap-2">
        {detail.wrongs.map((wrong) => (
          <figure key={wrong} className="flex flex-col gap-1" data-testid="detail-wrong">
            <Drawing marks={detail.marks(wrong)} words={t(`${text}.${wrong}`)} />
            <figcaption className="text-sm leading-tight">{t(`${text}.${wrong}`)}</figcaption>
          </figure>
        ))}
      </div>
      <p className="text-soft text-sm">{t('detail.maker')}</p>
    </Sheet>
  );
}
