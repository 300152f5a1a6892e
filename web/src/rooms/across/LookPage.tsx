import { LookAnswer, type LookCell, LookPlan } from '@careful-seam/contract/api/crews';
import { figureIn, lookSentence, percentIn } from '@careful-seam/words/sentences/crewSentences';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import type { z } from 'zod';
import { useStore } from '../../tablet/store';
import { useChange, useList } from '../../tablet/useList';
import { type Column, DataTable } from '../../ui/DataTable';
import { TextField } from '../../ui/fields';
import { Loaded, Problem } from '../../ui/Loaded';
import { usePreferences } from '../../ui/preferences';
import { themeColour, useEchart } from '../../ui/useEchart';
import { useAsked } from './asked';
import { chartText, chartTip } from './chartPens';
import { Page } from './Page';

/** More of a seam measured than this is written in bold. */
const DENSE = 0.2;
/** One kind of seam of one crew. */
type Cell = z.infer<typeof LookCell>;
/** A plan asks for no more than so many times the usual, and for no less than this part of it. */
const [MOST_TIMES, LEAST_TIMES] = [4, 0.25];

/** How many times as many places as on the average seam are measured, held within what a plan may ask. */
function timesOf(cell: Cell, cells: readonly Cell[]): number {
  const density = (list: readonly Cell[]) =>
    list.reduce((n, c) => n + c.readings, 0) / list.reduce((n, c) => n + c.feet, 0);
  const times = density([cell]) / density(cells);
  return Math.min(MOST_TIMES, Math.max(LEAST_TIMES, Math.round(times * 4) / 4));
}

/** So much room the name of a kind of seam and the names of the crews need, px. */
const GROUP_PX = 74;
const CREWS_PX = 128;

/** Crews against kinds of seam: the darker, the more of it is measured. */
function LookChart({ cells, words }: { cells: readonly Cell[]; words: string }) {
  const { t, i18n } = useTranslation();
  const { theme } = usePreferences();
  const box = useEchart(() => {
    const crews = [...new Set(cells.map((c) => c.name))].sort().reverse();
    const groups = [...new Set(cells.map((c) => c.group))];
    return {
      animation: false,
      grid: { left: 116, right: 12, top: 8, bottom: 62 },
      tooltip: {
        ...chartTip(),
        formatter: (p: { value: [number, number, number] }) =>
          `${crews[p.value[1]]}, ${t(`elementGroup.${groups[p.value[0]]}`)}: ${percentIn(i18n.language, p.value[2])} %`,
      },
      xAxis: {
        type: 'category',
        data: groups.map((g) => t(`elementGroup.${g}`)),
        axisLabel: { ...chartText(), fontSize: 13, lineHeight: 16, interval: 0, width: 62, overflow: 'break' },
      },
      yAxis: { type: 'category', data: crews, axisLabel: { ...chartText(), interval: 0 } },
      visualMap: {
        show: false,
        min: 0,
        max: Math.max(0.01, ...cells.map((c) => c.measured)),
        dimension: 2,
        inRange: { color: [themeColour('leaf'), themeColour('rule'), themeColour('rule'), themeColour('edge')] },
      },
      series: [
        {
          type: 'heatmap',
          data: cells.map((c) => ({
            value: [groups.indexOf(c.group), crews.indexOf(c.name), c.measured],
            label: { fontWeight: c.measured > DENSE ? ('bold' as const) : ('normal' as const) },
          })),
          label: {
            show: true,
            formatter: (p: { value: [number, number, number] }) => `${percentIn(i18n.language, p.value[2])} %`,
            ...chartText(),
            color: themeColour('ink'),
          },
          itemStyle: { borderColor: themeColour('hair'), borderWidth: 1 },
        },
      ],
    };
  }, [cells, theme, t, i18n.language]);
  // Each kind of seam keeps room for its name: on a phone the plan is moved sideways.
  const wide = GROUP_PX * new Set(cells.map((c) => c.group)).size + CREWS_PX;
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what is wider than the screen has to be scrolled with the keyboard too
    <section tabIndex={0} aria-label={words} className="h-full min-h-80 w-full overflow-x-auto">
      <div
        ref={box}
        className="h-full min-h-80 w-full"
        style={{ minWidth: wide }}
        role="img"
        aria-label={words}
        data-testid="look-plan"
      />
    </section>
  );
}

