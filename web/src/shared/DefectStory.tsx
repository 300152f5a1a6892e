import { afterTilePrice, FIRST_SETTINGS } from '@careful-seam/contract/api/firm';
import { makerOf, stageMadeOf } from '@careful-seam/core/crews/maker';
import type { Defect } from '@careful-seam/core/log/defect';
import type { ShowerState } from '@careful-seam/core/log/state';
import { dueAtMs, isOverdue, repeatsOf, toProveAgain } from '@careful-seam/core/proof/holds/defectLife';
import { dayWords, momentWords } from '@careful-seam/words/sentences/moments';
import { defectKindLabel, verdictSentence } from '@careful-seam/words/sentences/sentences';
import { elementName } from '@careful-seam/words/texts/names';
import { useTranslation } from 'react-i18next';
import { MarkedPicture } from '../drawing/MarkedPicture';
import { useParts } from '../tablet/store';
import { usePreferences } from '../ui/preferences';

/** The defect whose story is told. */
interface Props {
  /** The shower as it stands now. */
  state: ShowerState;
  /** The defect, with all that was said of it so far. */
  defect: Defect;
  /** Leads to a place that must be shown again; without it its words stand alone. */
  onPlace?: (stage: string, element: string) => void;
}

/** Pictures of how it was and of how it is, side by side. */
function BeforeAfter({ defect }: { defect: Defect }) {
  const { t } = useTranslation();
  const after = [...defect.answers.flatMap((a) => a.photos), ...defect.photosAfter];
  if (defect.photos.length + after.length === 0) return null;
  const column = (title: string, photos: Defect['photos']) => (
    <div className="flex min-w-0 flex-col gap-1">
      <h3 className="text-soft text-sm">{title}</h3>
      {photos.length === 0 && (
        <p className="border border-hair border-dashed p-3 text-soft text-sm">{t('life.noPicture')}</p>
      )}
      {photos.map((p) => (
        <MarkedPicture key={p.hash} {...p} tool={null} />
      ))}
    </div>
  );
  return (
    <div className="grid grid-cols-2 gap-2" data-testid="before-after">
      {column(t('life.before'), defect.photos)}
      {column(t('life.after'), after)}
    </div>
  );
}

/** One thing that happened to a defect. */
interface Moment {
  /** When, at the site. */
  at: string;
  /** What happened. */
  text: string;
  /** What was said with it; empty for nothing. */
  words: string;
}

/** All that happened to it, in its order. */
function momentsOf(
  t: ReturnType<typeof useTranslation>['t'],
  defect: Defect,
  crewName: (id: string) => string,
): Moment[] {
  const assigned = defect.assignments.map((a) => ({
    at: a.observedAt,
    text: t(a.again ? 'life.sentBack' : 'life.assigned', { crew: crewName(a.crewId), by: a.by }),
    words: a.words,
  }));
  const answered = defect.answers.map((a) => ({
    at: a.observedAt,
    text: t('life.answered', { by: a.author }),
    words: a.words,
  }));
  const rest = [
    { at: defect.observedAt, text: t('life.found', { by: defect.author }), words: defect.words },
    ...(defect.redoneAt ? [{ at: defect.redoneAt, text: t('life.redone'), words: '' }] : []),
    ...(defect.closedAt
      ? [{ at: defect.closedAt, text: t('life.closed', { by: defect.closedBy ?? '' }), words: '' }]
      : []),
  ];
  return [...rest, ...assigned, ...answered].sort((a, b) => a.at.localeCompare(b.at));
}

/** Where and by whom it was made, why, and why nothing caught it: all that was said, the last of it last. */
function WhyAndBy({ state, defect }: Props) {
  const { t } = useTranslation();
  const { crews } = useParts('crews');
  const book = state.rules!.book;
  const causeLabel = (family: string) => book.causes.find((c) => c.id === family)?.label ?? family;
  const made = stageMadeOf(state, defect);
  const stageLabel = state.rules!.method.stages.find((s) => s.key === made)?.label ?? made;
  const { madeBy } = makerOf(state, defect);
  const maker =
    madeBy.of === 'crew'
      ? (crews.find((c) => c.id === madeBy.crewId)?.name ?? madeBy.crewId)
      : madeBy.of === 'trade'
        ? madeBy.trade
        : t(madeBy.of === 'house' ? 'defect.house' : 'defect.makerUnknown');
  return (
    <>
      <p>{t('life.madeAt', { stage: stageLabel, maker })}</p>
      {defect.causesTold.slice(0, -1).map((told) => (
        <p key={told.at} className="text-soft">
          {t('life.causeWas', {
            cause: causeLabel(told.cause.family),
            sure: t(`confidence.${told.cause.confidence}`),
            by: told.by,
          })}
        </p>
      ))}
      {defect.cause && (
        <p>
          {t('life.causeIs', {
            cause: causeLabel(defect.cause.family),
            sure: t(`confidence.${defect.cause.confidence}`),
          })}{' '}
          {defect.cause.words}
        </p>
      )}
      {defect.escape && (
        <p>
          {t('life.escapeIs', {
            escape: book.escapes.find((c) => c.id === defect.escape!.family)?.label ?? defect.escape.family,
          })}{' '}
          {defect.escape.words}
        </p>
      )}
    </>
  );
}

