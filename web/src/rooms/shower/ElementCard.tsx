import { isLeftOpen, judge } from '@careful-seam/core/checks/judge';
import { readingFails } from '@careful-seam/core/checks/measured';
import type { Defect } from '@careful-seam/core/log/defect';
import type { Judgement } from '@careful-seam/core/log/judgement';
import type { ShowerState } from '@careful-seam/core/log/state';
import { defectStep, isOverdue } from '@careful-seam/core/proof/holds/defectLife';
import { seamLine } from '@careful-seam/core/proof/shown/seamLine';
import { isOf } from '@careful-seam/core/rules/checks/check';
import { showLength } from '@careful-seam/core/units/length';
import { defectKindLabel, verdictSentence } from '@careful-seam/words/sentences/sentences';
import { elementName } from '@careful-seam/words/texts/names';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { SeamStrip } from '../../drawing/SeamStrip';
import { answeredBy, isAsked } from '../../shared/answering';
import { PendingDeviation } from '../../shared/PendingDeviation';
import { usePreferences } from '../../ui/preferences';
import { ElementTools } from './ElementTools';
import { FastenerCount } from './FastenerCount';
import { FigureField } from './FigureField';
import { KeptPictures } from './KeptPictures';
import { LookKeys } from './LookKeys';
import { ReadingPad, sideToMeasure } from './ReadingPad';
import { atTapeMark } from './useReading';

/** The element that is looked at, and what the person may do. */
interface Props {
  /** The shower that it is written to. */
  showerId: string;
  /** The shower as it stands now. */
  state: ShowerState;
  /** Key of the stage that is looked at. */
  stage: string;
  /** Id of the seam, corner, opening, drain or face. */
  element: string;
  /** The person may read, look and release. */
  mayInspect: boolean;
  /** May ask a manager to accept what can't be shown. */
  mayAsk: boolean;
  /** Opens the sheet of a defect, or of a new one, with the stretch that was chosen. */
  onDefect: (defect: Defect | null, stretch: { fromMm: number; toMm: number } | null) => void;
  /** Opens a defect's whole life. */
  onLife: (defect: Defect) => void;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
  /** What the key that closes it leads back to. */
  backTo: string;
}

/** A defect in a line: what it is, where it stands, and the sheet with the rest. */
function DefectLine({
  state,
  defect,
  mayInspect,
  onPicture,
  onOpen,
}: {
  state: ShowerState;
  defect: Defect;
  mayInspect: boolean;
  onPicture: () => void;
  onOpen: () => void;
}) {
  const { t } = useTranslation();
  const overdue = isOverdue(defect, state.clockMs);
  return (
    <div className="flex items-center gap-1.5 border-hold border-l-4 pl-2">
      <p className="min-w-0 flex-1 font-semibold leading-tight">
        {defectKindLabel(state.rules!.book, defect.kind, defect.check)} · {t(`severity.${defect.severity}`)}
        <span className={`block font-normal text-sm ${overdue ? 'text-hold' : 'text-soft'}`}>
          {t(overdue ? 'step.overdue' : `step.${defectStep(defect)}`)}
        </span>
      </p>
      {mayInspect && (
        <div className="flex gap-1.5">
          {defect.photos.length === 0 && (
            <button type="button" className="key key-hold px-2 text-sm" onClick={onPicture}>
              {t('defect.picture', { count: defect.photos.length })}
            </button>
          )}
          <button type="button" className="key px-2 text-sm" onClick={onOpen}>
            {t(`next.${defectStep(defect)}`)}
          </button>
        </div>
      )}
    </div>
  );
}

/** A question on which the trade disagrees shows here only when it was answered otherwise than the firm would. */
const isAnswerable = (j: Judgement): boolean => isAsked(j.requirement.check) || !j.satisfied;

