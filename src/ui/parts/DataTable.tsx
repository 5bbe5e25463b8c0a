'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState, type ReactNode } from 'react';
import { compareRows } from '@/core/tables/order';
import { classes } from './classes';
import { Definition } from './Definition';
import { ListOrder } from './ListOrder';
import { usePrinting } from './usePrinting';

export type Sortable = string | number | null;

export interface DataColumn<R> {
  readonly key: string;
  readonly label: string;
  /** The definition of the figure, behind an “i”. */
  readonly means?: string;
  readonly right?: boolean;
  /** Sentences break into lines; names and figures stay on one. */
  readonly wraps?: boolean;
  readonly value: (row: R) => Sortable;
  readonly show?: (row: R) => ReactNode;
}

export interface Sort {
  readonly by: string;
  readonly down: boolean;
}

/** Longer tables draw only the rows in sight, but on paper all of them. */
const MOST_DRAWN = 150;
const ROW_HEIGHT = 30;

interface Props<R> {
  readonly label: string;
  readonly columns: readonly DataColumn<R>[];
  readonly rows: readonly R[];
  readonly idOf: (row: R) => number | string;
  readonly start: Sort;
  readonly onSort?: (sort: Sort) => void;
  readonly picked?: ReadonlySet<number>;
  readonly onPick?: (row: R) => void;
  readonly nameOf?: (row: R) => string;
  readonly pickId?: (row: R) => number;
  readonly empty: string;
}

/** A table that is sorted by a click on its head; rows can be picked where a picker is given. */
export function DataTable<R>({
  label,
  columns,
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
  const [sort, setSort] = useState(start);
  const ordered = useMemo(() => {
    const column = columns.find((c) => c.key === sort.by);
    return column ? [...rows].sort(compareRows(column.value, sort.down)) : rows;
  }, [rows, columns, sort]);
  const by = (column: DataColumn<R>) => {
    const next = {
      by: column.key,
      // Figures are asked for from the top first, names from A.
      down: sort.by === column.key ? !sort.down : column.right === true,
    };
    setSort(next);
    onSort?.(next);
  };
  const box = useRef<HTMLDivElement>(null);
  const printing = usePrinting();
  const whole = printing || ordered.length <= MOST_DRAWN;
  // The rows that it hands out are read anew with every drawing; nothing of it is kept.
  // eslint-disable-next-line react-hooks/incompatible-library
  const down = useVirtualizer({
    count: ordered.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
    enabled: !whole,
  });
  if (rows.length === 0) return <p className="text-muted p-4">{empty}</p>;
  const inSight = whole ? null : down.getVirtualItems();
  const shown = inSight ? inSight.map((v) => ordered[v.index]!) : ordered;
  const above = inSight?.at(0)?.start ?? 0;
  const below = inSight ? down.getTotalSize() - (inSight.at(-1)?.end ?? 0) : 0;
  const first = inSight?.at(0)?.index ?? 0;
  const table = (
    <div
      ref={box}
      className="border-line bg-panel max-h-[calc(100vh-17rem)] min-h-64 overflow-auto rounded-lg border print:max-h-none print:overflow-visible"
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
              <th className="border-line w-8 border-b px-2">
                <span className="sr-only">Picked</span>
              </th>
            ) : null}
            {columns.map((c) => (
              <th
                key={c.key}
                aria-sort={sort.by === c.key ? (sort.down ? 'descending' : 'ascending') : undefined}
                className={classes(
                  'border-line border-b px-2.5 py-1.5 align-bottom text-[13px] leading-tight',
                  c.right ? 'text-right' : 'text-left',
                )}
              >
                <span className={classes('inline-flex items-end gap-1', c.right && 'justify-end')}>
                  <button
                    type="button"
                    onClick={() => by(c)}
                    className={classes(
                      'min-h-6 min-w-6 font-semibold hover:underline',
                      // A short label stays on one line; a long one may take two.
                      c.label.length <= 13 && 'whitespace-nowrap',
                      c.right ? 'text-right' : 'text-left',
                    )}
                  >
                    {c.label}
                    {sort.by === c.key ? (
                      <span aria-hidden className="text-muted">
                        {sort.down ? ' ▾' : ' ▴'}
                      </span>
                    ) : null}
                  </button>
                  {c.means ? <Definition of={c.label}>{c.means}</Definition> : null}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {above > 0 ? <Spacer height={above} /> : null}
          {shown.map((row, i) => {
            const isPicked = pickId != null && picked?.has(pickId(row));
            return (
              <tr
                key={idOf(row)}
                ref={whole ? undefined : down.measureElement}
                data-index={first + i}
                aria-rowindex={whole ? undefined : first + i + 2}
                className={isPicked ? 'bg-amber-wash' : undefined}
              >
                {onPick ? (
                  <td className="border-line/70 border-b px-2">
                    <input
                      type="checkbox"
                      className="accent-teal size-3.5 align-middle"
                      aria-label={`Pick ${nameOf?.(row) ?? ''}`}
                      checked={isPicked ?? false}
                      onChange={() => onPick(row)}
                    />
                  </td>
                ) : null}
                {columns.map((c) => (
                  <td
                    key={c.key}
                    className={classes(
                      'border-line/70 border-b px-2.5 py-1',
                      c.right && 'text-right',
                      !c.wraps && 'max-w-60 truncate',
                    )}
                  >
                    {c.show ? c.show(row) : (c.value(row) ?? <span className="text-muted">none</span>)}
                  </td>
                ))}
              </tr>
            );
          })}
          {below > 0 ? <Spacer height={below} /> : null}
        </tbody>
      </table>
    </div>
  );
  if (!pickId) return table;
  return <ListOrder value={() => ordered.map(pickId)}>{table}</ListOrder>;
}

/** Stands for the rows that are not drawn. */
const Spacer = ({ height }: { readonly height: number }) => (
  <tr aria-hidden style={{ height }}>
    <td />
  </tr>
);
