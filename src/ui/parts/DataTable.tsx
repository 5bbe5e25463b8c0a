'use client';
import { useMemo, useState, type ReactNode } from 'react';
import { compareRows } from '@/core/lists/order';
import { classes } from './classes';
import { Definition } from './Definition';

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
  if (rows.length === 0) return <p className="text-muted p-4">{empty}</p>;
  return (
    <div
      className="border-line bg-panel max-h-[calc(100vh-17rem)] min-h-64 overflow-auto rounded-lg border print:max-h-none print:overflow-visible"
      role="region"
      aria-label={label}
      tabIndex={0}
    >
      <table className="w-full border-separate border-spacing-0">
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
          {ordered.map((row) => {
            const isPicked = pickId != null && picked?.has(pickId(row));
            return (
              <tr key={idOf(row)} className={isPicked ? 'bg-amber-wash' : undefined}>
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
        </tbody>
      </table>
    </div>
  );
}
