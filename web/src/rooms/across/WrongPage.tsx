import { SUM_BY, WrongAnswer } from '@careful-seam/contract/api/crews';
import { pareto } from '@careful-seam/core/crews/pareto';
import { figureIn, moneyIn, percentIn, wrongSentence } from '@careful-seam/words/sentences/crewSentences';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { useList } from '../../tablet/useList';
import { type Column, DataTable } from '../../ui/DataTable';
import { SelectField } from '../../ui/fields';
import { Loaded } from '../../ui/Loaded';
import { usePreferences } from '../../ui/preferences';
import { themeColour, useEchart } from '../../ui/useEchart';
import { QUESTION_KEYS, useAsked } from './asked';
import { chartAxis, chartText, chartTip } from './chartPens';
import { Page } from './Page';

/** What is summed in one line. */
type Line = WrongAnswer['lines'][number];
/** Bars that are drawn; the rest stands in the table. */
const BARS = 14;
/** The name of each way to sum. */
const BY_NAME = { kind: 'byKind', cause: 'byCause', group: 'byGroup', stage: 'byStage' } as const;

/** What there is most of, first, with the sum of all so far. */
function ParetoChart({ lines, by, words }: { lines: readonly Line[]; by: 'count' | 'cost'; words: string }) {
  const { t, i18n } = useTranslation();
  const { theme } = usePreferences();
  const box = useEchart(() => {
    const found = pareto({ items: lines.map((l) => ({ name: l.name, count: l.count, cost: l.cost ?? 0 })), by });
    const items = found.ok ? found.value.items.slice(0, BARS) : [];
    const short = (name: string) => (name.length > 22 ? `${name.slice(0, 21)}…` : name);
    return {
      animation: false,
      grid: { left: 168, right: 40, top: 30, bottom: 46 },
      tooltip: { ...chartTip(), trigger: 'axis' },
      yAxis: {
        type: 'category',
        inverse: true,
        data: items.map((i) => i.name),
        axisLabel: { ...chartText(), formatter: short },
        axisLine: { lineStyle: { color: themeColour('edge') } },
      },
      xAxis: [
        { type: 'value', ...chartAxis(t(`across.wrong.${by}`), 'x') },
        {
          type: 'value',
          min: 0,
          max: 100,
          axisLabel: { ...chartText(), hideOverlap: true, formatter: '{value} %' },
          splitLine: { show: false },
        },
      ],
      series: [
        {
          type: 'bar',
          data: items.map((i) => i.value),
          barWidth: '62%',
          itemStyle: { color: themeColour('rule'), borderColor: themeColour('ink'), borderWidth: 1.4 },
          tooltip: { valueFormatter: (v: number) => figureIn(i18n.language, v, 0) },
        },
        {
          type: 'line',
          xAxisIndex: 1,
          data: items.map((i) => i.cumulative * 100),
          symbol: 'circle',
          symbolSize: 7,
          lineStyle: { color: themeColour('water'), width: 2 },
          itemStyle: { color: themeColour('water') },
          tooltip: { valueFormatter: (v: number) => `${figureIn(i18n.language, v, 0)} %` },
        },
      ],
    };
  }, [lines, by, theme, t, i18n.language]);
  return <div ref={box} className="h-full min-h-72 w-full" role="img" aria-label={words} data-testid="pareto" />;
}

/** What goes wrong and what does it cost: by kind, cause, place or stage; by how often or by what it cost to put right. */
export function WrongPage() {
  const { t, i18n } = useTranslation();
  const asked = useAsked();
  const { language } = i18n;
  const by = SUM_BY.find((b) => b === asked.get('by')) ?? 'kind';
  const value = asked.get('value') === 'cost' ? 'cost' : 'count';
  const answer = useList(WrongAnswer, `/api/across/wrong?${asked.query([...QUESTION_KEYS, 'by', 'crew'])}`);
  const currency = answer.data?.currency ?? 'USD';
  const columns = useMemo((): Column<Line>[] => {
    const money = (x: number | null) => (x === null ? '' : moneyIn(language, currency, x));
    return [
      { key: 'name', label: t('across.wrong.name'), by: (l) => l.name, cell: (l) => l.name },
      { key: 'count', label: t('across.crews.defects'), by: (l) => l.count, cell: (l) => l.count },
      {
        key: 'share',
        label: t('across.wrong.share'),
        by: (l) => l.share,
        cell: (l) => (
          <span className="whitespace-nowrap">
            {percentIn(language, l.share)} % ({percentIn(language, l.low)}–{percentIn(language, l.high)})
          </span>
        ),
      },
      { key: 'hours', label: t('across.wrong.hours'), by: (l) => l.hours, cell: (l) => figureIn(language, l.hours) },
      { key: 'cost', label: t('across.wrong.money'), by: (l) => l.cost ?? 0, cell: (l) => money(l.cost) },
      {
        key: 'after',
        label: t('across.wrong.afterTile'),
        by: (l) => l.afterTile ?? 0,
        cell: (l) => money(l.afterTile),
      },
    ];
  }, [t, language, currency]);
  return (
    <Loaded answer={answer}>
      {(data) => {
        const says = wrongSentence(t, language, data, value);
        return (
          <Page
            says={[says]}
            behind={data.behind}
            asked={asked}
            fields={['crew', ...QUESTION_KEYS]}
            more={
              <>
                <SelectField
                  label={t('across.wrong.by')}
                  options={SUM_BY.map((id) => ({ id, label: t(`across.wrong.${BY_NAME[id]}`) }))}
                  value={by}
                  onChange={(e) => asked.set({ by: e.target.value })}
                />
                <SelectField
                  label={t('across.wrong.value')}
                  options={(['count', 'cost'] as const).map((id) => ({ id, label: t(`across.wrong.${id}`) }))}
                  value={value}
                  onChange={(e) => asked.set({ value: e.target.value })}
                />
              </>
            }
            note={t('across.wrong.madeUp', { told: data.costTold, total: data.total })}
          >
            <div className="grid h-full min-h-0 grid-cols-[1fr_1fr] gap-3 max-lg:grid-cols-1">
              <ParetoChart lines={data.lines} by={value} words={`${t('across.wrong.chart')}. ${says}`} />
              <div className="min-h-0 overflow-y-auto max-lg:overflow-visible">
                <DataTable
                  label={t('across.wrong.table')}
                  rows={data.lines}
                  columns={columns}
                  rowId={(l) => l.id}
                  empty={t('across.say.wrongNone')}
                />
              </div>
            </div>
          </Page>
        );
      }}
    </Loaded>
  );
}
