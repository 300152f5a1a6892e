import { mayWrite } from '@careful-seam/core/log/roles';
import type { Ledger } from '@careful-seam/core/proof/shown/seamLine';
import { floorSize } from '@careful-seam/core/shower/geometry/floorSize';
import { showLength, showTotal } from '@careful-seam/core/units/length';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { ChangedType } from '../rooms/newShower/ChangedType';
import { HelpKey } from '../shared/Help';
import { OfferedBook } from '../shared/OfferedBook';
import { SyncMark } from '../shared/SyncMark';
import { type LocalShower, useStore } from '../tablet/store';
import { PageTitle } from '../ui/PageTitle';
import { usePreferences } from '../ui/preferences';

/** How much seam there is, and how it stands. */
export function Figures({ figures }: Pick<Ledger, 'figures'>) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const parts = (['measured', 'seen', 'unseen', 'defect', 'covered'] as const).filter((s) => figures.byState[s] > 0.5);
  if (figures.totalMm === 0) return <p className="text-soft">{t('shower.noSeams')}</p>;
  return (
    <p data-testid="figures">
      <span className="font-bold">{t('shower.ofSeam', { total: showTotal(figures.totalMm, unit) })}</span>{' '}
      {figures.waterMm > 0.5 && (
        <span className="mr-3 text-water">
          {showTotal(figures.waterMm, unit)} {t('line.water')}
        </span>
      )}
      {parts.map((s) => (
        <span key={s} className={`mr-3 ${s === 'defect' ? 'text-hold' : 'text-soft'}`}>
          {showTotal(figures.byState[s], unit)} {t(`line.${s}`)}
        </span>
      ))}
    </p>
  );
}

/**
 * Name, size and rules of a shower, and the ways out of its screen. While something is asked a phone shows the
 * name alone, so that what is tapped stands on its screen.
 */
export function ShowerHead({ shower, isAsking }: { shower: LocalShower; isAsking: boolean }) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const person = useStore((s) => s.person);
  const { id, state } = shower;
  const { widthMm, depthMm } = floorSize(state.geometry!.model);
  return (
    <header className="flex flex-wrap items-center gap-x-4 gap-y-0 border-edge border-b-2 px-4 py-1.5 max-md:gap-2">
      <Link to="/" className="key flex items-center">
        {t('shower.day')}
      </Link>
      <div className="min-w-0 flex-1">
        <PageTitle text={state.created?.body.name} />
        <h1 className="font-bold text-xl leading-tight">
          {state.created?.body.name}{' '}
          <span className={`font-normal text-base text-soft ${isAsking ? 'max-md:hidden' : ''}`}>
            {state.created?.body.job}
          </span>
        </h1>
        <p className={`text-soft text-sm ${isAsking ? 'max-md:hidden' : ''}`}>
          {showLength(widthMm, unit)} x {showLength(depthMm, unit)} · {state.rules!.method.label} ·{' '}
          {state.rules!.book.title}
        </p>
      </div>
      <div className={`order-last basis-full empty:hidden ${isAsking ? 'max-md:hidden' : ''}`}>
        {shower.unread > 0 && (
          <p className="font-semibold text-hold text-sm" role="status">
            {t('shower.unread', { count: shower.unread })}
          </p>
        )}
      </div>
      {/* It changes its length at each answer: the keys stand beyond it, where none moves from under a finger. */}
      <SyncMark />
      {person && mayWrite(person.role, 'reading') && (
        <>
          <OfferedBook shower={shower} />
          <ChangedType shower={shower} />
          <Link
            to={`/showers/${id}/dimensions`}
            className={`key flex items-center px-2 text-sm ${isAsking ? 'max-md:hidden' : ''}`}
          >
            {t('shower.dimensions')}
          </Link>
          <Link
            to={`/showers/${id}/call`}
            className={`key flex items-center px-2 text-sm ${isAsking ? 'max-md:hidden' : ''}`}
          >
            {t('shower.leak')}
          </Link>
        </>
      )}
      <HelpKey />
      <Link to={`/showers/${id}/record`} className="key flex items-center">
        {t('shower.record')}
      </Link>
    </header>
  );
}
