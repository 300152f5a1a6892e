import { CAUSE_CONFIDENCES, type CauseConfidence } from '@careful-seam/core/log/bodies';
import type { Defect } from '@careful-seam/core/log/defect';
import type { ShowerState } from '@careful-seam/core/log/state';
import { mayClose } from '@careful-seam/core/proof/fold/foldDefects';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Pictures, useFormPictures } from '../../shared/Pictures';
import { useParts } from '../../tablet/store';
import { Choice } from '../../ui/Choice';

interface Props {
  showerId: string;
  state: ShowerState;
  defect: Defect;
  onDone: () => void;
}

/** A number as typed, with a comma or a point; null when it is none or below zero. */
function amount(typed: string): number | null {
  const value = Number(typed.trim().replace(',', '.'));
  return typed.trim() === '' || Number.isNaN(value) || value < 0 ? null : value;
}

/** Closes a defect with the two answers, its cost and a picture of how it is now. All but the closing may be left out. */
export function CloseForm({ showerId, state, defect, onDone }: Props) {
  const { t } = useTranslation();
  const { write, settings, person } = useParts('write', 'settings', 'person');
  const may = mayClose(state, defect, person?.role === 'manager');
  const { causes, escapes } = state.rules!.book;
  const [family, setFamily] = useState(defect.cause?.family ?? '');
  const [confidence, setConfidence] = useState<CauseConfidence>(defect.cause?.confidence ?? 'suspected');
  const [causeWords, setCauseWords] = useState(defect.cause?.words ?? '');
  const [escaped, setEscaped] = useState(defect.escape?.family ?? '');
  const [hours, setHours] = useState('');
  const [materials, setMaterials] = useState('');
  const pictures = useFormPictures();
  const wrong = [hours, materials].some((typed) => typed.trim() !== '' && amount(typed) === null);
  const close = async () => {
    const photos = await pictures.all();
    if (!photos) return;
    await write(showerId, 'defect-closed', {
      defect: defect.id,
      photos,
      ...(family ? { cause: { family, confidence, words: causeWords.trim() } } : {}),
      ...(escaped ? { escape: { family: escaped } } : {}),
      ...(hours || materials ? { cost: { hours: amount(hours) ?? 0, materials: amount(materials) ?? 0 } } : {}),
    });
    onDone();
  };
  const choose = (
    label: string,
    value: string,
    options: { id: string; label: string }[],
    onChange: (id: string) => void,
  ) => (
    <label className="flex flex-col gap-1">
      <span className="text-soft text-sm">{label}</span>
      <select className="field" value={value} onChange={(e) => onChange(e.target.value)}>
        <option value="">{t('life.notSaid')}</option>
        {options.map((o) => (
          <option key={o.id} value={o.id}>
            {o.label}
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <section className="flex flex-col gap-2 border-edge border-t pt-2">
      <h3 className="font-bold">{t('life.closeTitle')}</h3>
      {choose(t('life.whatWentWrong'), family, causes, setFamily)}
      {family && (
        <>
          <Choice
            label={t('life.howSure')}
            value={confidence}
            onChoose={setConfidence}
            options={CAUSE_CONFIDENCES.map((key) => ({ key, label: t(`confidence.${key}`) }))}
          />
          <label className="flex flex-col gap-1">
            <span className="text-soft text-sm">{t('life.causeWords')}</span>
            <input className="field" value={causeWords} onChange={(e) => setCauseWords(e.target.value)} />
          </label>
        </>
      )}
      {choose(t('life.whyNotCaught'), escaped, escapes, setEscaped)}
      <div className="grid grid-cols-2 gap-2">
        <label className="flex flex-col gap-1">
          <span className="text-soft text-sm">{t('life.hours')}</span>
          <input className="field" inputMode="decimal" value={hours} onChange={(e) => setHours(e.target.value)} />
        </label>
        <label className="flex flex-col gap-1">
          <span className="text-soft text-sm">{t('life.materials', { currency: settings?.currency ?? '' })}</span>
          <input
            className="field"
            inputMode="decimal"
            value={materials}
            onChange={(e) => setMaterials(e.target.value)}
          />
        </label>
      </div>
      {wrong && (
        <p role="alert" className="text-hold">
          {t('life.costWrong')}
        </p>
      )}
      <Pictures label={t('life.takeAfter')} pictures={pictures} />
      {!may && <p className="border-hold border-l-4 pl-2 text-hold">{t('life.closeNeedsLook')}</p>}
      <button type="button" className="key key-main text-lg" disabled={wrong || !may} onClick={() => void close()}>
        {t('life.close')}
      </button>
    </section>
  );
}
