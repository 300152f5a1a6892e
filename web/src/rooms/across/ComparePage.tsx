import { CompareAnswer, type CrewLine } from '@careful-seam/contract/api/crews';
import { limitsAt } from '@careful-seam/core/crews/funnel';
import { compareSentences, crewVerdict, figureIn, lookedWords } from '@careful-seam/words/sentences/crewSentences';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useStore } from '../../tablet/store';
import { useList } from '../../tablet/useList';
import { type Column, DataTable } from '../../ui/DataTable';
import { Loaded } from '../../ui/Loaded';
import { usePreferences } from '../../ui/preferences';
import { themeColour, useEchart } from '../../ui/useEchart';
import { QUESTION_KEYS, useAsked } from './asked';
import { chartAxis, chartText, chartTip } from './chartPens';
import { Page } from './Page';

/** What the funnel is drawn from. */
interface FunnelProps {
  /** What was compared. */
  answer: CompareAnswer;
  /** What the chart says, for those who don't see it. */
  words: string;
}

/** Points of each limit. */
const CURVE_POINTS = 60;

/** Crews by how much was looked at and by their rate, between the lines that hold nearly all equal crews. Only who may be named is named. */
function Funnel({ answer, words }: FunnelProps) {
  const { t, i18n } = useTranslation();
  const { theme } = usePreferences();
  const box = useEchart(() => {
    const unit = t(`across.unit.${answer.unit}`);
    const worked = answer.crews.filter((c) => c.rate !== null).sort((a, b) => a.exposure - b.exposure);
    const most = Math.max(...worked.map((c) => c.exposure)) * 1.06;
    const curve = Array.from({ length: CURVE_POINTS }, (_, k) => {
      // Closer together where the limits bend.
      const exposure = most * ((k + 1) / CURVE_POINTS) ** 2;
      return { exposure, ...limitsAt(answer.firm?.rate ?? 0, answer.overdispersion, exposure) };
    }).filter((c) => c.exposure >= worked[0]!.exposure * 0.8);
    const limit = (key: 'low95' | 'high95' | 'low998' | 'high998', dash: number[]) => ({
      type: 'line',
      name: key,
      silent: true,
      showSymbol: false,
      data: curve.map((c) => [c.exposure * 100, c[key]]),
      lineStyle: { color: themeColour('soft'), width: 1.6, type: dash },
    });
    const points = (list: readonly CrewLine[], named: boolean) => ({
      type: 'scatter',
      symbol: named ? 'diamond' : 'circle',
      symbolSize: named ? 18 : 11,
      data: list.map((c) => ({ value: [c.exposure * 100, c.rate], name: c.name })),
      itemStyle: {
        color: named ? themeColour('hold') : themeColour('leaf'),
        borderColor: themeColour(named ? 'hold' : 'ink'),
        borderWidth: 2,
      },
      label: { show: named, formatter: '{b}', position: 'top' as const, ...chartText(), color: themeColour('ink') },
      tooltip: {
        formatter: (p: { name: string; value: [number, number] }) =>
          `${p.name}: ${figureIn(i18n.language, p.value[1])}`,
      },
    });
    return {
      animation: false,
      grid: { left: 64, right: 24, top: 18, bottom: 52 },
      tooltip: chartTip(),
      xAxis: {
        type: 'value',
        ...chartAxis(
          t('across.crews.axisX', { unit: lookedWords(t, i18n.language, answer.unit, 0).replace(/^0 /, '') }),
          'x',
        ),
      },
      yAxis: { type: 'value', min: 0, ...chartAxis(t('across.crews.axisY', { unit }), 'y') },
      series: [
        limit('low998', [2, 3]),
        limit('high998', [2, 3]),
        limit('low95', [8, 5]),
        limit('high95', [8, 5]),
        {
          ...points(
            worked.filter((c) => !c.discovery),
            false,
          ),
          markLine: {
            silent: true,
            symbol: 'none',
            data: answer.firm ? [{ yAxis: answer.firm.rate }] : [],
            lineStyle: { color: themeColour('ink'), type: 'solid', width: 1.6 },
            label: { formatter: t('across.crews.firm'), position: 'insideEndTop', ...chartText() },
          },
        },
        points(
          worked.filter((c) => c.discovery),
          true,
        ),
      ],
    };
  }, [answer, theme, t, i18n.language]);
  return <div ref={box} className="h-full min-h-64 w-full" role="img" aria-label={words} data-testid="funnel" />;
}

/** Is a crew really different? A funnel with every crew, a table by their names, and the way to the seams of each. */
export function ComparePage() {
  const { t, i18n } = useTranslation();
  const asked = useAsked();
  const own = useStore((s) => s.person?.role === 'crew-lead');
  const answer = useList(CompareAnswer, `/api/across/compare?${asked.query(QUESTION_KEYS)}`);
  const group = asked.get('group') as Parameters<typeof compareSentences>[3];
  const { language } = i18n;
  const columns = useMemo((): Column<CrewLine>[] => {
    const figure = (value: number | null) => (value === null ? '' : figureIn(language, value));
    const unit = answer.data?.unit ?? 'hundred-feet';
    return [
      {
        key: 'name',
        label: t('across.crews.name'),
        by: (c) => c.name,
        cell: (c) => (
          <Link
            className="inline-flex min-h-12 items-center text-ink"
            to={`/across/open?${new URLSearchParams({ crew: c.crew, ...(group ? { group } : {}) })}`}
          >
            {c.name}
          </Link>
        ),
      },
      {
        key: 'looked',
        label: t('across.crews.looked'),
        by: (c) => c.exposure,
        cell: (c) => lookedWords(t, language, unit, c.exposure),
      },
      { key: 'count', label: t('across.crews.defects'), by: (c) => c.count, cell: (c) => c.count },
      { key: 'rate', label: t('across.crews.rate'), by: (c) => c.rate ?? -1, cell: (c) => figure(c.rate) },
      {
        key: 'usual',
        label: t('across.crews.usual'),
        cell: (c) => (c.low95 === null ? '' : `${figure(c.low95)} – ${figure(c.high95)}`),
      },
      {
        key: 'verdict',
        label: t('across.crews.verdict'),
        by: crewVerdict,
        cell: (c) => (
          <span className={c.discovery ? 'font-bold text-hold' : ''}>{t(`across.verdict.${crewVerdict(c)}`)}</span>
        ),
      },
    ];
  }, [t, language, group, answer.data?.unit]);
  return (
    <Loaded answer={answer}>
      {(data) => {
        const says = compareSentences(t, language, data, group, own);
        return (
          <Page
            says={says}
            behind={data.behind}
            asked={asked}
            fields={QUESTION_KEYS}
            note={
              data.overdispersion > 1.05 &&
              t('across.crews.scatter', { times: figureIn(language, data.overdispersion) })
            }
          >
            <div className="grid h-full min-h-0 grid-cols-[1fr_1fr] gap-3 max-lg:grid-cols-1">
              <Funnel answer={data} words={`${t('across.crews.chart')}. ${says.join(' ')}`} />
              <div className="min-h-0 overflow-y-auto max-lg:overflow-visible">
                <DataTable label={t('across.crews.table')} rows={data.crews} columns={columns} rowId={(c) => c.crew} />
              </div>
            </div>
          </Page>
        );
      }}
    </Loaded>
  );
}