/** The one thing chosen: what it is, what was proved on it, what is missing, and the keys to answer. */
export function ElementCard({
  showerId,
  state,
  stage,
  element,
  mayInspect,
  mayAsk,
  onDefect,
  onLife,
  onClose,
  backTo,
}: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const [side, setSide] = useState<string | null>(null);
  const model = state.geometry!.model;
  const seam = state.seamById.get(element);
  const requirements = state.requirements.filter((r) => r.stage.key === stage && r.element === element);
  const judgements = requirements.map((r) => judge(state, r)).filter(isAnswerable);
  const measured = requirements.filter((r) => answeredBy(r.check) === 'reading');
  const figures = requirements.filter(({ check }) => answeredBy(check) === 'figure');
  const measuredChecks = [...new Map(measured.map((r) => [r.check.id, r.check])).values()];
  const [checkChosen, setCheck] = useState<string | null>(null);
  const unmet = judgements.find((j) => answeredBy(j.requirement.check) === 'reading' && !j.satisfied)?.requirement.check
    .id;
  const padCheck = checkChosen ?? unmet ?? measuredChecks[0]?.id;
  const pad = measured.filter((r) => r.check.id === padCheck);
  const now = pad.length > 0 ? sideToMeasure(state, pad, side) : null;
  const defects = [...state.defects.values()].filter(
    (d) => d.closedAt === null && d.places.some((p) => p.element === element),
  );
  const others = judgements.filter(
    (j) => answeredBy(j.requirement.check) !== 'reading' || j.requirement.check.id !== pad[0]?.check.id,
  );
  const shown = now ? [now, ...others] : judgements;
  const pending = [...state.deviations.values()].filter(
    (d) => d.decision === null && !d.ended && d.asked.stage === stage && d.asked.place.element === element,
  );
  const open = judgements.filter((j) => !j.satisfied && !isLeftOpen(j));
  const notes = state.notes.filter((n) => n.body.place?.element === element);
  const upright = seam && seam.highMm - seam.lowMm > seam.lengthMm * 0.7;
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2">
      <header className="flex items-start gap-2">
        <div className="min-w-0 flex-1">
          <h2 className="font-bold text-lg leading-tight">{elementName(t, model, element)}</h2>
          <p className="text-soft text-sm" id="map-choice">
            {seam
              ? t(upright ? 'card.upright' : 'card.level', { length: showLength(seam.lengthMm, unit) })
              : t('card.whole')}
          </p>
        </div>
        <button type="button" className="key" onClick={onClose}>
          {backTo}
        </button>
      </header>
      <div
        className={`flex min-h-0 flex-1 flex-col overflow-y-auto max-md:contents ${defects.length > 0 ? 'gap-0.5' : 'gap-2'}`}
      >
        {seam && judgements.length > 0 && (
          <SeamStrip
            line={seamLine(
              state,
              seam,
              now ? [now, ...judgements.filter((j) => isOf(j.requirement.check, 'looked'))] : judgements,
            )}
            lengthMm={seam.lengthMm}
            readings={now?.readings ?? []}
            short={(e) => now !== null && readingFails(now.requirement.check, e.valueMm!)}
            nextAtMm={now && atTapeMark(now, unit).nextAtMm}
            unit={unit}
          />
        )}
        {judgements.length === 0 && <p className="text-soft">{t('card.nothingAsked')}</p>}
        <ul className="flex flex-col gap-0.5 text-[15px] leading-snug" aria-live="polite">
          {shown.map((j) => (
            <li
              key={`${j.requirement.check.id} ${j.requirement.side}`}
              className={
                j.verdict === 'fail' && !j.satisfied
                  ? 'border-hold border-l-4 pl-2 font-semibold text-hold'
                  : j.satisfied
                    ? 'text-ink'
                    : 'text-soft'
              }
            >
              {verdictSentence(t, model, atTapeMark(j, unit), unit)}
            </li>
          ))}
        </ul>
        {/* On a phone what is tapped comes first, and the rest of what is known under it. */}
        <div className="contents max-md:order-last max-md:flex max-md:flex-col max-md:gap-2">
          <FastenerCount state={state} requirements={requirements} />
          {notes.map((n) => (
            <p key={n.id} className="border-hair border-l-4 pl-2 text-sm">
              {n.body.words} <span className="text-soft">{n.author.name}</span>
            </p>
          ))}
          {defects.map((d) => (
            <DefectLine
              key={d.id}
              state={state}
              defect={d}
              mayInspect={mayInspect}
              onPicture={() => onDefect(d, null)}
              onOpen={() => onLife(d)}
            />
          ))}
          <KeptPictures showerId={showerId} state={state} stage={stage} element={element} />
          <ElementTools
            showerId={showerId}
            state={state}
            element={element}
            stage={stage}
            mayInspect={mayInspect}
            askable={mayAsk && pending.length === 0 ? open : []}
          />
        </div>
      </div>
      {pending.map((d) => (
        <PendingDeviation key={d.id} showerId={showerId} deviation={d} />
      ))}
      {mayInspect && (
        <div className={`flex flex-none flex-col ${defects.length > 0 ? 'gap-1.5' : 'gap-2'}`}>
          {measuredChecks.length > 1 && (
            <fieldset className="flex gap-1" aria-label={t('card.which')}>
              {measuredChecks.map((c) => (
                <button
                  type="button"
                  key={c.id}
                  className="key flex-1 px-1 text-sm leading-tight"
                  aria-pressed={c.id === padCheck}
                  onClick={() => setCheck(c.id)}
                >
                  {c.label}
                </button>
              ))}
            </fieldset>
          )}
          {pad.length > 0 && (
            <ReadingPad
              key={`${element} ${stage} ${padCheck}`}
              showerId={showerId}
              state={state}
              requirements={pad}
              side={side}
              onSide={setSide}
              brief={defects.length > 0}
            />
          )}
          {figures.length > 0 && (
            <div className="flex max-h-56 flex-col gap-1.5 overflow-y-auto">
              {figures.map((r) => (
                <FigureField key={`${element} ${r.check.id}`} showerId={showerId} state={state} requirement={r} />
              ))}
            </div>
          )}
          {judgements.length > 0 && (
            <LookKeys
              key={element}
              showerId={showerId}
              state={state}
              stage={stage}
              element={element}
              onDefect={(stretch) => onDefect(null, stretch)}
            />
          )}
        </div>
      )}
    </div>
  );
}
