import { HoldsAnswer } from '@careful-seam/contract/api/crews';
import { figureIn, holdsSentence } from '@careful-seam/words/sentences/crewSentences';
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

/** How long those of one crew or severity stood. */
type Line = HoldsAnswer['lines'][number];
/** Curves that can be told apart by their dashes. */
const DASHES: readonly (number[] | 'solid')[] = ['solid', [10, 5], [3, 3], [12, 4, 3, 4]];
/** More curves than this nobody tells apart: then all together is drawn alone. */
const CURVES = 4;

/** The share that still stands, by days. */
function StandingChart({ answer, words }: { answer: HoldsAnswer; words: string }) {
  const { t } = useTranslation();
  const { theme } = usePreferences();
  const box = useEchart(() => {
    const drawn = answer.lines.length <= CURVES ? answer.lines : answer.all ? [answer.all] : [];
    const colours = ['ink', 'hold', 'water', 'cure'];
    const reach = Math.max(
      1,
      ...drawn.map((l) => l.steps.find((s) => s.open <= 0.05)?.days ?? l.steps.at(-1)?.days ?? 1),
    );
    return {
      animation: false,
      grid: { left: 60, right: 24, top: 36, bottom: 50 },
      legend: { top: 0, textStyle: chartText(), itemWidth: 34, icon: 'path://M0 4H26V6H0Z' },
      tooltip: chartTip(),
      xAxis: { type: 'value', min: 0, max: Math.ceil(reach), ...chartAxis(t('across.holds.axis'), 'x') },
      yAxis: {
        type: 'value',
        min: 0,
        max: 100,
        ...chartAxis('', 'y'),
        axisLabel: { ...chartText(), formatter: '{value} %' },
      },
      series: drawn.map((l, i) => ({
        type: 'line',
        name: l.name,
        step: 'end',
        showSymbol: false,
        data: [[0, 100], ...l.steps.map((s) => [s.days, s.open * 100])],
        lineStyle: { color: themeColour(colours[i]!), width: 2.4, type: DASHES[i] },
        itemStyle: { color: themeColour(colours[i]!) },
      })),
    };
  }, [answer, theme, t]);
  return <div ref={box} className="h-full min-h-72 w-full" role="img" aria-label={words} data-testid="holds" />;
}

/** How long does a hold stand: by severity or by the crew that puts it right, open ones included. */
export function HoldsPage() {
  const { t, i18n } = useTranslation();
  const asked = useAsked();
  const { language } = i18n;
  const answer = useList(HoldsAnswer, `/api/across/holds?${asked.query([...QUESTION_KEYS, 'by'])}`);
  const columns = useMemo((): Column<Line>[] => {
    const days = (value: number | null) => (value === null ? t('across.say.never') : figureIn(language, value));
    return [
      { key: 'name', label: t('across.holds.name'), by: (l) => l.name, cell: (l) => l.name },
      { key: 'count', label: t('across.holds.count'), by: (l) => l.count, cell: (l) => l.count },
      { key: 'open', label: t('across.holds.open'), by: (l) => l.open, cell: (l) => l.open },
      {
        key: 'median',
        label: t('across.holds.median'),
        by: (l) => l.medianDays ?? Number.MAX_SAFE_INTEGER,
        cell: (l) =>
          l.medianDays === null
            ? t('across.holds.notYet')
            : t('across.holds.days', { days: days(l.medianDays), low: days(l.lowDays), high: days(l.highDays) }),
      },
    ];
  }, [t, language]);
  return (
    <Loaded answer={answer}>
      {(data) => {
        const says = holdsSentence(t, language, data);
        return (
          <Page
            says={[says]}
            behind={data.behind}
            asked={asked}
            fields={QUESTION_KEYS}
            more={
              <SelectField
                label={t('across.holds.by')}
                options={[
                  { id: 'severity', label: t('across.holds.bySeverity') },
                  { id: 'crew', label: t('across.holds.byCrew') },
                ]}
                value={asked.get('by') === 'crew' ? 'crew' : 'severity'}
                onChange={(e) => asked.set({ by: e.target.value })}
              />
            }
            note={t('across.holds.counted')}
          >
            <div className="grid h-full min-h-0 grid-cols-[1.1fr_1fr] gap-3 max-lg:grid-cols-1">
              <StandingChart answer={data} words={`${t('across.holds.chart')}. ${says}`} />
              <div className="min-h-0 overflow-y-auto max-lg:overflow-visible">
                <DataTable
                  label={t('across.holds.table')}
                  rows={data.lines}
                  columns={columns}
                  rowId={(l) => l.id}
                  empty={t('across.say.holdsNone')}
                />
              </div>
            </div>
          </Page>
        );
      }}
    </Loaded>
  );
}
