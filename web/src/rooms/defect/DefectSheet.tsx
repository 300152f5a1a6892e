import { askedOfKind } from '@careful-seam/core/checks/asked';
import type { Defect } from '@careful-seam/core/log/defect';
import type { ShowerState } from '@careful-seam/core/log/state';
import { isMilder } from '@careful-seam/core/log/who';
import { SEVERITIES, type Severity } from '@careful-seam/core/rules/checks/checkBase';
import { kindOfFailure } from '@careful-seam/core/rules/tools';
import { elementName } from '@careful-seam/words/texts/names';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { MarkedPicture } from '../../drawing/MarkedPicture';
import { Pictures, useFormPictures } from '../../shared/Pictures';
import { placeOf } from '../../shared/runs';
import { StretchFields } from '../../shared/StretchFields';
import { newId, useParts } from '../../tablet/store';
import { Sheet } from '../../ui/Sheet';

interface Props {
  showerId: string;
  state: ShowerState;
  stage: string;
  element: string;
  /** A defect that a reading or look opened already; null opens a new one. */
  defect: Defect | null;
  stretch: { fromMm: number; toMm: number } | null;
  onClose: () => void;
}

/** Records a defect with its place, kind, severity and pictures, marked by finger. */
export function DefectSheet({ showerId, state, stage, element, defect, stretch, onClose }: Props) {
  const { t } = useTranslation();
  const { write, writeAll, person } = useParts('write', 'writeAll', 'person');
  const isManager = person?.role === 'manager';
  const lengthMm = state.seamById.get(element)?.lengthMm ?? null;
  const known = defect?.places[0];
  const [place, setPlace] = useState({
    fromMm: stretch?.fromMm ?? known?.fromMm ?? 0,
    toMm: stretch?.toMm ?? known?.toMm ?? lengthMm ?? 0,
  });
  const kinds = state.rules!.book.defectKinds.filter((k) => k.stages.includes(stage));
  const checks = state.rules!.method.stages.find((s) => s.key === stage)?.checks;
  const failed = checks?.find((c) => c.id === defect?.check);
  const [kind, setKind] = useState(defect?.kind ?? (failed && kindOfFailure(failed)) ?? kinds[0]?.id ?? 'other');
  const [severity, setSeverity] = useState<Severity>(defect?.severity ?? 'fix');
  const [words, setWords] = useState(defect?.words ?? '');
  const pictures = useFormPictures();

  const keep = async () => {
    const photos = await pictures.all();
    if (!photos) return;
    const at = placeOf(state, element, lengthMm === null ? {} : place);
    const body = { stage, place: at, kind, severity, words: words.trim(), photos };
    const checks = askedOfKind(state.requirements, 'looked')
      .filter((r) => r.stage.key === stage && r.element === element)
      // What is milder than a check stops does not fail that check.
      .filter((r) => !isMilder(severity, r.check.severity))
      .map((r) => r.check.id);
    if (defect) await write(showerId, 'defect-found', { ...body, about: defect.id });
    else if (checks.length === 0) await write(showerId, 'defect-found', body);
    else {
      // A defect that was seen is the answer of a look: the check fails there until it was redone and looked at again.
      const id = newId();
      await writeAll(showerId, [
        { kind: 'look', id, body: { stage, checks, places: [at], answer: 'defect' } },
        { kind: 'defect-found', body: { ...body, about: id } },
      ]);
    }
    onClose();
  };
  return (
    <Sheet title={t('defect.title', { where: elementName(t, state.geometry!.model, element) })} onClose={onClose}>
      <label className="flex flex-col gap-1">
        <span className="text-soft text-sm">{t('defect.kind')}</span>
        <select className="field" value={kind} onChange={(e) => setKind(e.target.value)}>
          {kinds.map((k) => (
            <option key={k.id} value={k.id}>
              {k.label}
            </option>
          ))}
        </select>
      </label>
      <fieldset className="grid grid-cols-3 gap-1.5">
        <legend className="text-soft text-sm">{t('defect.severity')}</legend>
        {SEVERITIES.map((s) => (
          <button
            type="button"
            key={s}
            className="key px-1"
            aria-pressed={severity === s}
            disabled={!isManager && defect !== null && isMilder(s, defect.severity)}
            onClick={() => setSeverity(s)}
          >
            {t(`severity.${s}`)}
          </button>
        ))}
        <p className="col-span-3 text-soft text-sm">
          {t(`severityMeaning.${severity}`)} {!isManager && defect !== null && t('defect.milderByManager')}
        </p>
      </fieldset>
      {lengthMm !== null && <StretchFields stretch={place} lengthMm={lengthMm} onStretch={setPlace} />}
      <label className="flex flex-col gap-1">
        <span className="text-soft text-sm">{t('defect.words')}</span>
        <textarea className="field py-2" rows={2} value={words} onChange={(e) => setWords(e.target.value)} />
      </label>
      <Pictures label={t('defect.takePicture')} pictures={pictures} />
      {(defect?.photos ?? []).map((p) => (
        <MarkedPicture key={p.hash} {...p} tool={null} />
      ))}
      <button
        type="button"
        className="key key-main text-lg"
        disabled={lengthMm !== null && place.toMm <= place.fromMm}
        onClick={() => void keep()}
      >
        {t('defect.keep')}
      </button>
    </Sheet>
  );
}
