'use client';
import { memo, type ReactNode } from 'react';
import { bandAt, gradeMatches, statusAt, type GradeFilter } from '@/core/tables/gradeFilters';
import type { GradebookView, GradeRow } from '@/core/views/gradebook';
import { cellLabel } from './cellLabel';
import { GradeCell } from './GradeCell';
import { CELL, HEAD, SUMMARIES } from './gridSizes';

interface Props {
  readonly view: GradebookView;
  readonly row: GradeRow;
  readonly index: number;
  readonly places: readonly number[];
  /** First and last column in sight. */
  readonly from: number;
  readonly to: number;
  readonly fixed: number;
  /** Height of a row. */
  readonly high: number;
  readonly filter: GradeFilter | null;
  /** The column that has the keyboard, if it is in this row. */
  readonly active: number | null;
  /** What is typed into, if it is in this row. */
  readonly editor: ReactNode;
  readonly onFocus: (row: number, column: number) => void;
  readonly onOpen: (row: number, column: number) => void;
}

/** One student of the grid, with the works in sight. Drawn again only when something of it changes. */
export const GridRow = memo(function GridRow({
  view,
  row,
  index,
  places,
  from,
  to,
  fixed,
  high,
  filter,
  active,
  editor,
  onFocus,
  onOpen,
}: Props) {
  return (
    <div
      role="row"
      aria-rowindex={index + 3 + SUMMARIES.length}
      className="absolute inset-x-0 contain-[layout_style]"
      style={{ top: HEAD + index * high, height: high }}
    >
      {places.slice(from, to + 1).map((place, i) => {
        const c = from + i;
        const column = view.columns[place]!;
        const found = filter != null && gradeMatches(row, column, place, filter, view.bands);
        return (
          <GradeCell
            key={column.id}
            id={`cell-${index}-${c}`}
            left={fixed + c * CELL}
            width={CELL}
            row={index}
            column={c}
            status={statusAt(row, place)}
            points={row.points[place] ?? null}
            late={row.late.includes(place)}
            band={bandAt(row, column, place, view.bands)}
            active={c === active}
            found={found}
            dimmed={filter != null && !found}
            label={cellLabel(row, column, place)}
            onFocus={onFocus}
            onOpen={onOpen}
          >
            {c === active ? editor : null}
          </GradeCell>
        );
      })}
    </div>
  );
});
