import { showLength } from '@careful-seam/core/units/length';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';
import type { Drawn } from './drawing';
import { Faults, InUnit, Labelled, type NewForm, useSideName } from './fields';

/** By how much the tape does not close, and what that comes to on the floor. */
function Closing({ drawn }: { drawn: Drawn }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { setValue, watch } = useFormContext<NewForm>();
  const { tape } = drawn;
  if (!tape) return null;
  const { closingMm, angleErrorDeg } = tape.open;
  const length = (mm: number) => showLength(mm, unit, 32);
  return (
    <div className="text-sm" data-testid="closing">
      <p className={tape.closes ? '' : 'font-semibold text-hold'}>
        {t('new.closing', { gap: length(closingMm), angle: angleErrorDeg.toFixed(1) })}
      </p>
      {closingMm > 2 && (
        <button
          type="button"
          className="key"
          aria-pressed={watch('spread')}
          onClick={() => setValue('spread', !watch('spread'))}
        >
          {t('new.spread', { gap: length(closingMm) })}
        </button>
      )}
      {tape.diagonalMm !== null && (
        <p>
          {t(tape.diagonalMm < 0 ? 'new.diagonalShort' : 'new.diagonalLong', { by: length(Math.abs(tape.diagonalMm)) })}
        </p>
      )}
      {tape.outOfSquareMm !== null && <p>{t('new.outOfSquare', { by: length(Math.abs(tape.outOfSquareMm)) })}</p>}
    </div>
  );
}

/** The room's sides in order, as the tape and the angle finder give them. */
export function TapeFields({ drawn }: { drawn: Drawn }) {
  const { t } = useTranslation();
  const { control, register } = useFormContext<NewForm>();
  const { fields, append, remove } = useFieldArray({ control, name: 'taped', keyName: 'row' });
  const sideName = useSideName(drawn);
  const next = Math.max(0, ...fields.map((f) => Number(f.key.replace('side-', '')))) + 1;
  return (
    <fieldset className="border-hair border-t pt-1">
      <legend className="text-soft text-sm">{t('new.tapeHow')}</legend>
      {fields.map((side, k) => (
        <div key={side.row} className="mb-1 grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-2">
          <span className="self-center font-semibold">{sideName(side.key)}</span>
          <Labelled text={t('new.tapedLength')}>
            <InUnit>
              <input
                className="field px-2 pr-9 font-bold text-lg"
                aria-label={`${sideName(side.key)}, ${t('new.tapedLength')}`}
                aria-invalid={Boolean(drawn.problems[`taped.${k}`])}
                {...register(`taped.${k}.length`)}
              />
            </InUnit>
          </Labelled>
          <Labelled text={t('new.tapedAngle')}>
            <InUnit unit="°">
              <input
                className="field px-2 pr-9 font-bold text-lg"
                inputMode="decimal"
                aria-label={`${sideName(side.key)}, ${t('new.tapedAngle')}`}
                aria-invalid={Boolean(drawn.problems[`taped.${k}`])}
                {...register(`taped.${k}.angle`)}
              />
            </InUnit>
          </Labelled>
          <button
            type="button"
            className="key px-3"
            aria-label={t('new.removeSide', { side: sideName(side.key) })}
            disabled={fields.length <= 3}
            onClick={() => remove(k)}
          >
            {t('new.removeShort')}
          </button>
        </div>
      ))}
      <Faults
        drawn={drawn}
        of={fields.map((side, k) => ({ field: `taped.${k}` as const, name: sideName(side.key) }))}
      />
      <div className="grid grid-cols-2 items-end gap-2">
        <button type="button" className="key" onClick={() => append({ key: `side-${next}`, length: '', angle: '90' })}>
          {t('new.addSide')}
        </button>
        <Labelled text={t('new.diagonal')}>
          <input className="field px-2 text-lg" {...register('diagonal')} />
        </Labelled>
      </div>
      <Closing drawn={drawn} />
    </fieldset>
  );
}
