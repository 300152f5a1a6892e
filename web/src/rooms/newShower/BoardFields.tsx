import { showLength } from '@careful-seam/core/units/length';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { Choice } from '../../ui/Choice';
import { usePreferences } from '../../ui/preferences';
import type { Drawn } from './drawing';
import { LengthGroup, type NewForm } from './fields';

/** Board joints and sheet laps: one height for all walls, or boards laid out from their size. */
export function BoardFields({ drawn }: { drawn: Drawn }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { setValue, watch } = useFormContext<NewForm>();
  const typed = watch();
  const laid = typed.boards === 'laid';
  return (
    <>
      <Choice
        label={t('new.boards')}
        value={typed.boards}
        options={(['line', 'laid'] as const).map((key) => ({ key, label: t(`new.boardModes.${key}`) }))}
        onChoose={(v) => setValue('boards', v)}
      />
      <LengthGroup
        label={t('new.group.joints')}
        names={laid ? ['sheetLong', 'sheetShort', 'sheetOffset'] : ['boardJoint']}
        drawn={drawn}
      />
      {laid && (
        <Choice
          label={t('new.sheetRun')}
          value={typed.sheetRun}
          options={(['level', 'upright'] as const).map((key) => ({ key, label: t(`new.sheetRuns.${key}`) }))}
          onChoose={(v) => setValue('sheetRun', v)}
        />
      )}
      {laid && drawn.boards && (
        <p data-testid="boards">
          {t('new.boardCount', {
            pieces: drawn.boards.pieces,
            sheets: drawn.boards.sheets,
            narrowest: showLength(drawn.boards.narrowestMm, unit),
          })}
        </p>
      )}
      <LengthGroup label={t('new.group.laps')} names={['sheetLap']} drawn={drawn} />
      <label className="flex min-h-12 items-center gap-2">
        <input
          type="checkbox"
          className="size-6"
          checked={typed.kept}
          onChange={(e) => setValue('kept', e.target.checked)}
        />
        {t('new.kept')}
      </label>
    </>
  );
}
