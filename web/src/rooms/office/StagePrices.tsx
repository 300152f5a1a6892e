import { useTranslation } from 'react-i18next';
import { useNewestBook } from '../../tablet/newestBook';

/** Prices by stage. */
interface Props {
  /** Stage → cost of what was made there, found after tile. */
  prices: Readonly<Record<string, number>>;
  /** Told of other prices. */
  onPrices: (prices: Record<string, number>) => void;
}

/** What a defect costs once it is found after tile, stage by stage, where that is not the usual price. A field left empty has the usual one. */
export function StagePrices({ prices, onPrices }: Props) {
  const { t } = useTranslation();
  const stages = useNewestBook()?.methods[0]?.stages ?? [];
  const set = (stage: string, typed: string) => {
    const { [stage]: _before, ...others } = prices;
    const value = Number(typed.trim().replace(',', '.'));
    onPrices(typed.trim() === '' || !Number.isFinite(value) || value < 0 ? others : { ...others, [stage]: value });
  };
  return (
    <details>
      <summary className="min-h-12 cursor-pointer py-3">
        {t('firm.stagePrices', { count: Object.keys(prices).length })}
      </summary>
      <div className="grid grid-cols-3 gap-2 max-md:grid-cols-2">
        {stages.map(({ key, label }) => (
          <label key={key} className="flex flex-col justify-end gap-1 text-sm leading-tight">
            {label}
            <input
              className="field text-base"
              inputMode="decimal"
              defaultValue={prices[key] ?? ''}
              onBlur={(e) => set(key, e.target.value)}
            />
          </label>
        ))}
      </div>
    </details>
  );
}
