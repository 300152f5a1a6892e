import { showLength } from '@careful-seam/core/units/length';
import { useFormContext } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../state/preferences';
import type { Drawn } from './drawing';
import { Keys, LengthGroup, type NewForm } from './fields';

/** Board joints and sheet laps: one height for all walls, or boards laid out from their size. */
export function BoardFields({ drawn }: { drawn: Drawn }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const { setValue, watch } = useFormContext<NewForm>();
  const typed = watch();
  const laid = typed.boards === 'laid';
  return (
    <>
      <Keys
        legend={t('new.boards')}
        values={['line', 'laid'] as const}
        value={typed.boards}
        onChoose={(v) => setValue('boards', v)}
        label={(v) => t(`new.boardModes.${v}`)}
        columns="grid-cols-2"
      />
      <LengthGroup
        label={t('new.group.joints')}
        names={laid ? ['sheetLong', 'sheetShort', 'sheetOffset'] : ['boardJoint']}
        drawn={drawn}
      />
      {laid && (
        <Keys
          legend={t('new.sheetRun')}
          values={['level', 'upright'] as const}
          value={typed.sheetRun}
          onChoose={(v) => setValue('sheetRun', v)}
          label={(v) => t(`new.sheetRuns.${v}`)}
          columns="grid-cols-2"
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
