import type { CellStatus } from '../views/gradebook';
import type { Band } from '../gradebook/bands';

/** Why somebody is picked from the gradebook, as it stands in the tray: "has not handed in Chart exercise 4". */
export function pickReason(what: CellStatus | Band, title: string | null): string {
  const work = title ?? 'some work';
  switch (what) {
    case 'missing':
      return `has not handed in ${work}`;
    case 'late':
      return `handed in ${work} late`;
    case 'awaiting grade':
      return `waits for the grade of ${work}`;
    case 'excused':
      return `is excused from ${work}`;
    case 'low':
      return `low score in ${work}`;
    case 'high':
      return `high score in ${work}`;
    case 'middle':
    case 'graded':
      return `score in ${work}`;
    case 'no due date':
    case 'not yet due':
    case 'before joining':
    case 'submitted':
      return `picked at ${work}`;
  }
}
