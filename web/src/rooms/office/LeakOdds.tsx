import { LeakOdds } from '@careful-seam/contract/api/leaks';
import { SIGNS, WHENS } from '@careful-seam/core/log/callBodies';
import { SHIPPED_ODDS, SINGLE_ODDS, signKey, whenKey } from '@careful-seam/core/trace/odds';
import { BEHAVIOURS } from '@careful-seam/core/trace/startingValues';
import { useTranslation } from 'react-i18next';
import { useParts } from '../../tablet/store';
import { Problem } from '../../ui/Loaded';
import { useFigures } from './useFigures';

/** Percent of one. */
const PERCENT = 100;
/** A share as one types it. */
const shown = (share: number): string => String(Math.round(share * PERCENT * 10) / 10);
/** Every probability that can be set. */
const NAMES = Object.keys(SHIPPED_ODDS);

/** Probabilities of what is seen and what tests show, each of which can be the firm's own. */
export function LeakOddsForm() {
  const { t } = useTranslation();
  const { leaks } = useParts('leaks');
  const kept = Object.fromEntries(Object.entries(leaks.odds).map(([key, share]) => [key, shown(share ?? 0)]));
  const { field, keep, problem, rests } = useFigures(
    LeakOdds,
    '/api/leaks/odds',
    NAMES,
    kept,
    (text) => Number(text) / PERCENT,
  );
  const input = (key: string, label: string) => (
    <input
      className="field w-20 text-right"
      type="number"
      step="0.1"
      min="0.1"
      max="99.9"
      aria-label={label}
      placeholder={shown(SHIPPED_ODDS[key]!)}
      {...field(key)}
    />
  );
  const table = (name: 'when' | 'sign', rows: readonly string[], keyOf: (row: string, b: string) => string) => (
    <table className="mb-3 border-collapse" data-testid={`odds-${name}`}>
      <caption className="text-left font-semibold">{t(`leaks.odds.${name}`)}</caption>
      <thead>
        <tr className="border-edge border-b text-soft text-sm">
          <td />
          {BEHAVIOURS.map((b) => (
            <th key={b} className="px-1 font-normal" scope="col">
              {t(`leaks.odds.behaviour.${b}`)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => {
          const said = t(name === 'when' ? `call.whens.${row}` : `call.sign.${row}`);
          return (
            <tr key={row} className="border-hair border-b">
              <th className="w-48 pr-3 text-left font-normal" scope="row">
                {said}
              </th>
              {BEHAVIOURS.map((b) => (
                <td key={b} className="px-1 py-1">
                  {input(keyOf(row, b), `${said}, ${t(`leaks.odds.behaviour.${b}`)}`)}
                </td>
              ))}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
  return (
    <form className="flex flex-col gap-3" onSubmit={keep} aria-label={t('leaks.odds.title')}>
      <h2 className="font-bold text-lg">{t('leaks.odds.title')}</h2>
      <p className="text-soft">{t('leaks.odds.what')}</p>
      <div className="overflow-x-auto">
        {table('when', WHENS, (w, b) => whenKey(b as (typeof BEHAVIOURS)[number], w as (typeof WHENS)[number]))}
        {table('sign', SIGNS, (s, b) => signKey(s as (typeof SIGNS)[number], b as (typeof BEHAVIOURS)[number]))}
      </div>
      {SINGLE_ODDS.map((key) => (
        <p key={key} className="flex items-center gap-3">
          {input(key, t(`leaks.odds.${key}`))}
          <span aria-hidden="true">{t(`leaks.odds.${key}`)}</span>
        </p>
      ))}
      <Problem text={problem} />
      <button type="submit" className="key key-main self-start" disabled={rests}>
        {t('leaks.odds.keep')}
      </button>
    </form>
  );
}
