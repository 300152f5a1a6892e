import { mayWrite } from '@careful-seam/core/log/roles';
import type { Ledger } from '@careful-seam/core/proof/shown/seamLine';
import { bareLength, showLength } from '@careful-seam/core/units/length';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { ChangedType } from '../rooms/newShower/ChangedType';
import { OfferedBook } from '../shared/OfferedBook';
import { SyncMark } from '../shared/SyncMark';
import { type LocalShower, useStore } from '../tablet/store';
import { usePreferences } from '../ui/preferences';

/** How much seam there is, and how it stands. */
function Figures({ figures }: Pick<Ledger, 'figures'>) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const parts = (['measured', 'seen', 'unseen', 'defect', 'covered'] as const).filter((s) => figures.byState[s] > 0.5);
  if (figures.totalMm === 0) return <p className="text-soft">{t('shower.noSeams')}</p>;
  return (
    <p data-testid="figures">
      <span className="font-bold">{t('shower.ofSeam', { total: showLength(figures.totalMm, unit) })}</span>{' '}
      {figures.waterMm > 0.5 && (
        <span className="mr-3 text-water">
          {bareLength(figures.waterMm, unit)} {t('line.water')}
        </span>
      )}
      {parts.map((s) => (
        <span key={s} className={`mr-3 ${s === 'defect' ? 'text-hold' : 'text-soft'}`}>
          {bareLength(figures.byState[s], unit)} {t(`line.${s}`)}
        </span>
      ))}
    </p>
  );
}

/** Name, size and rules of a shower, its seam in figures, and the ways out of its screen. */
export function ShowerHead({ shower, figures }: { shower: LocalShower } & Pick<Ledger, 'figures'>) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  const person = useStore((s) => s.person);
  const { id, state } = shower;
  const size = state.geometry!.model.faces[0]!.loop;
  const span = (axis: 0 | 1) => Math.max(...size.map((p) => p[axis])) - Math.min(...size.map((p) => p[axis]));
  return (
    <header className="flex items-center gap-4 border-edge border-b-2 px-4 py-1.5 max-md:flex-wrap max-md:gap-2">
      <Link to="/" className="key flex items-center">
        {t('shower.day')}
      </Link>
      <div className="min-w-0">
        <h1 className="font-bold text-xl leading-tight">
          {state.created?.body.name} <span className="font-normal text-base text-soft">{state.created?.body.job}</span>
        </h1>
        <p className="text-soft text-sm">
          {showLength(span(1), unit)} x {showLength(span(0), unit)} · {state.rules!.method.label} ·{' '}
          {state.rules!.book.title}
        </p>
      </div>
      <div className="flex-1 px-2 max-md:order-last max-md:basis-full max-md:px-0">
        <Figures figures={figures} />
        {shower.unread > 0 && (
          <p className="font-semibold text-hold text-sm" role="status">
            {t('shower.unread', { count: shower.unread })}
          </p>
        )}
      </div>
      {person && mayWrite(person.role, 'reading') && (
        <>
          <OfferedBook shower={shower} />
          <ChangedType shower={shower} />
          <Link to={`/showers/${id}/dimensions`} className="key flex items-center px-2 text-sm">
            {t('shower.dimensions')}
          </Link>
        </>
      )}
      <SyncMark />
      <Link to={`/showers/${id}/record`} className="key flex items-center">
        {t('shower.record')}
      </Link>
    </header>
  );
}
