import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Choice } from '../../ui/Choice';
import type { Drawn } from './drawing';
import { Labelled, LengthGroup, type NewForm, useSideName } from './fields';

/** Whether there is a ceiling to be sealed, and how it falls. */
export function CeilingFields({ drawn }: { drawn: Drawn }) {
  const { t } = useTranslation();
  const { register, setValue, watch } = useFormContext<NewForm>();
  const sideName = useSideName(drawn);
  const ceiling = watch('ceiling');
  return (
    <div className="border-hair border-b pb-2">
      <Choice
        label={t('new.ceiling')}
        value={ceiling}
        options={(['none', 'flat', 'sloped'] as const).map((key) => ({ key, label: t(`new.ceilings.${key}`) }))}
        onChoose={(v) => setValue('ceiling', v)}
      />
      {ceiling === 'sloped' && (
        <LengthGroup label={t('new.ceiling')} names={['ceilingRise']} drawn={drawn}>
          <Labelled text={t('new.ceilingLow')}>
            <select className="field px-1 text-base" {...register('ceilingLow')}>
              {drawn.sides
                .filter((s) => s.kind === 'wall')
                .map((s) => (
                  <option key={s.name} value={s.name}>
                    {sideName(s.name)}
                  </option>
                ))}
            </select>
          </Labelled>
        </LengthGroup>
      )}
    </div>
  );
}
