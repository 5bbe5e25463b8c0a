import type { Instant } from '../../units';
import type { GradebookRecord } from '../../course/records';

/**
 * A cell of the gradebook from a source that knows only some of it, such as a table of bare points: what the source
 * does not say stays as it is known. New or changed points without instants of their own count as graded and returned
 * at `now`, since the source shows them; the same points again change nothing.
 *
 * @param absent columns that the source does not have
 */
export function fillScore(
  record: GradebookRecord,
  known: GradebookRecord | undefined,
  absent: readonly string[],
  now: Instant,
): GradebookRecord {
  const lacks = (column: string) => absent.includes(column);
  const points = lacks('points') ? (known?.points ?? null) : record.points;
  const since = points == null ? null : known && known.points === points ? undefined : now;
  const instant = (column: 'graded' | 'returned') =>
    !lacks(column) ? record[column] : since === undefined ? known![column] : since;
  return {
    student: record.student,
    activity: record.activity,
    submitted: lacks('submitted') ? (known?.submitted ?? null) : record.submitted,
    graded: instant('graded'),
    returned: instant('returned'),
    points,
    excused: lacks('excused') ? (known?.excused ?? false) : record.excused,
    due: lacks('own_due') ? (known?.due ?? null) : record.due,
    extra: lacks('extra_attempts') ? (known?.extra ?? 0) : record.extra,
  };
}
