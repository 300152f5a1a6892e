import type { ShowerState } from '@careful-seam/core/log/state';
import { useTranslation } from 'react-i18next';
import { Sheet } from '../ui/Sheet';
import { CORNER_WRONGS, cornerAxes, cornerMarks, cornerView, type Mark, USUAL_AXES } from './corner';
import { type Detail, detailOf } from './detailOf';
import { DRAIN_WRONGS, drainMarks, PENETRATION_WRONGS, penetrationMarks } from './section';

/** Side of a drawing, in its own units. */
const SIZE = 200;

/** What a detail is painted with: the ways in which it goes wrong, and its strokes, right or with one of them. */
function drawn(detail: Detail, state: ShowerState, element: string) {
  const { model } = state.geometry!;
  if (detail.what === 'corner') {
    const view = cornerView(cornerAxes(model, element) ?? USUAL_AXES, SIZE);
    return {
      wrongs: CORNER_WRONGS[detail.kind],
      marks: (wrong: string | null) => cornerMarks(view, detail.kind, wrong),
    };
  }
  if (detail.what === 'penetration') {
    const share = Math.min(1, model.penetrations.find((p) => p.id === element)!.diameterMm / 200);
    return {
      wrongs: PENETRATION_WRONGS[detail.kind],
      marks: (wrong: string | null) => penetrationMarks(detail.kind, wrong, share),
    };
  }
  return { wrongs: DRAIN_WRONGS[detail.kind], marks: (wrong: string | null) => drainMarks(detail.kind, wrong) };
}

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
  const { wrongs, marks } = drawn(detail, state, element);
  const text = `detail.${detail.what}.${detail.kind}`;
  return (
    <Sheet title={t(`detail.${detail.what}.title`)} onClose={onClose}>
      <figure className="grid grid-cols-[200px_1fr] gap-3 border-ink border-l-4 pl-2" data-testid="detail-right">
        <Drawing marks={marks(null)} words={t(`${text}.right`)} />
        <figcaption>
          <span className="block font-bold">{t('detail.right')}</span>
          {t(`${text}.right`)}
        </figcaption>
      </figure>
      <p className="font-bold text-hold">{t('detail.wrongs')}</p>
      <div className="grid grid-cols-3 gap-2">
        {wrongs.map((wrong) => (
          <figure key={wrong} className="flex flex-col gap-1" data-testid="detail-wrong">
            <Drawing marks={marks(wrong)} words={t(`${text}.${wrong}`)} />
            <figcaption className="text-sm leading-tight">{t(`${text}.${wrong}`)}</figcaption>
          </figure>
        ))}
      </div>
      <p className="text-soft text-sm">{t('detail.maker')}</p>
    </Sheet>
  );
}
