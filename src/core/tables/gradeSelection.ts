import { cutsFor, type ScoreBands } from '../gradebook/bands';
import type { CellStatus } from '../gradebook/status';
import type { ColumnTest, Selection } from '../rules/selection';
import { waitsForGrade, type GradeFilter } from './gradeFilters';
import type { GradeColumn } from '../views/gradebook';
import { traitKey } from '../people/trait';

const all = (test: ColumnTest): Selection => ({ all: [test] });

/** The condition for everybody with a status on an assignment, to begin an audience with. */
export const statusSelection = (work: number, status: CellStatus): Selection =>
  all({ measure: traitKey({ of: 'status', work }), is: 'in', value: [status] });

/** The same for a range of points, both ends included. */
export const pointsSelection = (work: number, from: number, to: number): Selection =>
  all({ measure: traitKey({ of: 'score', work }), is: 'between', value: from, to });

/** The condition that says the same as a filter of the gradebook about one column. */
export function gradeSelection(
  filter: GradeFilter,
  { id: work, kind, points }: Pick<GradeColumn, 'id' | 'kind' | 'points'>,
  bands: ScoreBands,
): Selection {
  const cuts = cutsFor(bands, kind);
  const percent = traitKey({ of: 'percent', work });
  switch (filter) {
    case 'low':
      return all({ measure: percent, is: '<', value: cuts.low });
    case 'high':
      return all({ measure: percent, is: '>=', value: cuts.high });
    case 'late':
      return all({ measure: traitKey({ of: 'late', work }), is: 'in', value: ['yes'] });
    case 'awaiting grade': {
      const waiting = (['awaiting grade', 'late'] as const).filter((s) => waitsForGrade(s, points));
      return all({ measure: traitKey({ of: 'status', work }), is: 'in', value: waiting });
    }
    case 'missing':
    case 'excused':
      return statusSelection(work, filter);
  }
}
