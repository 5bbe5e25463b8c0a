'use client';
import { useState } from 'react';
import { pickedFor } from '@/core/acts/pick';
import type { GridCell } from '@/core/items/grid';
import { itemGridTable, itemsInOrder } from '@/core/tables/itemGrid';
import { studentColumn } from '@/core/tables/people';
import type { ItemGridRow, ItemsView } from '@/core/views/items';
import { classes } from '../parts/classes';
import { Chips } from '../parts/Chips';
import { DataTable } from '../parts/DataTable';
import { StudentLink } from '../parts/StudentLink';
import { usePick } from '../parts/usePick';
import { TrailSheet } from './TrailSheet';

const WAY_WORDS: Readonly<Record<GridCell['way'], string>> = {
  'at once': 'right at once',
  later: 'wrong at first, right later',
  'by trying': 'right only after trying several answers',
  not: 'not right yet',
  unknown: 'not scored yet',
};

/** A short answer stands in the cell; a long one opens. */
const SHORT = 9;

/** The answers of each student to each item: what was answered first, and a small mark where it was put right later. */
export default function AnswerGrid({
  view,
  order,
  onOrder,
  sort,
  onSort,
}: {
  readonly view: ItemsView;
  readonly order: string | null;
  readonly onOrder: (order: string | null) => void;
  readonly sort: string;
  readonly onSort: (sort: string) => void;
}) {
  const { code } = view.course;
  const { picked, toggle } = usePick(view);
  const [opened, setOpened] = useState<{ row: ItemGridRow; item: string } | null>(null);
  const cell = (item: string) =>
    function Cell(row: ItemGridRow) {
      const found = row.cells[item];
      if (!found) return null;
      const isRight = found.first != null && found.first >= 1;
      return (
        <button
          type="button"
          aria-label={`${item} of ${row.given} ${row.family}: “${found.answer}”, ${WAY_WORDS[found.way]}`}
          className={classes(
            'hover:bg-amber-wash inline-flex min-h-6 min-w-10 items-center gap-1 rounded px-1.5 text-left max-sm:min-h-11',
            isRight ? 'text-teal font-semibold' : 'text-plum',
            found.tooQuick && 'italic opacity-75',
          )}
          onClick={() => setOpened({ row, item })}
        >
          {found.answer.length > SHORT ? `${found.answer.slice(0, SHORT - 1)}…` : found.answer || 'left out'}
          {found.way === 'later' || found.way === 'by trying' ? (
            <span aria-hidden className="text-teal text-[11px]">
              {found.way === 'later' ? '›' : '››'}
            </span>
          ) : null}
        </button>
      );
    };
  const items = itemsInOrder(view, order);
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <Chips
          label="Items"
          value={order === 'hardest' ? 'hardest' : 'asked'}
          options={[
            { value: 'asked', label: 'As asked' },
            { value: 'hardest', label: 'Hardest first' },
          ]}
          onChange={(v) => onOrder(v === 'asked' ? null : v)}
        />
        <p className="text-muted text-[13px]">
          First answers: right in teal, wrong in plum. › put right later, ›› only after trying several;
          slanted came faster than it can be read. Enter opens the trail.
        </p>
      </div>
      <DataTable
        label="Answers of each student"
        columns={itemGridTable.columns(view, { order })}
        show={{
          name: (r) => (
            <StudentLink code={code} id={r.enrolmentId} from="items">
              {studentColumn.words!(r)}
            </StudentLink>
          ),
          ...Object.fromEntries(items.map((item) => [`i:${item}`, cell(item)])),
        }}
        rows={itemGridTable.rows(view, {})}
        idOf={(r) => r.enrolmentId}
        start={sort}
        onSort={onSort}
        picked={picked}
        pickId={(r) => r.enrolmentId}
        nameOf={(r) => `${r.given} ${r.family}`}
        onPick={(r) => toggle(r.enrolmentId, pickedFor('selected from the answers', 'other', view.quiz!.id))}
        empty="Nobody has answered anything yet."
      />
      {opened ? (
        <TrailSheet
          code={code}
          activityId={view.quiz!.id}
          item={opened.item}
          enrolmentId={opened.row.enrolmentId}
          name={`${opened.row.given} ${opened.row.family}`}
          zone={view.course.zone}
          onClose={() => setOpened(null)}
        />
      ) : null}
    </>
  );
}
