import {
  createColumnHelper,
  createSortedRowModel,
  rowSortingFeature,
  type SortingState,
  sortFn_alphanumeric,
  tableFeatures,
  type Updater,
  useTable,
} from '@tanstack/react-table';
import { Fragment, type ReactNode, useMemo } from 'react';
import { useTranslation } from 'react-i18next';

/** One column of a table: its heading, what a row shows in it, and by what it is put in order. */
export interface Column<T> {
  /** Its name, each once. */
  key: string;
  /** Its heading; empty over a column of keys. */
  label: string;
  /** What the rows are put in order by when its heading is tapped; a column without it can't be. */
  by?: (row: T) => string | number;
  /** What a row shows in it. */
  cell: (row: T) => ReactNode;
}

/** What stands in the table. */
interface Props<T> {
  /** What the table is of, for whoever hears it. */
  label: string;
  /** In the order in which they came. */
  rows: readonly T[];
  /** From left to right. */
  columns: readonly Column<T>[];
  /** What tells a row from the others. */
  rowId: (row: T) => string;
  /** Said where there is no row. */
  empty?: string;
  /** The order that the rows come in already, where somebody else puts them in order. */
  order?: Order;
  /** Told of another order; the rows then come in it. */
  onOrder?: (order: Order) => void;
  /** What a row belongs to: rows that follow each other in one stand under its heading. */
  groupOf?: ((row: T) => string) | undefined;
}

/** An order of rows. */
export interface Order {
  /** Key of the column. */
  by: string;
  /** From the last to the first. */
  down: boolean;
}

/** What of the table library is used: putting rows in order. */
const features = tableFeatures({
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric },
});

/** How an order is told to whoever hears it. */
const ARIA_SORT = { asc: 'ascending', desc: 'descending' } as const;
/** How it is shown. */
const ARROW = { asc: ' ↑', desc: ' ↓' } as const;

/**
 * A list of the office as a table: a heading puts its rows in order, a second tap turns them round, a third leaves them as they
 * came. What does not fit the width is scrolled beside, with the keyboard too.
 */
export function DataTable<T extends object>(props: Props<T>) {
  const { label, rows, columns, rowId, empty, order, onOrder, groupOf } = props;
  const { t } = useTranslation();
  const defined = useMemo(() => {
    const helper = createColumnHelper<typeof features, T>();
    return columns.map((column) =>
      helper.accessor((row: T): unknown => column.by?.(row) ?? '', {
        id: column.key,
        header: column.label,
        cell: (cell) => column.cell(cell.row.original),
        enableSorting: column.by !== undefined,
        sortFn: 'alphanumeric',
        sortDescFirst: false,
      }),
    );
  }, [columns]);
  const outside = order !== undefined && onOrder !== undefined;
  const table = useTable({
    features,
    columns: defined,
    data: rows as T[],
    getRowId: rowId,
    ...(outside
      ? {
          manualSorting: true,
          enableSortingRemoval: false,
          state: { sorting: [{ id: order.by, desc: order.down }] },
          onSortingChange: (next: Updater<SortingState>) => {
            const [to] = typeof next === 'function' ? next([{ id: order.by, desc: order.down }]) : next;
            if (to) onOrder({ by: to.id, down: to.desc });
          },
        }
      : {}),
  });
  const shown = table.getRowModel().rows;
  if (rows.length === 0 && empty) return <p className="py-4 text-soft">{empty}</p>;
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what is wider than the screen has to be scrolled with the keyboard too
    <section tabIndex={0} aria-label={label} className="overflow-x-auto">
      <table className="w-full text-left">
        <thead>
          {table.getHeaderGroups().map((group) => (
            <tr key={group.id} className="border-edge border-b text-soft text-sm">
              {group.headers.map((header) => {
                const order = header.column.getIsSorted();
                return (
                  <th key={header.id} className="pr-3 font-normal" aria-sort={order ? ARIA_SORT[order] : undefined}>
                    {header.column.getCanSort() ? (
                      <button
                        type="button"
                        className="min-h-12 min-w-12 whitespace-nowrap text-left underline decoration-dotted underline-offset-4"
                        title={t('table.order')}
                        onClick={header.column.getToggleSortingHandler()}
                      >
                        <table.FlexRender header={header} />
                        <span aria-hidden="true">{order ? ARROW[order] : ''}</span>
                      </button>
                    ) : (
                      <table.FlexRender header={header} />
                    )}
                  </th>
                );
              })}
            </tr>
          ))}
        </thead>
        <tbody>
          {shown.map((row, i) => {
            const group = groupOf?.(row.original);
            const before = i === 0 ? undefined : groupOf?.(shown[i - 1]!.original);
            return (
              <Fragment key={row.id}>
                {group !== undefined && group !== before && (
                  <tr className="border-edge border-b">
                    <th colSpan={columns.length} scope="colgroup" className="pt-3 pb-1 font-bold">
                      {group}
                    </th>
                  </tr>
                )}
                <tr className="border-hair border-b align-middle">
                  {row.getAllCells().map((cell) => (
                    <td key={cell.id} className="py-1.5 pr-3 leading-snug">
                      <table.FlexRender cell={cell} />
                    </td>
                  ))}
                </tr>
              </Fragment>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
