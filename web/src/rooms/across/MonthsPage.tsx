import { Mark, MonthsAnswer, NewMark } from '@careful-seam/contract/api/crews';
import { changeSentences, figureIn, monthSentences } from '@careful-seam/words/sentences/crewSentences';
import { monthWords } from '@careful-seam/words/sentences/moments';
import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { useChange, useList } from '../../tablet/useList';
import { SelectField, TextField } from '../../ui/fields';
import { Loaded, Problem } from '../../ui/Loaded';
import { usePreferences } from '../../ui/preferences';
import { Sheet } from '../../ui/Sheet';
import { themeColour, useEchart } from '../../ui/useEchart';
import { QUESTION_KEYS, useAsked } from './asked';
import { chartAxis, chartText, chartTip } from './chartPens';
import { Page } from './Page';

/** Rates by month between the limits of chance, with the marks of the firm. */
function MonthsChart({ answer, words }: { answer: MonthsAnswer; words: string }) {
  const { t, i18n } = useTranslation();
  const { theme } = usePreferences();
  const box = useEchart(() => {
    const { months, marks, centre } = answer;
    const names = months.map((m) => m.month);
    const line = (key: 'low' | 'high') => ({
      type: 'line',
      name: key,
      silent: true,
      step: 'middle',
      showSymbol: false,
      data: months.map((m) => m[key]),
      lineStyle: { color: themeColour('soft'), width: 1.4, type: [6, 4] },
    });
    return {
      animation: false,
      grid: { left: 60, right: 20, top: 46, bottom: 44 },
      tooltip: {
        ...chartTip(),
        trigger: 'axis',
        valueFormatter: (v: number | null) => (v === null ? '' : figureIn(i18n.language, v)),
      },
      xAxis: {
        type: 'category',
        data: names,
        axisLabel: {
          ...chartText(),
          formatter: (m: string) => monthWords(m, i18n.language).replace(/^(\S{3})\S*/, '$1'),
        },
        axisLine: { lineStyle: { color: themeColour('edge') } },
      },
      yAxis: {
        type: 'value',
        min: 0,
        ...chartAxis(t('across.crews.axisY', { unit: t(`across.unit.${answer.unit}`) }), 'y'),
      },
      series: [
        line('low'),
        line('high'),
        {
          type: 'line',
          name: t('across.crews.rate'),
          connectNulls: false,
          data: months.map((m) => ({
            value: m.rate,
            symbol: m.signal === 'beyond' ? 'diamond' : 'circle',
            symbolSize: m.signal ? 15 : 8,
            itemStyle: { color: themeColour(m.signal ? 'hold' : 'ink') },
          })),
          lineStyle: { color: themeColour('ink'), width: 2 },
          markLine: {
            silent: true,
            symbol: 'none',
            data: [
              ...(centre === null
                ? []
                : [
                    {
                      yAxis: centre,
                      label: { show: false },
                      lineStyle: { color: themeColour('ink'), type: 'solid', width: 1.2 },
                    },
                  ]),
              ...marks
                .filter((m) => names.includes(m.day.slice(0, 7)))
                .map((m, i) => ({
                  xAxis: m.day.slice(0, 7),
                  label: {
                    formatter: m.words,
                    ...chartText(),
                    color: themeColour('ink'),
                    offset: [0, i % 2 === 0 ? 0 : -18],
                  },
                  lineStyle: { color: themeColour('water'), type: 'solid', width: 2 },
                })),
            ],
          },
        },
      ],
    };
  }, [answer, theme, t, i18n.language]);
  return <div ref={box} className="h-full min-h-72 w-full" role="img" aria-label={words} data-testid="months" />;
}

/** A day on which the firm changed something. */
function MarkSheet({ onMade, onClose }: { onMade: (mark: Mark) => void; onClose: () => void }) {
  const { t } = useTranslation();
  const { change, problem, busy } = useChange([]);
  const { register, handleSubmit, formState } = useForm({
    resolver: zodResolver(NewMark),
    mode: 'onChange',
    defaultValues: { day: '', words: '' },
  });
  const keep = handleSubmit(async (mark) => {
    const made = await change(Mark, 'POST', '/api/marks', mark);
    if (made) onMade(made);
  });
  return (
    <Sheet title={t('across.months.newMark')} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(e) => void keep(e)}>
        <TextField label={t('across.months.day')} type="date" {...register('day')} />
        <TextField label={t('across.months.words')} maxLength={120} {...register('words')} />
        <Problem text={problem} />
        <button type="submit" className="key key-main" disabled={busy || !formState.isValid}>
          {t('across.months.keep')}
        </button>
      </form>
    </Sheet>
  );
}

/** Does it get better: month by month with the firm's marks; before and after one of them. */
export function MonthsPage() {
  const { t, i18n } = useTranslation();
  const asked = useAsked();
  const { language } = i18n;
  const [marking, setMarking] = useState(false);
  const path = `/api/across/months?${asked.query([...QUESTION_KEYS, 'kind', 'crew', 'mark'])}`;
  const answer = useList(MonthsAnswer, path);
  const { change, problem } = useChange([path]);
  const mark = asked.get('mark');
  return (
    <Loaded answer={answer}>
      {(data) => {
        const said = changeSentences(t, language, data, mark);
        const says = [...said, ...monthSentences(t, language, data)];
        return (
          <Page
            says={says}
            behind={data.behind}
            asked={asked}
            fields={['kind', 'crew', ...QUESTION_KEYS]}
            more={
              <>
                <SelectField
                  label={t('across.months.mark')}
                  none={t('across.months.noMark')}
                  options={data.marks.map((m) => ({ id: m.id, label: `${m.day}: ${m.words}` }))}
                  value={data.marks.some((m) => m.id === mark) ? mark : ''}
                  onChange={(e) => asked.set({ mark: e.target.value })}
                />
                <button type="button" className="key" onClick={() => setMarking(true)}>
                  {t('across.months.newMark')}
                </button>
                {data.marks.some((m) => m.id === mark) && (
                  <button
                    type="button"
                    className="key"
                    onClick={() =>
                      void change(z.object({}), 'DELETE', `/api/marks/${mark}`).then(
                        (done) => done && asked.set({ mark: '' }),
                      )
                    }
                  >
                    {t('across.months.remove')}
                  </button>
                )}
              </>
            }
            note={t('across.months.rules')}
          >
            <Problem text={problem} />
            <MonthsChart answer={data} words={`${t('across.months.chart')}. ${says.join(' ')}`} />
            {marking && (
              <MarkSheet
                onClose={() => setMarking(false)}
                onMade={(made) => {
                  setMarking(false);
                  asked.set({ mark: made.id });
                  void answer.refetch();
                }}
              />
            )}
          </Page>
        );
      }}
    </Loaded>
  );
}
