'use client';
import { memo, type ReactNode } from 'react';
import { bandAt, gradeMatches, statusAt, type GradeFilter, type SortKey } from '@/core/gradebook/filters';
import type { GradebookView, GradeRow } from '@/core/views/gradebook';
import { classes } from '../parts/classes';
import { percentText } from '../parts/format';
import { StudentLink } from '../parts/StudentLink';
import { cellLabel } from './cellLabel';
import { GradeCell } from './GradeCell';
import { CELL, HEAD, ROW, STANDING, SUMMARIES } from './gridSizes';

interface NameProps {
  readonly code: string;
  readonly row: GradeRow;
  readonly rows: readonly GradeRow[];
  readonly sort: SortKey;
  readonly width: number;
  readonly hidesStanding: boolean;
  readonly picked: boolean;
  readonly onPick: (row: GradeRow) => void;
}

/** The pinned part of a row: the student and their standing. Scrolling across leaves it as it is. */
const Name = memo(function Name({ code, row, rows, sort, width, hidesStanding, picked, onPick }: NameProps) {
  return (
    <div
      className={classes(
        'border-line sticky left-0 z-10 flex h-full border-r',
        picked ? 'bg-amber-wash' : 'bg-panel',
      )}
      style={{ width }}
    >
      <div role="rowheader" className="border-line flex min-w-0 flex-1 items-center gap-2 border-b px-2">
        <input
          type="checkbox"
          tabIndex={-1}
          className="accent-teal size-3.5 shrink-0"
          aria-label={`Pick ${row.given} ${row.family}`}
          checked={picked}
          onChange={() => onPick(row)}
        />
        <span
          className="truncate"
          title={`${row.family}, ${row.given}${row.section ? ` · ${row.section}` : ''}`}
        >
          <StudentLink
            code={code}
            id={row.enrolmentId}
            from="gradebook"
            list={() => rows.map((r) => r.enrolmentId)}
          >
            {sort === 'given' ? `${row.given} ${row.family}` : `${row.family}, ${row.given}`}
          </StudentLink>
        </span>
      </div>
      {hidesStanding ? null : (
        <div
          role="gridcell"
          className="border-line border-b px-2 text-right leading-[26px] font-semibold"
          style={{ width: STANDING }}
        >
          {row.standing == null ? (
            <span className="text-muted font-normal">none yet</span>
          ) : (
            percentText(row.standing)
          )}
        </div>
      )}
    </div>
  );
});

interface Props {
  readonly view: GradebookView;
  readonly row: GradeRow;
  readonly rows: readonly GradeRow[];
  readonly index: number;
  readonly places: readonly number[];
  /** First and last column in sight. */
  readonly from: number;
  readonly to: number;
  readonly fixed: number;
  readonly filter: GradeFilter | null;
  readonly sort: SortKey;
  readonly hidesStanding: boolean;
  readonly picked: boolean;
  /** The column that has the keyboard, if it is in this row. */
  readonly active: number | null;
  /** What is typed into, if it is in this row. */
  readonly editor: ReactNode;
  readonly onPick: (row: GradeRow) => void;
  readonly onFocus: (row: number, column: number) => void;
  readonly onOpen: (row: number, column: number) => void;
}

/** One student of the grid, with the works in sight. Drawn again only when something of it changes. */
export const GridRow = memo(function GridRow({
  view,
  row,
  rows,
  index,
  places,
  from,
  to,
  fixed,
  filter,
  sort,
  hidesStanding,
  picked,
  active,
  editor,
  onPick,
  onFocus,
  onOpen,
}: Props) {
  return (
    <div
      role="row"
      aria-rowindex={index + 3 + SUMMARIES.length}
      className="absolute inset-x-0"
      style={{ top: HEAD + index * ROW, height: ROW }}
    >
      <Name
        code={view.course.code}
        row={row}
        rows={rows}
        sort={sort}
        width={fixed}
        hidesStanding={hidesStanding}
        picked={picked}
        onPick={onPick}
      />
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
