import { inSpan } from '../calendar/window';
import { localDate } from '../calendar/zone';
import type { GradebookView, GradeRow } from '../views/gradebook';
import {
  cellWords,
  gradeMatches,
  isGradeFilter,
  isGradeSort,
  sortGradeRows,
  type GradeFilter,
  type SortKey,
} from './gradeFilters';
import { missingColumn, sectionColumn, standingColumn, studentColumn } from './people';
import type { AskedTable, Column, Table } from './table';

export interface ShownGrades {
  readonly sort: SortKey;
  readonly filter: GradeFilter | null;
  /** Only what is due in the window. */
  readonly inWindow: boolean;
}

/** What an address asks of the gradebook. */
export const shownGrades = ({ sort, status, due }: AskedTable): ShownGrades => ({
  sort: isGradeSort(sort) ? sort : 'family',
  filter: isGradeFilter(status) ? status : null,
  inWindow: due === 'window',
});

/** Places of the columns that are shown: with a filter only those that hold a cell of what is asked for. */
export function gradePlaces(view: GradebookView, { inWindow, filter }: ShownGrades): number[] {
  const { columns, rows, scope, course, bands } = view;
  return columns.flatMap((c, i) => {
    if (inWindow && (c.due == null || !inSpan(scope.window, localDate(c.due, course.zone)))) return [];
    return !filter || rows.some((r) => gradeMatches(r, c, i, filter, bands)) ? [i] : [];
  });
}

/** The students that are shown, in order: those with a cell of what is asked for in a column that is shown. */
export function gradeRows(
  view: Pick<GradebookView, 'columns' | 'bands'>,
  rows: readonly GradeRow[],
  places: readonly number[],
  { filter, sort }: ShownGrades,
): GradeRow[] {
  const kept = filter
    ? rows.filter((r) => places.some((p) => gradeMatches(r, view.columns[p]!, p, filter, view.bands)))
    : rows;
  return sortGradeRows(kept, sort);
}

/** The gradebook: a column for each assignment that is shown. Its rows come in order. */
export const gradebookTable: Table<GradebookView, GradeRow> = {
  name: 'gradebook',
  usual: 'family',
  columns: (view, asked) => [
    studentColumn,
    sectionColumn,
    ...(view.hidesStanding ? [] : [{ ...standingColumn(), key: 'grade' }]),
    { ...missingColumn, key: 'still open' },
    ...gradePlaces(view, shownGrades(asked)).map((place): Column<GradeRow> => {
      const { id, title, points } = view.columns[place]!;
      return {
        key: `work ${id}`,
        label: points == null ? title : `${title} (${points})`,
        value: (r) => cellWords(r, place),
      };
    }),
  ],
  rows: (view, asked) =>
    gradeRows(view, view.rows, gradePlaces(view, shownGrades(asked)), shownGrades(asked)),
  filter: (_, asked) => {
    const { filter, inWindow } = shownGrades(asked);
    return [filter ? filter : 'everyone', ...(inWindow ? ['due in the window'] : [])].join(', ');
  },
};
