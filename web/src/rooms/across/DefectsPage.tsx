import {
  type DEFECT_ORDERS,
  type DefectChoices,
  type DefectLine,
  DefectList,
} from '@careful-seam/contract/api/defects';
import { useMemo } from 'react';
import { useTranslation } from 'react-i18next';
import { Link } from 'react-router';
import { useStore } from '../../tablet/store';
import { useList } from '../../tablet/useList';
import { type Column, DataTable, type Order } from '../../ui/DataTable';
import { SelectField } from '../../ui/fields';
import { Loaded } from '../../ui/Loaded';
import { AskFields } from './AskFields';
import { type Asked, FILTER_KEYS, useAsked } from './asked';
import { OldDefects } from './OldDefects';
import { useChoices } from './Page';

/** Rows of a page, as the server gives them. */
const PAGE = 100;
/** Columns that are shown where nobody chose. */
const USUAL = ['shower', 'kind', 'group', 'crew', 'stageFound', 'severity', 'cause', 'step', 'found'];
/** Columns that rows can be grouped by, with the order that keeps each group together. */
const GROUPS: Readonly<Record<string, string>> = {
  kind: 'kind',
  crew: 'crew',
  severity: 'severity',
  cause: 'cause',
  stageFound: 'stage',
  job: 'job',
};
/** Columns by which the server puts rows in order. */
const ORDER_OF: Readonly<Record<string, (typeof DEFECT_ORDERS)[number]>> = {
  found: 'found',
  closed: 'closed',
  kind: 'kind',
  crew: 'crew',
  job: 'job',
  severity: 'severity',
  cause: 'cause',
  stageFound: 'stage',
};

/** What each column shows. */
function useCells(): Readonly<Record<string, (line: DefectLine) => string>> {
  const { t, i18n } = useTranslation();
  return useMemo(() => {
    const day = (at: string | null) => (at === null ? '' : new Date(at).toLocaleDateString(i18n.language));
    const maker = (l: DefectLine) => l.crew ?? t(l.madeBy === 'house' ? 'defect.house' : 'defect.makerUnknown');
    return {
      job: (l) => l.job,
      kind: (l) => l.kind,
      group: (l) => t(`elementGroup.${l.group}`),
      crew: maker,
      fixer: (l) => l.fixer ?? '',
      stageMade: (l) => l.stageMade,
      stageFound: (l) => l.stageFound,
      severity: (l) => t(`severity.${l.severity}`),
      cause: (l) => l.cause,
      escape: (l) => l.escape,
      step: (l) => t(`defectStep.${l.step}`),
      found: (l) => day(l.foundAt),
      closed: (l) => day(l.closedAt),
      inspector: (l) => l.inspector ?? '',
      hours: (l) => l.hours?.toLocaleString(i18n.language) ?? '',
      materials: (l) => l.materials?.toLocaleString(i18n.language) ?? '',
      repeats: (l) => (l.repeats === 0 ? '' : String(l.repeats)),
      words: (l) => l.words,
    };
  }, [t, i18n.language]);
}

/** Which columns are shown, ticked in a list that opens. */
function ColumnsMenu({
  shown,
  all,
  onShown,
}: {
  shown: readonly string[];
  all: readonly string[];
  onShown: (columns: string[]) => void;
}) {
  const { t } = useTranslation();
  return (
    <details className="relative">
      <summary className="key flex cursor-pointer items-center">{t('across.columns')}</summary>
      <div className="absolute right-0 z-10 max-h-96 w-64 overflow-y-auto border border-edge bg-leaf p-2">
        {all.map((column) => (
          <label key={column} className="flex min-h-12 items-center gap-2">
            <input
              type="checkbox"
              className="size-5"
              checked={shown.includes(column)}
              onChange={(e) => onShown(all.filter((c) => (c === column ? e.target.checked : shown.includes(c))))}
            />
            {t(`across.column.${column}`)}
          </label>
        ))}
      </div>
    </details>
  );
}

/** The columns of the list, in the order in which they were chosen, with the way to the place on the map. */
function useColumns(keys: string): Column<DefectLine>[] {
  const { t } = useTranslation();
  const cells = useCells();
  return useMemo(
    (): Column<DefectLine>[] => [
      ...keys.split(',').map(
        (key): Column<DefectLine> => ({
          key,
          label: t(`across.column.${key}`),
          ...(key in ORDER_OF ? { by: (line: DefectLine) => cells[key]!(line) } : {}),
          cell: (line) => (key === 'shower' ? `${line.shower}, ${line.job}` : cells[key]!(line)),
        }),
      ),
      {
        key: 'where',
        label: '',
        cell: (line) =>
          line.showerId === null ? (
            <span className="text-soft text-sm">{t('across.old.line')}</span>
          ) : (
            <Link
              to={`/showers/${line.showerId}?stage=${line.stageKey}&element=${encodeURIComponent(line.element)}`}
              className="key inline-flex items-center whitespace-nowrap text-sm"
              aria-label={`${t('across.where')}: ${line.kind}, ${line.shower}`}
            >
              {t('across.where')}
            </Link>
          ),
      },
    ],
    [keys, cells, t],
  );
}

