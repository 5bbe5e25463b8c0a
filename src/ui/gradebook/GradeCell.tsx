import { memo, useRef, type ReactNode } from 'react';
import type { Band } from '@/core/gradebook/bands';
import type { CellStatus } from '@/core/gradebook/status';
import { classes } from '../parts/classes';

interface Props {
  readonly id: string;
  readonly left: number;
  readonly width: number;
  readonly column: number;
  readonly row: number;
  readonly status: CellStatus;
  readonly points: number | null;
  readonly late: boolean;
  readonly band: Band | null;
  readonly active: boolean;
  /** A filter is on: whether the cell is of what is asked for. */
  readonly found: boolean;
  readonly dimmed: boolean;
  readonly label: string;
  readonly onFocus: (row: number, column: number) => void;
  readonly onOpen: (row: number, column: number) => void;
  readonly children?: ReactNode;
}

/** What stands in a cell; the status is always a word or a figure, never only a colour. */
function content(status: CellStatus, points: number | null, late: boolean, low: boolean): ReactNode {
  switch (status) {
    case 'graded':
      return (
        <>
          {late ? (
            <>
              <span className={classes('text-[11px] font-normal', low ? 'text-ink' : 'text-ochre')}>
                late
              </span>
              &nbsp;
            </>
          ) : null}
          {points}
        </>
      );
    case 'missing':
      return <span className="text-plum text-xs">missing</span>;
    case 'late':
      return <span className="text-teal text-[11px] font-semibold tracking-tight">late, to grade</span>;
    case 'awaiting grade':
      return <span className="text-teal text-xs font-semibold">to grade</span>;
    case 'excused':
      return <span className="text-muted text-xs italic">excused</span>;
    case 'submitted':
      return <span className="text-xs">handed in</span>;
    case 'no due date':
      return <span className="text-muted text-xs">no date</span>;
    case 'before joining':
      return <span className="text-muted text-xs">before</span>;
    case 'not assigned':
      return <span className="text-muted text-xs">not theirs</span>;
    case 'not yet due':
      return points == null ? null : points;
  }
}

export const GradeCell = memo(function GradeCell({
  id,
  left,
  width,
  column,
  row,
  status,
  points,
  late,
  band,
  active,
  found,
  dimmed,
  label,
  onFocus,
  onOpen,
  children,
}: Props) {
  // By touch a second tap opens what the first one marked.
  const second = useRef(false);
  return (
    <div
      id={id}
      role="gridcell"
      aria-colindex={column + 3}
      aria-selected={active}
      aria-label={label}
      onMouseDown={() => onFocus(row, column)}
      onDoubleClick={() => onOpen(row, column)}
      onPointerDown={(e) => {
        second.current = e.pointerType === 'touch' && active;
      }}
      onClick={() => second.current && onOpen(row, column)}
      className={classes(
        // A box of known size that nothing leaves: a cell that comes into sight moves no other.
        'border-line absolute inset-y-0 overflow-hidden border-r border-b px-2 text-right leading-[26px] whitespace-nowrap tabular-nums max-sm:leading-[43px] contain-strict',
        status === 'missing' && 'hatched text-center',
        (status === 'not yet due' || status === 'before joining' || status === 'not assigned') && 'bg-paper',
        band === 'low' && 'bg-low font-bold',
        band === 'high' && 'text-teal font-semibold',
        dimmed && 'text-muted font-normal',
        found && 'shadow-[inset_3px_0_0_var(--amber)]',
        active && 'outline-amber z-[1] outline-2 -outline-offset-2',
      )}
      style={{ left, width }}
    >
      {children ?? content(status, points, late, band === 'low')}
    </div>
  );
});