/** What a defect has been through: its moments, pictures before and after, what it repeats, what must be shown again. */
export function DefectStory({ state, defect, onPlace }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { crews, settings } = useParts('crews', 'settings');
  const model = state.geometry!.model;
  const book = state.rules!.book;
  const due = dueAtMs(defect);
  const again = toProveAgain(state, defect);
  const repeats = repeatsOf(state, defect);
  const moments = momentsOf(t, defect, (id) => crews.find((c) => c.id === id)?.name ?? id);
  const cost =
    defect.cost && settings?.hourRate != null ? defect.cost.hours * settings.hourRate + defect.cost.materials : null;
  const afterTile = settings ? afterTilePrice({ ...FIRST_SETTINGS, ...settings }, stageMadeOf(state, defect)) : null;
  const money = (value: number) =>
    new Intl.NumberFormat(undefined, { style: 'currency', currency: settings?.currency ?? 'USD' }).format(value);
  const zone = state.created?.body.timeZone;
  return (
    <>
      <p className="font-semibold text-hold">
        {defectKindLabel(book, defect.kind, defect.check)} · {t(`severity.${defect.severity}`)}
      </p>
      {due !== null && defect.closedAt === null && (
        <p className={isOverdue(defect, state.clockMs) ? 'font-semibold text-hold' : 'text-cure'}>
          {t(isOverdue(defect, state.clockMs) ? 'life.overdue' : 'life.due', {
            at: dayWords(due, zone),
          })}
        </p>
      )}
      <ol className="border-edge border-l-2" data-testid="life">
        {moments.map((m) => (
          <li
            key={`${m.at} ${m.text}`}
            className="relative pb-1.5 pl-4 leading-snug before:absolute before:top-2 before:-left-[7px] before:h-0.5 before:w-3 before:bg-ink"
          >
            <span className="font-semibold">{m.text}</span>{' '}
            <span className="text-soft text-sm">{momentWords(Date.parse(m.at), zone)}</span>
            {m.words && <span className="block">{m.words}</span>}
          </li>
        ))}
      </ol>
      <BeforeAfter defect={defect} />
      {repeats.length > 0 && (
        <p className="border-hold border-l-4 pl-2">
          {t('life.repeats', { count: repeats.length })}{' '}
          {repeats
            .map((d) => `${defectKindLabel(book, d.kind, d.check)}, ${momentWords(Date.parse(d.observedAt), zone)}`)
            .join('; ')}
        </p>
      )}
      {again.length > 0 && (
        <div className="border-cure border-l-4 pl-2" data-testid="prove-again">
          <p className="font-semibold">{t('life.proveAgain')}</p>
          <ul>
            {again.map((j) => (
              <li key={`${j.requirement.check.id} ${j.requirement.element} ${j.requirement.side}`}>
                {onPlace ? (
                  <button
                    type="button"
                    className="key my-0.5 w-full px-2 py-1 text-left font-normal text-sm leading-tight"
                    onClick={() => onPlace(j.requirement.stage.key, j.requirement.element)}
                  >
                    <span className="font-semibold">{elementName(t, model, j.requirement.element)}</span>:{' '}
                    {verdictSentence(t, model, j, unit)}
                  </button>
                ) : (
                  `${elementName(t, model, j.requirement.element)}: ${verdictSentence(t, model, j, unit)}`
                )}
              </li>
            ))}
          </ul>
        </div>
      )}
      <WhyAndBy state={state} defect={defect} />
      {cost !== null && (
        <p>
          {afterTile !== null
            ? t('life.costSaved', { cost: money(cost), after: money(afterTile) })
            : t('life.cost', { cost: money(cost) })}
        </p>
      )}
    </>
  );
}
