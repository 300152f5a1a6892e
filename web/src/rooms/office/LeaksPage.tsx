import { LeakRates } from '@careful-seam/contract/api/leaks';
import { ratesOf, sharesOf, WORTH_CALLS } from '@careful-seam/core/trace/rates';
import { RATES, SUSPECT_KINDS } from '@careful-seam/core/trace/startingValues';
import { useTranslation } from 'react-i18next';
import { useParts } from '../../tablet/store';
import { Problem } from '../../ui/Loaded';
import { LeakOddsForm } from './LeakOdds';
import { useFigures } from './useFigures';

/** What lets water through: what was expected, what was found, what is expected now; the figures to begin with can be the firm's own. */
export function LeaksPage() {
  const { t } = useTranslation();
  const { leaks } = useParts('leaks');
  const kept = Object.fromEntries(Object.entries(leaks.own).map(([kind, rate]) => [kind, String(rate)]));
  const { field, keep, problem, rests } = useFigures(LeakRates, '/api/leaks/rates', SUSPECT_KINDS, kept, Number);
  const start = sharesOf(ratesOf({}, leaks.own));
  const now = sharesOf(ratesOf(leaks.finds, leaks.own));
  const count = (kind: string) => (Object.hasOwn(leaks.finds, kind) ? leaks.finds[kind]! : 0);
  const percent = (share: number) => `${(share * 100).toFixed(share < 0.1 ? 1 : 0)} %`;
  const kinds = [...SUSPECT_KINDS].sort((a, b) => now[b] - now[a]);
  return (
    <div className="flex h-full flex-col gap-6 overflow-y-auto">
      <form className="flex flex-col gap-2" onSubmit={keep}>
        <p className="text-soft">{t('leaks.what', { worth: WORTH_CALLS })}</p>
        <table className="w-full max-w-3xl border-collapse">
          <thead>
            <tr className="border-edge border-b text-left text-soft text-sm">
              <th className="font-normal">{t('leaks.kind')}</th>
              <th className="font-normal">{t('leaks.begins')}</th>
              <th className="text-right font-normal">{t('leaks.expected')}</th>
              <th className="text-right font-normal">{t('leaks.found')}</th>
              <th className="text-right font-normal">{t('leaks.now')}</th>
            </tr>
          </thead>
          <tbody data-testid="leak-kinds">
            {kinds.map((kind) => (
              <tr key={kind} className="border-hair border-b">
                <th className="pr-3 text-left font-semibold" scope="row">
                  {t(`leaks.kinds.${kind}`)}
                </th>
                <td className="py-1">
                  <input
                    className="field w-28"
                    type="number"
                    step="any"
                    min="0.001"
                    max="1000"
                    aria-label={t('leaks.beginsOf', { kind: t(`leaks.kinds.${kind}`) })}
                    placeholder={String(RATES[kind])}
                    {...field(kind)}
                  />
                </td>
                <td className="text-right tabular-nums">{percent(start[kind])}</td>
                <td className="text-right font-bold tabular-nums">{count(kind)}</td>
                <td className="text-right tabular-nums">{percent(now[kind])}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <p>{t('leaks.unknown', { count: count('unknown') })}</p>
        <Problem text={problem} />
        <button type="submit" className="key key-main self-start" disabled={rests}>
          {t('office.keep')}
        </button>
      </form>
      <LeakOddsForm />
    </div>
  );
}
