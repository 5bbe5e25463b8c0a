'use client';
import { memo } from 'react';
import type { SortKey } from '@/core/tables/gradeFilters';
import type { GradeRow } from '@/core/views/gradebook';
import { classes } from '../parts/classes';
import { percentText } from '@/core/format';
import { StudentLink } from '../parts/StudentLink';
import { Tick } from '../parts/Tick';
import { STANDING, SUMMARIES } from './gridSizes';

interface NameProps {
  readonly code: string;
  readonly row: GradeRow;
  readonly rows: readonly GradeRow[];
  readonly sort: SortKey;
  readonly index: number;
  readonly hidesStanding: boolean;
  readonly picked: boolean;
  /** Height of a row. */
  readonly high: number;
  readonly onPick: (row: GradeRow) => void;
}

/** The pinned part of a row: the student and their standing. Scrolling across leaves it as it is. */
const Name = memo(function Name({
  code,
  row,
  rows,
  sort,
  index,
  hidesStanding,
  picked,
  high,
  onPick,
}: NameProps) {
  return (
    <div
      role="row"
      aria-rowindex={index + 3 + SUMMARIES.length}
      className={classes(
        'border-line absolute inset-x-0 flex border-r contain-strict',
        picked ? 'bg-amber-wash' : 'bg-panel',
      )}
      style={{ top: index * high, height: high }}
    >
      <div role="rowheader" className="border-line flex min-w-0 flex-1 items-center gap-2 border-b px-2">
        <Tick
          label={`Select ${row.given} ${row.family}`}
          reached={false}
          checked={picked}
          onChange={() => onPick(row)}
        />
        <span className="truncate">
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
          className="border-line border-b px-2 text-right font-semibold"
          style={{ width: STANDING, lineHeight: `${high - 1}px` }}
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

interface Props extends Omit<NameProps, 'row' | 'index' | 'picked'> {
  /** Rows in sight. */
  readonly shown: readonly number[];
  readonly picked: ReadonlySet<number>;
  readonly width: number;
}

/** Names and standings as one pinned column: a pinned box a row would each be a layer of its own to draw. */
export function GridNames({ shown, picked, width, ...rest }: Props) {
  const { rows, high } = rest;
  return (
    <div role="rowgroup" className="sticky left-0 z-10" style={{ width, height: rows.length * high }}>
      {shown.map((index) => {
        const row = rows[index]!;
        return (
          <Name
            key={row.enrolmentId}
            row={row}
            index={index}
            picked={picked.has(row.enrolmentId)}
            {...rest}
          />
        );
      })}
    </div>
  );
}
