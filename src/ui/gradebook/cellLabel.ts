import { statusAt } from '@/core/tables/gradeFilters';
import type { CellStatus } from '@/core/gradebook/status';
import type { GradeColumn, GradeRow } from '@/core/views/gradebook';

/** Words of a cell for who cannot see it. */
export function cellLabel(row: GradeRow, column: GradeColumn, place: number): string {
  const status = statusAt(row, place);
  const points = row.points[place];
  // The words that stand in the cell come first, so that they can be spoken to it.
  const words: Partial<Record<CellStatus, string>> = {
    graded: `${row.late.includes(place) ? 'late ' : ''}${points} of ${column.points}`,
    late: 'late, to grade',
    'awaiting grade': 'to grade',
    submitted: 'handed in',
    'no due date': 'no date',
  };
  const what = words[status] ?? status;
  return `${row.given} ${row.family}, ${column.title}: ${what}`;
}
