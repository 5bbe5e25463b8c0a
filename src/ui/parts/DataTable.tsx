'use client';
import {
  createSortedRowModel,
  rowSortingFeature,
  tableFeatures,
  useTable,
  type ColumnDef,
} from '@tanstack/react-table';
import { useEffect, useMemo, useRef, type ReactNode } from 'react';
import { compareValues } from '@/core/tables/order';
import { sortOf, sortText, type Column } from '@/core/tables/table';
import { classes } from './classes';
import { Tick } from './Tick';
import { Definition } from './Definition';
import { ListOrder } from './ListOrder';
import type { RowProps } from './LongRows';
import { useLater } from './useLater';
import { usePrinting } from './usePrinting';

const features = tableFeatures({ rowSortingFeature, sortedRowModel: createSortedRowModel() });

/** A column as the table library has it. Its order is that of files: by the value, and what is not known comes last. */
const defined = <R extends object>(c: Column<R>): ColumnDef<typeof features, R> => ({
  id: c.key,
  accessorFn: (row) => c.value(row) ?? undefined,
  sortFn: (a, b, key) => compareValues(a.getValue<string | number>(key), b.getValue<string | number>(key)),
  sortUndefined: 'last',
  // Figures are asked for from the top first, names from A.
  sortDescFirst: c.right === true,
});

/** Longer tables draw only the rows in sight, but on paper all of them. */
const MOST_DRAWN = 150;
const FIRST_DRAWN = 40;

const loadLongRows = () => import('./LongRows');

interface Props<R> {
  readonly label: string;
  readonly columns: readonly Column<R>[];
  /** Cells that are more than their words, by the key of their column. */
  readonly show?: Readonly<Record<string, (row: R) => ReactNode>>;
  readonly rows: readonly R[];
  readonly idOf: (row: R) => number | string;
  /** Order to begin with, as an address says it. */
  readonly start: string;
  readonly onSort?: (sort: string) => void;
  readonly picked?: ReadonlySet<number>;
  readonly onPick?: (row: R) => void;
  readonly nameOf?: (row: R) => string;
  readonly pickId?: (row: R) => number;
  readonly empty: string;
}

