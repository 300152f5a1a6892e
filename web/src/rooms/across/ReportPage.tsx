import { MonthReport } from '@careful-seam/contract/api/crews';
import { monthWords } from '@careful-seam/words/sentences/moments';
import { useTranslation } from 'react-i18next';
import { useList } from '../../tablet/useList';
import { SelectField } from '../../ui/fields';
import { Loaded } from '../../ui/Loaded';
import { useAsked } from './asked';
import { useChoices } from './Page';

/** The table of one question. */
function Figures({ label, heads, rows }: Pick<MonthReport['sections'][number], 'heads' | 'rows'> & { label: string }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what is wider than the screen has to be scrolled with the keyboard too
    <section tabIndex={0} aria-label={label} className="overflow-x-auto">
      <table className="w-full text-left">
        <thead>
          <tr className="border-edge border-b text-soft text-sm">
            {heads.map((head) => (
              <th key={head} className="pr-3 font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.join()} className="border-hair border-b">
              {row.map((cell, k) => (
                <td key={heads[k]} className="py-1 pr-3">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** How was the month: every question with its answer, on one page, as PDF and as a workbook. */
export function ReportPage() {
  const { t, i18n } = useTranslation();
  const asked = useAsked();
  const choices = useChoices();
  const query = asked.query(['month']);
  const answer = useList(MonthReport, `/api/across/report?${query}`);
  return (
    <Loaded answer={answer}>
      {(report) => {
        const months = [...new Set([...(choices?.months ?? []), report.month])].sort().reverse();
        return (
          <div className="flex h-full min-h-0 flex-col gap-2">
            <div className="flex flex-wrap items-end gap-2">
              <h2 className="mr-auto font-bold text-lg">{report.title}</h2>
              <div className="w-52">
                <SelectField
                  label={t('across.report.month')}
                  options={months.map((id) => ({ id, label: monthWords(id, i18n.language) }))}
                  value={report.month}
                  onChange={(e) => asked.set({ month: e.target.value })}
                />
              </div>
              <a className="key flex items-center" href={`/api/across/report.pdf?${query}`} download>
                {t('across.pdf')}
              </a>
              <a className="key flex items-center" href={`/api/across/report.xlsx?${query}`} download>
                {t('across.xlsx')}
              </a>
            </div>
            {report.behind > 0 && <p className="text-cure text-sm">{t('across.behind', { count: report.behind })}</p>}
            <div className="min-h-0 flex-1 overflow-y-auto max-lg:overflow-visible" data-testid="answer">
              <div className="columns-2 gap-6 max-lg:columns-1">
                {report.sections.map((section) => (
                  <article key={section.question} className="mb-3 break-inside-avoid border-edge border-t pt-1">
                    <h3 className="text-soft">{section.question}</h3>
                    {section.says.map((say, k) => (
                      <p key={say} className={k === 0 ? 'font-bold leading-snug' : 'leading-snug'}>
                        {say}
                      </p>
                    ))}
                    {section.rows.length > 0 && (
                      <Figures label={section.question} heads={section.heads} rows={section.rows} />
                    )}
                  </article>
                ))}
              </div>
            </div>
            <p className="text-soft text-sm">{report.fair}</p>
          </div>
        );
      }}
    </Loaded>
  );
}
