import { bandOf, cutsFor, type Band, type ScoreBands } from '../gradebook/bands';
import { mostStruggled, type Went } from '../gradebook/classVerdict';
import type { CellStatus } from '../gradebook/status';
import type { GradebookView, GradeColumn, GradeRow } from '../views/gradebook';
import { statusOfLetter } from '../views/gradebook';

export const GRADE_SORTS = ['family', 'given', 'standing', 'missing'] as const;
export type SortKey = (typeof GRADE_SORTS)[number];

/** What the rows can be narrowed to. */
export const FILTERS = ['missing', 'late', 'awaiting grade', 'excused', 'low', 'high'] as const;
export type GradeFilter = (typeof FILTERS)[number];
export const isGradeFilter = (text: string | null | undefined): text is GradeFilter =>
  FILTERS.some((f) => f === text);
export const isGradeSort = (text: string | null | undefined): text is SortKey =>
  GRADE_SORTS.some((s) => s === text);

export const percentAt = (row: GradeRow, column: GradeColumn, place: number): number | null => {
  const points = row.points[place];
  return points == null || !column.points ? null : (100 * points) / column.points;
};

export const statusAt = (row: GradeRow, place: number): CellStatus => statusOfLetter(row.statuses[place]!);

export function bandAt(row: GradeRow, column: GradeColumn, place: number, bands: ScoreBands): Band | null {
  if (statusAt(row, place) !== 'graded') return null;
  const percent = percentAt(row, column, place);
  return percent == null ? null : bandOf(percent, cutsFor(bands, column.kind));
}

/** Handed in and not graded, late work too, where the work is graded at all. */
export const waitsForGrade = (status: CellStatus, maximum: number | null): boolean =>
  status === 'awaiting grade' || (status === 'late' && maximum != null);

/** Whether a cell is of what is asked for. Late work that waits for a grade is both. */
export function gradeMatches(
  row: GradeRow,
  column: GradeColumn,
  place: number,
  filter: GradeFilter,
  bands: ScoreBands,
): boolean {
  const status = statusAt(row, place);
  switch (filter) {
    case 'low':
    case 'high':
      return bandAt(row, column, place, bands) === filter;
    case 'late':
      return status === 'late' || row.late.includes(place);
    case 'awaiting grade':
      return waitsForGrade(status, column.points);
    case 'missing':
    case 'excused':
      return status === filter;
  }
}

const collator = new Intl.Collator('en', { sensitivity: 'base' });

/** Students in the order asked for; by standing the lowest first, by missing work the most. */
export function sortGradeRows(rows: readonly GradeRow[], by: SortKey): GradeRow[] {
  const names = (a: GradeRow, b: GradeRow) =>
    collator.compare(a.family, b.family) || collator.compare(a.given, b.given);
  const compare = (a: GradeRow, b: GradeRow): number => {
    switch (by) {
      case 'family':
        return names(a, b);
      case 'given':
        return collator.compare(a.given, b.given) || collator.compare(a.family, b.family);
      case 'standing':
        return (a.standing ?? Infinity) - (b.standing ?? Infinity) || names(a, b);
      case 'missing':
        return b.missing - a.missing || names(a, b);
    }
  };
  return [...rows].sort(compare);
}

/** A cell as it goes into a file: the points, or the word for why there are none. */
export function cellWords(row: GradeRow, place: number): string | number | null {
  const status = statusAt(row, place);
  const points = row.points[place] ?? null;
  if (status === 'graded') return points;
  return status === 'not yet due' ? points : status;
}

/** Cells and students of each filter. */
export function countFilters(view: GradebookView): Record<GradeFilter, { cells: number; students: number }> {
  const counts = Object.fromEntries(FILTERS.map((f) => [f, { cells: 0, students: 0 }])) as Record<
    GradeFilter,
    { cells: number; students: number }
  >;
  for (const row of view.rows) {
    for (const filter of FILTERS) {
      let cells = 0;
      view.columns.forEach((column, i) => {
        if (gradeMatches(row, column, i, filter, view.bands)) cells++;
      });
      counts[filter].cells += cells;
      if (cells > 0) counts[filter].students++;
    }
  }
  return counts;
}

export const FILTER_WORDS: Readonly<Record<GradeFilter, string>> = {
  missing: 'Missing',
  late: 'Late',
  'awaiting grade': 'To grade',
  excused: 'Excused',
  low: 'Low scores',
  high: 'High scores',
};

/** The assignment in which most struggled, by the rule of `classVerdict`; null if there is none. */
export function mostStruggledIn(view: Pick<GradebookView, 'rows' | 'columns' | 'bands'>): Went | null {
  const all = view.columns.map((column, place): Went => {
    const bands = view.rows.flatMap((row) => bandAt(row, column, place, view.bands) ?? []);
    const low = bands.filter((band) => band === 'low').length;
    const { title, outcomes } = column;
    return { title, outcomes, low, graded: bands.length, cuts: cutsFor(view.bands, column.kind) };
  });
  return mostStruggled(all)[0] ?? null;
}
