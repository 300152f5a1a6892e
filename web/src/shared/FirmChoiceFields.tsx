import type { UseFormRegister } from 'react-hook-form';
import { useTranslation } from 'react-i18next';

/** What a firm's papers and new tablets begin with, as a form holds it. */
export interface FirmChoices {
  /** In what lengths are typed and shown. */
  unit: 'in' | 'mm';
  /** The language of words and figures. */
  language: 'en' | 'es';
  /** The sheet that records are printed on. */
  paper: 'letter' | 'a4';
}

/** Unit, language and paper of a firm, side by side; `onLanguage` is told at once, so that the page can speak it. */
export function FirmChoiceFields({
  register,
  onLanguage,
}: {
  register: UseFormRegister<FirmChoices>;
  onLanguage?: (language: FirmChoices['language']) => void;
}) {
  const { t } = useTranslation();
  const language = register('language', {
    onChange: (e: { target: { value: FirmChoices['language'] } }) => onLanguage?.(e.target.value),
  });
  return (
    <div className="grid grid-cols-[1.4fr_1fr_1fr] gap-2">
      <label className="flex flex-col gap-1">
        {t('settings.unit')}
        <select className="field" {...register('unit')}>
          <option value="in">{t('settings.inches')}</option>
          <option value="mm">{t('settings.metric')}</option>
        </select>
      </label>
      <label className="flex flex-col gap-1">
        {t('settings.language')}
        <select className="field" {...language}>
          <option value="en">English</option>
          <option value="es">Español</option>
        </select>
      </label>
      <label className="flex flex-col gap-1">
        {t('firm.paper')}
        <select className="field" {...register('paper')}>
          <option value="letter">Letter</option>
          <option value="a4">A4</option>
        </select>
      </label>
    </div>
  );
}
