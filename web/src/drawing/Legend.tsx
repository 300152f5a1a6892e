import { useTranslation } from 'react-i18next';

/** The lines that the map draws, each with its word: never told apart by colour alone. */
const ITEMS = [
  { key: 'unseen', path: 'M2 8H34', className: 'stroke-ink [stroke-width:3] [stroke-dasharray:0.1_6]' },
  { key: 'seen', path: 'M2 8H34', className: 'stroke-ink [stroke-width:1.6]' },
  { key: 'measured', path: 'M2 8H34M12 3V13M24 3V13', className: 'stroke-ink [stroke-width:2.6]' },
  { key: 'defect', path: 'M2 8l5-5 6 10 6-10 6 10 6-10 3 5', className: 'stroke-hold [stroke-width:2.2]' },
  { key: 'covered', path: 'M2 8H12M18 8H34M15 1V15', className: 'stroke-ink [stroke-width:2.4]' },
  { key: 'water', path: 'M2 11H34M2 6H34', className: 'stroke-water [stroke-width:2]' },
] as const;

/** The line codes in words, always in view under the map. */
export function Legend() {
  const { t } = useTranslation();
  return (
    <ul className="flex flex-wrap gap-x-3 text-sm text-soft" aria-label={t('map.legend')}>
      {ITEMS.map(({ key, path, className }) => (
        <li key={key} className="flex items-center gap-1.5">
          <svg viewBox="0 0 36 16" className="h-4 w-8" aria-hidden="true">
            <path d={path} className={`fill-none [stroke-linecap:round] ${className}`} />
          </svg>
          {t(`line.${key}`)}
        </li>
      ))}
    </ul>
  );
}
