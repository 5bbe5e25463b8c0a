'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState, type ReactNode } from 'react';
import { inOrder, sortOf, sortText, type Column } from '@/core/tables/table';
import { classes } from './classes';
import { Definition } from './Definition';
import { ListOrder } from './ListOrder';
import { usePrinting } from './usePrinting';

/** Longer tables draw only the rows in sight, but on paper all of them. */
const MOST_DRAWN = 150;
const ROW_HEIGHT = 30;

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
export function DataTable<R>({
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
  const [sort, setSort] = useState(() => sortOf(start));
  const ordered = useMemo(() => inOrder(rows, columns, sort), [rows, columns, sort]);
  const by = (column: Column<R>) => {
    const next = {
      by: column.key,
      // Figures are asked for from the top first, names from A.
      down: sort.by === column.key ? !sort.down : column.right === true,
    };
    setSort(next);
    onSort?.(sortText(next));
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
                    {show[c.key]?.(row) || cellText(c, row)}
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

function cellText<R>({ words, value }: Column<R>, row: R): ReactNode {
  if (words) return words(row);
  return value(row) ?? <span className="text-muted">none</span>;
}

/** Stands for the rows that are not drawn. */
const Spacer = ({ height }: { readonly height: number }) => (
  <tr aria-hidden style={{ height }}>
    <td />
  </tr>
);
