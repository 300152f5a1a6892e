import { SlippedAnswer } from '@careful-seam/contract/api/crews';
import { figureIn, lookedWords, percentIn, slippedSentence } from '@careful-seam/words/sentences/crewSentences';
import type { ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useList } from '../../tablet/useList';
import { Loaded } from '../../ui/Loaded';
import { QUESTION_KEYS, useAsked } from './asked';
import { Page } from './Page';

/** Lines of a list that are shown. */
const SHOWN = 12;

/** Stage made against stage found; the darker, the more. */
function Matrix({ data }: { data: SlippedAnswer }) {
  const { t, i18n } = useTranslation();
  const most = Math.max(1, ...data.rows.flatMap((r) => r.found));
  const nameOf = (key: string) => data.stages.find((s) => s.id === key)?.label ?? key;
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what is wider than the screen has to be scrolled with the keyboard too
    <section tabIndex={0} aria-label={t('across.slipped.matrix')} className="overflow-x-auto">
      <table className="border-collapse text-center" data-testid="matrix">
        <caption className="pb-1 text-left font-semibold">{t('across.slipped.matrix')}</caption>
        <thead>
          <tr className="text-soft text-sm">
            <th className="pr-2 text-left font-normal">{t('across.slipped.made')}</th>
            {data.stages.map((s) => (
              <th key={s.id} className="min-w-14 px-1 font-normal">
                {s.label}
              </th>
            ))}
            <th className="px-2 font-normal">{t('across.slipped.total')}</th>
            <th className="px-2 font-normal">{t('across.slipped.late')}</th>
          </tr>
        </thead>
        <tbody>
          {data.rows
            .filter((r) => r.total > 0)
            .map((row) => (
              <tr key={row.made}>
                <th className="pr-2 text-left font-normal">{nameOf(row.made)}</th>
                {row.found.map((count, i) => {
                  const found = data.stages[i]!.id;
                  const to = `/across/open?${new URLSearchParams({ made: row.made, stage: found })}`;
                  return (
                    <td
                      key={found}
                      className="border border-hair"
                      style={{
                        background: count
                          ? `color-mix(in srgb, var(--${found === row.made ? 'rule' : 'hold'}) ${Math.round(12 + (found === row.made ? 70 : 38) * Math.sqrt(count / most))}%, var(--leaf))`
                          : undefined,
                      }}
                    >
                      {count > 0 && (
                        <Link to={to} className="flex min-h-12 min-w-12 items-center justify-center text-ink">
                          {count}
                        </Link>
                      )}
                    </td>
                  );
                })}
                <td className="px-2">{row.total}</td>
                <td className="px-2">{row.escaped === null ? '' : `${percentIn(i18n.language, row.escaped)} %`}</td>
              </tr>
            ))}
        </tbody>
      </table>
    </section>
  );
}

/** A list with its heading; said where there is nothing in it. */
function Listed({ title, none, children }: { title: string; none: string; children: ReactNode[] }) {
  return (
    <section className="border-edge border-t pt-1">
      <h2 className="font-semibold">{title}</h2>
      {children.length === 0 ? <p className="text-soft">{none}</p> : <ul>{children}</ul>}
    </section>
  );
}

/** Where did it slip through: a table of stages, what ought to have caught it, and what the rule book asks in vain or not at all. */
export function SlippedPage() {
  const { t, i18n } = useTranslation();
  const asked = useAsked();
  const { language } = i18n;
  const answer = useList(SlippedAnswer, `/api/across/slipped?${asked.query(QUESTION_KEYS)}`);
  return (
    <Loaded answer={answer}>
      {(data) => {
        const change = (stage: string) => (
          <Link
            to={`/office/rules?${new URLSearchParams({ method: data.method, stage })}`}
            className="inline-flex min-h-12 items-center whitespace-nowrap text-ink"
          >
            {t('across.slipped.change')}
          </Link>
        );
        return (
          <Page says={[slippedSentence(t, language, data)]} behind={data.behind} asked={asked} fields={QUESTION_KEYS}>
            <div className="grid h-full min-h-0 grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)] gap-4 overflow-y-auto max-lg:grid-cols-1">
              <div className="flex min-w-0 flex-col gap-3">
                <Matrix data={data} />
              </div>
              <div className="flex min-w-0 flex-col gap-2">
                <Listed title={t('across.slipped.kinds')} none={t('across.slipped.noneKinds')}>
                  {data.slipped.slice(0, SHOWN).map((s) => (
                    <li
                      key={`${s.kind} ${s.made}`}
                      className="flex items-center justify-between gap-3 border-hair border-b"
                    >
                      <span>
                        <b>{s.count}</b> {s.name}:{' '}
                        {s.checks.map((c) => c.label).join('; ') || (
                          <span className="text-hold">{t('across.slipped.noCheck')}</span>
                        )}
                      </span>
                      {change(s.made)}
                    </li>
                  ))}
                </Listed>
                <Listed title={t('across.slipped.silent')} none={t('across.slipped.noneSilent')}>
                  {data.silent.slice(0, SHOWN).map((s) => (
                    <li
                      key={`${s.stage} ${s.check}`}
                      className="flex items-center justify-between gap-3 border-hair border-b"
                    >
                      <span>
                        {t('across.slipped.silentLine', {
                          label: s.label,
                          looked: lookedWords(
                            t,
                            language,
                            s.feet > 0 ? 'hundred-feet' : 'hundred',
                            (s.feet > 0 ? s.feet : s.points) / 100,
                          ),
                          most: figureIn(language, s.atMost, 2),
                          unit: t(`across.unit.${s.feet > 0 ? 'hundred-feet' : 'hundred'}`),
                        })}
                      </span>
                      {change(s.stage)}
                    </li>
                  ))}
                </Listed>
                <Listed title={t('across.slipped.uncovered')} none={t('across.slipped.noneUncovered')}>
                  {data.uncovered.slice(0, SHOWN).map((u) => (
                    <li key={u.kind} className="flex items-center justify-between gap-3 border-hair border-b">
                      <span>
                        <b>{u.count}</b> {u.name}
                      </span>
                      {change(u.stage)}
                    </li>
                  ))}
                </Listed>
              </div>
            </div>
          </Page>
        );
      }}
    </Loaded>
  );
}
