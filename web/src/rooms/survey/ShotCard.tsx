import type { KeptShot } from '@careful-seam/core/checks/survey';
import { showLength } from '@careful-seam/core/units/length';
import { useTranslation } from 'react-i18next';
import { usePreferences } from '../../ui/preferences';

/** The shot that is looked at. */
interface Props {
  /** The shot as it was kept. */
  shot: KeptShot;
  /** Its number on the plan. */
  number: number;
  /** How far it is raised to try it, mm. */
  triedMm: number;
  /** The person may write here. */
  mayWrite: boolean;
  /** Tries it so much higher or lower, mm; nothing is written. */
  onTry: (mm: number) => void;
  /** Shoots the place again. */
  onAgain: () => void;
  /** Takes it back out. */
  onOut: () => void;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}

/** Steps that are tried: a sixteenth and an eighth of an inch. */
const STEPS_MM = [-3.175, -1.5875, 1.5875, 3.175];

/** One shot: what it read, what if the floor were higher or lower there, and shooting it again. */
export function ShotCard({ shot, number, triedMm, mayWrite, onTry, onAgain, onOut, onClose }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  return (
    <section className="flex flex-col gap-1.5 border-hair border-t pt-2" data-testid="shot-card">
      <p className="flex items-center gap-2">
        <span className="flex-1 font-semibold">
          {t('survey.shot', { number, z: showLength(shot.zMm, unit, 32), by: shot.author })}
          {triedMm !== 0 && <span className="text-cure"> {t('survey.tried', { by: showLength(triedMm, unit) })}</span>}
        </span>
        <button type="button" className="key px-2 text-sm" onClick={onClose}>
          {t('sheet.close')}
        </button>
      </p>
      <div className="flex gap-1.5">
        {STEPS_MM.map((mm) => (
          <button type="button" key={mm} className="key flex-1 px-0" onClick={() => onTry(triedMm + mm)}>
            {mm > 0 ? '+' : '−'}
            {showLength(Math.abs(mm), unit, 32).replace(/ (in|mm)$/, '')}
          </button>
        ))}
      </div>
      {mayWrite && (
        <div className="flex gap-1.5">
          <button type="button" className="key flex-1" onClick={onAgain}>
            {t('survey.again')}
          </button>
          <button type="button" className="key flex-1" onClick={onOut}>
            {t('survey.takeOut')}
          </button>
        </div>
      )}
    </section>
  );
}
