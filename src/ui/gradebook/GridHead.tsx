'use client';
import { memo, useMemo } from 'react';
import { localDate } from '@/core/calendar/zone';
import type { Summary } from '@/core/gradebook/distribution';
import type { SortKey } from '@/core/tables/gradeFilters';
import type { GradebookView } from '@/core/views/gradebook';
import { classes } from '../parts/classes';
import { oneDigit, shortDay } from '@/core/format';
import { CELL, GROUP_HEAD, HEAD, STANDING, SUMMARIES, SUMMARY, WORK_HEAD } from './gridSizes';

const figure = (s: Summary | null, which: (typeof SUMMARIES)[number]): string => {
  if (!s) return '';
  if (which === 'median') return oneDigit(s.median);
  if (which === 'mean') return oneDigit(s.mean);
  return s.n < 4 ? 'too few' : `${oneDigit(s.low)}–${oneDigit(s.high)}`;
};

interface Props {
  readonly view: GradebookView;
  readonly places: readonly number[];
  /** First and last column in sight. */
  readonly from: number;
  readonly to: number;
  /** Width of the pinned columns. */
  readonly fixed: number;
  readonly sort: SortKey;
  readonly hidesStanding: boolean;
  readonly onSort: (by: SortKey) => void;
  readonly onColumn: (place: number) => void;
}

/** The pinned head: categories with their weight, works with due date and points, and the figures of the class. */
export const GridHead = memo(function GridHead({
  view,
  places,
  from,
  to,
  fixed,
  sort,
  hidesStanding,
  onSort,
  onColumn,
}: Props) {
  const groups = useMemo(() => groupsOf(view, places), [view, places]);
  const shown = places.slice(from, to + 1).map((place, i) => ({ index: from + i, place }));
  return (
    <div
      role="rowgroup"
      className="bg-panel sticky top-0 z-20"
      style={{ height: HEAD, width: fixed + places.length * CELL }}
    >
      <div role="row" className="absolute inset-x-0 top-0" style={{ height: GROUP_HEAD }}>
        {groups.map((g) => (
          <div
            key={g.from}
            role="columnheader"
            aria-colspan={g.count}
            className="border-line absolute inset-y-0 border-r border-b px-2 pt-0.5 text-[13px] leading-tight"
            style={{ left: fixed + g.from * CELL, width: g.count * CELL }}
          >
            <span
              className="sticky inline-block font-semibold"
              style={{ left: fixed + 8, maxWidth: g.count * CELL - 16 }}
            >
              <span className="block truncate">{g.name}</span>
              <span className="text-muted block truncate text-xs font-normal">{g.words}</span>
            </span>
          </div>
        ))}
      </div>
      <div role="row" className="absolute inset-x-0" style={{ top: GROUP_HEAD, height: WORK_HEAD }}>
        {shown.map((v) => {
          const column = view.columns[v.place]!;
          return (
            <div
              key={column.id}
              role="columnheader"
              aria-colindex={v.index + 3}
              className="border-line absolute inset-y-0 flex items-end justify-end border-r border-b px-1.5 pb-1 text-right"
              style={{ left: fixed + v.index * CELL, width: CELL }}
            >
              <button
                type="button"
                tabIndex={-1}
                onClick={() => onColumn(v.place)}
                className="text-right text-[12px] leading-[14px] font-semibold hover:underline"
              >
                <span className="line-clamp-3 break-words">{column.title}</span>
                <span className="text-muted block text-[11px] font-normal whitespace-nowrap">
                  {column.due == null ? 'no date' : shortDay(localDate(column.due, view.course.zone))}
                  {column.points == null ? '' : ` · ${column.points}`}
                </span>
              </button>
            </div>
          );
        })}
      </div>
      {SUMMARIES.map((which, i) => (
        <div
          key={which}
          role="row"
          className="bg-paper absolute inset-x-0"
          style={{ top: GROUP_HEAD + WORK_HEAD + i * SUMMARY, height: SUMMARY }}
        >
          {shown.map((v) => (
            <div
              key={v.place}
              role="gridcell"
              className="border-line text-muted absolute inset-y-0 flex items-center justify-end border-r border-b px-2 text-[13px] whitespace-nowrap"
              style={{ left: fixed + v.index * CELL, width: CELL }}
            >
              {figure(view.columns[v.place]!.summary, which)}
            </div>
          ))}
        </div>
      ))}
      <div
        className="bg-panel border-line sticky left-0 z-10 border-r"
        style={{ width: fixed, height: HEAD }}
      >
        <div
          role="row"
          className="border-line flex items-end border-b"
          style={{ height: GROUP_HEAD + WORK_HEAD }}
        >
          <div role="columnheader" className="flex-1 px-2 pb-1 text-[13px]">
            <span className="font-semibold">Student</span>
            <span className="block space-x-2">
              {(['family', 'given'] as const).map((key) => (
                <SortButton key={key} by={key} sort={sort} onSort={onSort} />
              ))}
              <SortButton by="missing" sort={sort} onSort={onSort} />
            </span>
          </div>
          {hidesStanding ? null : (
            <div role="columnheader" className="px-2 pb-1 text-right text-[13px]" style={{ width: STANDING }}>
              <span className="font-semibold">Standing</span>
              <span className="block">
                <SortButton by="standing" sort={sort} onSort={onSort} label="sort" />
              </span>
            </div>
          )}
        </div>
        {SUMMARIES.map((which) => (
          <div
            key={which}
            role="row"
            className="bg-paper border-line text-muted flex items-center border-b text-[13px]"
            style={{ height: SUMMARY }}
          >
            <span role="rowheader" className="flex-1 px-2">
              Class {which}
            </span>
            {hidesStanding ? null : (
              <span role="gridcell" className="px-2 text-right whitespace-nowrap">
                {figure(view.standing, which)}
                {view.standing && which !== 'middle half' ? ' %' : ''}
              </span>
            )}
          </div>
        ))}
      </div>
    </div>
  );
});

function SortButton({
  by,
  sort,
  onSort,
  label,
}: {
  readonly by: SortKey;
  readonly sort: SortKey;
  readonly onSort: (by: SortKey) => void;
  readonly label?: string;
}) {
  const words = { family: 'family', given: 'given', standing: 'standing', missing: 'missing' };
  return (
    <button
      type="button"
      aria-pressed={sort === by}
      aria-label={`Sort by ${by === 'family' || by === 'given' ? `${by} name` : by}`}
      onClick={() => onSort(by)}
      className={classes(
        'text-xs',
        sort === by ? 'text-ink font-semibold underline' : 'text-muted hover:text-ink',
      )}
    >
      {label ?? words[by]}
    </button>
  );
}

interface Group {
  readonly name: string;
  readonly words: string;
  readonly from: number;
  readonly count: number;
}

/** Runs of columns of one category, with its weight. */
function groupsOf(view: GradebookView, places: readonly number[]): Group[] {
  const groups: Group[] = [];
  places.forEach((place, i) => {
    const id = view.columns[place]!.categoryId;
    const category = view.categories.find((c) => c.id === id);
    const name = category?.name ?? 'Ungraded';
    const last = groups.at(-1);
    if (last?.name === name) {
      groups[groups.length - 1] = { ...last, count: last.count + 1 };
      return;
    }
    const dropped =
      category && category.dropLowest > 0
        ? `, lowest ${category.dropLowest === 1 ? '' : `${category.dropLowest} `}dropped`
        : '';
    groups.push({ name, words: category ? `${category.weight} %${dropped}` : '', from: i, count: 1 });
  });
  return groups;
}