/** All filters, with the key that takes them away. */
function Filters({
  asked,
  choices,
  possible,
}: {
  asked: Asked;
  choices: DefectChoices | null;
  possible: readonly string[];
}) {
  const { t } = useTranslation();
  const on = possible.filter((k) => asked.get(k) !== '');
  return (
    // What is open is asked of itself: only what is asked beside it opens the list.
    <details open={on.some((k) => k !== 'state')} className="border-hair border-b pb-2">
      <summary className="min-h-12 cursor-pointer py-3 font-semibold">
        {on.length > 0 ? t('across.filtersOn', { count: on.length }) : t('across.filters')}
      </summary>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(9rem,1fr))] items-end gap-2">
        <AskFields asked={asked} choices={choices} fields={possible} />
        {on.length > 0 && (
          <button
            type="button"
            className="key"
            onClick={() => asked.set(Object.fromEntries(possible.map((k) => [k, ''])))}
          >
            {t('across.filtersOff')}
          </button>
        )}
      </div>
    </details>
  );
}

/** Every defect of the firm: filtered, put in order, grouped; all of it stands in the address. From a row to its place on the map. */
export function DefectsPage() {
  const { t } = useTranslation();
  const asked = useAsked();
  const choices = useChoices();
  const person = useStore((s) => s.person);
  const cells = useCells();
  const isManager = person?.role === 'manager';
  const possible = ['shower', ...Object.keys(cells)].filter((c) => c !== 'inspector' || isManager);
  const chosen = asked.get('columns');
  const shown = (chosen === '' ? USUAL : chosen.split(',')).filter((c) => possible.includes(c));
  const group = asked.get('by') in GROUPS ? asked.get('by') : '';
  const order: Order = {
    by: group || asked.get('sort') || 'found',
    down: (asked.get('down') || (group ? 'no' : 'yes')) === 'yes',
  };
  const skip = Number(asked.get('skip')) || 0;
  const sorted = new URLSearchParams(asked.query(FILTER_KEYS));
  sorted.set('order', ORDER_OF[order.by] ?? 'found');
  sorted.set('down', order.down ? 'yes' : 'no');
  const path = `/api/defects?${sorted}&skip=${skip}`;
  const answer = useList(DefectList, path);
  const columns = useColumns(shown.join(','));
  return (
    <div className="flex h-full min-h-0 flex-col gap-2">
      <div className="flex flex-wrap items-end gap-2">
        <p className="mr-auto font-bold text-lg" aria-live="polite" data-testid="answer">
          {answer.data && t('across.say.list', { count: answer.data.total })}
        </p>
        <div className="w-48">
          <SelectField
            label={t('across.groupBy')}
            none={t('across.noGroup')}
            options={Object.keys(GROUPS).map((id) => ({ id, label: t(`across.column.${id}`) }))}
            value={group}
            onChange={(e) => asked.set({ by: e.target.value, down: '' })}
          />
        </div>
        <ColumnsMenu shown={shown} all={possible} onShown={(list) => asked.set({ columns: list.join(',') })} />
        {isManager && <OldDefects paths={[path]} />}
        <a className="key flex items-center" href={`/api/defects.csv?${sorted}`} download>
          {t('across.csv')}
        </a>
        <a className="key flex items-center" href={`/api/defects.xlsx?${sorted}`} download>
          {t('across.xlsx')}
        </a>
      </div>
      <Filters asked={asked} choices={choices} possible={FILTER_KEYS.filter((k) => k !== 'inspector' || isManager)} />
      <div className="min-h-0 flex-1 overflow-y-auto max-lg:overflow-visible">
        <Loaded answer={answer} empty={t('across.none')} isEmpty={(d) => d.total === 0}>
          {(list) => (
            <>
              <DataTable
                label={t('across.page.open')}
                rows={list.lines}
                columns={columns}
                rowId={(line) => line.id}
                order={order}
                onOrder={({ by, down }) =>
                  asked.set({ sort: by, down: down ? 'yes' : 'no', by: group && by !== group ? '' : group })
                }
                groupOf={group ? cells[group] : undefined}
              />
              <p className="flex flex-wrap items-center gap-2 py-2">
                <span className="text-soft">
                  {t('across.shown', { from: skip + 1, to: skip + list.lines.length, total: list.total })}
                </span>
                {skip > 0 && (
                  <button
                    type="button"
                    className="key"
                    onClick={() => asked.set({ skip: String(Math.max(0, skip - PAGE)) })}
                  >
                    {t('across.before')}
                  </button>
                )}
                {skip + list.lines.length < list.total && (
                  <button type="button" className="key" onClick={() => asked.set({ skip: String(skip + PAGE) })}>
                    {t('across.next')}
                  </button>
                )}
              </p>
            </>
          )}
        </Loaded>
      </div>
    </div>
  );
}