/** A table that is sorted by a click on its head; rows can be picked where a picker is given. */
export function DataTable<R extends object>({
  label,
  columns,
  show = {},
  rows,
  idOf,
  start,
  onSort,
  picked,
  onPick,
  nameOf,
  pickId,
  empty,
}: Props<R>) {
  const { by, down: falls } = sortOf(start);
  const table = useTable({
    features,
    data: rows,
    columns: useMemo(() => columns.map(defined), [columns]),
    getRowId: (row) => String(idOf(row)),
    initialState: { sorting: [{ id: by, desc: falls }] },
    enableSortingRemoval: false,
    enableMultiSort: false,
  });
  const ordered = table.getRowModel().rows;
  const { headers } = table.getHeaderGroups()[0]!;
  const columnOf = new Map(columns.map((c) => [c.key, c]));
  const box = useRef<HTMLDivElement>(null);
  const printing = usePrinting();
  const whole = printing || ordered.length <= MOST_DRAWN;
  const { Part: LongRows, ask } = useLater(loadLongRows);
  useEffect(() => {
    if (!whole) ask();
    // Asked for once; what asks may be made anew with each drawing.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [whole]);
  if (rows.length === 0) return <p className="text-muted p-4">{empty}</p>;
  /** The first column stays while the others scroll by under its shadow. */
  const pinned = classes(
    'sticky shadow-[1px_0_0_var(--line)]',
    onPick ? 'left-8' : 'left-0',
    'print:static print:shadow-none',
  );
  const drawRow = (drawn: (typeof ordered)[number], more: RowProps) => {
    const row = drawn.original;
    const isPicked = pickId != null && picked?.has(pickId(row));
    return (
      <tr key={drawn.id} {...more} className={isPicked ? 'bg-amber-wash' : undefined}>
        {onPick ? (
          <td
            className={classes(
              'border-line/70 sticky left-0 border-b px-2',
              isPicked ? 'bg-amber-wash' : 'bg-panel',
            )}
          >
            <Tick
              label={`Select ${nameOf?.(row) ?? ''}`}
              checked={isPicked ?? false}
              onChange={() => onPick(row)}
            />
          </td>
        ) : null}
        {drawn.getAllCells().map(({ column: { id } }, at) => {
          const c = columnOf.get(id)!;
          return (
            <td
              key={id}
              className={classes(
                'border-line/70 border-b px-2 py-1 max-sm:h-11 max-sm:[&_a]:py-4',
                at === 0 && pinned,
                at === 0 && (isPicked ? 'bg-amber-wash' : 'bg-panel'),
                c.right && 'text-right',
                !c.wraps && 'max-w-60 truncate',
              )}
            >
              {show[id]?.(row) || cellText(c, row)}
            </td>
          );
        })}
      </tr>
    );
  };
  const drawing = (
    <div
      ref={box}
      className="border-line bg-panel relative max-h-[calc(100vh-17rem)] min-h-64 overflow-auto rounded-lg border print:max-h-none print:overflow-visible"
      role="region"
      aria-label={label}
      tabIndex={0}
    >
      <table
        aria-rowcount={whole ? undefined : ordered.length + 1}
        className="w-full border-separate border-spacing-0"
      >
        <thead className="bg-panel sticky top-0 z-10">
          <tr>
            {onPick ? (
              <th className="border-line bg-panel sticky left-0 z-10 w-8 border-b px-2">
                <span className="sr-only">Selected</span>
              </th>
            ) : null}
            {headers.map(({ id, column }, at) => {
              const c = columnOf.get(id)!;
              const sorted = column.getIsSorted();
              const next = column.getNextSortingOrder();
              return (
                <th
                  key={id}
                  aria-sort={sorted ? (sorted === 'desc' ? 'descending' : 'ascending') : undefined}
                  className={classes(
                    'border-line border-b px-2 py-1.5 align-bottom text-[13px] leading-tight',
                    at === 0 && pinned,
                    at === 0 && 'bg-panel z-10',
                    c.right ? 'text-right' : 'text-left',
                  )}
                >
                  <span className={classes('inline-flex items-end gap-1', c.right && 'justify-end')}>
                    <button
                      type="button"
                      onClick={() => {
                        column.toggleSorting(next === 'desc');
                        onSort?.(sortText({ by: id, down: next === 'desc' }));
                      }}
                      className={classes(
                        'min-h-6 min-w-6 font-semibold hover:underline',
                        // A short label stays on one line; a long one may take two.
                        c.label.length <= 10 && 'whitespace-nowrap',
                        c.right ? 'text-right' : 'text-left',
                      )}
                    >
                      {c.label}
                      {sorted ? (
                        <span aria-hidden className="text-muted">
                          {sorted === 'desc' ? ' ▾' : ' ▴'}
                        </span>
                      ) : null}
                    </button>
                    {c.means ? <Definition of={c.label}>{c.means}</Definition> : null}
                  </span>
                </th>
              );
            })}
          </tr>
        </thead>
        <tbody>
          {whole ? (
            ordered.map((row) => drawRow(row, {}))
          ) : LongRows ? (
            <LongRows box={box} count={ordered.length} draw={(at, more) => drawRow(ordered[at]!, more)} />
          ) : (
            // As many as are in sight at first, until what steps through the others is there.
            ordered.slice(0, FIRST_DRAWN).map((row) => drawRow(row, {}))
          )}
        </tbody>
      </table>
    </div>
  );
  if (!pickId) return drawing;
  return <ListOrder value={() => ordered.map((r) => pickId(r.original))}>{drawing}</ListOrder>;
}

function cellText<R>({ words, value }: Column<R>, row: R): ReactNode {
  if (words) return words(row);
  return value(row) ?? <span className="text-muted">none</span>;
}