/** Nothing was worked out yet. */
const NO_CELLS: readonly Cell[] = [];

/** The columns of the plan. */
function useColumns(cells: readonly Cell[]): Column<Cell>[] {
  const { t, i18n } = useTranslation();
  const { language } = i18n;
  return useMemo((): Column<Cell>[] => {
    return [
      { key: 'crew', label: t('across.look.crew'), by: (c) => c.name, cell: (c) => c.name },
      {
        key: 'group',
        label: t('across.look.group'),
        by: (c) => t(`elementGroup.${c.group}`),
        cell: (c) => t(`elementGroup.${c.group}`),
      },
      { key: 'rate', label: t('across.look.rate'), by: (c) => c.rate, cell: (c) => figureIn(language, c.rate, 2) },
      { key: 'feet', label: t('across.look.feet'), by: (c) => c.feet, cell: (c) => figureIn(language, c.feet, 0) },
      { key: 'places', label: t('across.look.places'), by: (c) => c.readings, cell: (c) => c.readings },
      {
        key: 'measured',
        label: t('across.look.measured'),
        by: (c) => c.measured,
        cell: (c) => `${percentIn(language, c.measured)} %`,
      },
      {
        key: 'times',
        label: t('across.look.times'),
        by: (c) => timesOf(c, cells),
        cell: (c) => `× ${figureIn(language, timesOf(c, cells), 2)}`,
      },
    ];
  }, [t, language, cells]);
}

/** Where should I look harder: readings where the next one finds the most; accepted, tablets propose more places there and say why. */
export function LookPage() {
  const { t, i18n } = useTranslation();
  const asked = useAsked();
  const { language } = i18n;
  const sync = useStore((s) => s.sync);
  const path = `/api/across/look?${asked.query(['readings'])}`;
  const answer = useList(LookAnswer, path);
  const { change, problem, busy } = useChange([path]);
  const accept = async (cells: LookPlan['cells']) => {
    if (await change(LookPlan, 'PUT', '/api/across/look', { cells })) await sync();
  };
  const columns = useColumns(answer.data?.cells ?? NO_CELLS);
  return (
    <Loaded answer={answer}>
      {(data) => {
        const says = lookSentence(t, language, data);
        const inForce = data.plan !== null && data.plan.cells.length > 0 ? data.plan : null;
        const plan = data.cells.map((c) => ({ crew: c.crew, group: c.group, times: timesOf(c, data.cells) }));
        return (
          <Page
            says={[
              says,
              inForce
                ? t('across.look.inForce', {
                    at: new Date(inForce.acceptedAt).toLocaleDateString(language),
                    by: inForce.acceptedBy,
                    more: inForce.cells.filter((c) => c.times > 1).length,
                  })
                : t('across.look.notInForce'),
            ]}
            behind={data.behind}
            asked={asked}
            fields={[]}
            more={
              <>
                <TextField
                  label={t('across.look.readings')}
                  inputMode="numeric"
                  defaultValue={asked.get('readings') || '400'}
                  onBlur={(e) => /^\d{1,5}$/.test(e.target.value) && asked.set({ readings: e.target.value })}
                />
                <button
                  type="button"
                  className="key key-main"
                  disabled={busy || plan.length === 0}
                  onClick={() => void accept(plan)}
                >
                  {t('across.look.accept')}
                </button>
                {inForce && (
                  <button type="button" className="key" disabled={busy} onClick={() => void accept([])}>
                    {t('across.look.end')}
                  </button>
                )}
              </>
            }
            note={t('across.look.least', { least: data.least })}
          >
            <Problem text={problem} />
            <div className="grid h-full min-h-0 grid-cols-[1fr_1fr] gap-3 max-lg:grid-cols-1">
              <LookChart cells={data.cells} words={`${t('across.look.chart')}. ${says}`} />
              <div className="min-h-0 overflow-y-auto max-lg:overflow-visible">
                <DataTable
                  label={t('across.look.table')}
                  rows={data.cells}
                  columns={columns}
                  rowId={(c) => `${c.crew} ${c.group}`}
                  empty={t('across.say.lookNone')}
                />
              </div>
            </div>
          </Page>
        );
      }}
    </Loaded>
  );
}
