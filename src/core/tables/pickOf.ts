import { pickedFor, type Picked } from '../acts/pick';
import type { Band } from '../gradebook/bands';
import type { CellStatus } from '../gradebook/status';

/** Why somebody is selected at an assignment, as it stands in the tray: "has not handed in Chart exercise 4". */
export function pickOf(
  what: CellStatus | Band,
  assignment: { readonly title: string; readonly id: number } | null,
): Picked {
  const title = assignment?.title ?? 'some assignment';
  const id = assignment?.id ?? null;
  switch (what) {
    case 'missing':
      return pickedFor(`has not handed in ${title}`, id == null ? 'behind' : 'missing assignment', id);
    case 'late':
      return pickedFor(`handed in ${title} late`, 'late assignment', id);
    case 'low':
      return pickedFor(`low score in ${title}`, id == null ? 'low standing' : 'low score', id);
    case 'high':
      return pickedFor(`high score in ${title}`, 'high score', id);
    case 'awaiting grade':
      return pickedFor(`${title} is to be graded`, 'other', id);
    case 'excused':
      return pickedFor(`is excused from ${title}`, 'other', id);
    case 'middle':
    case 'graded':
      return pickedFor(`score in ${title}`, 'other', id);
    case 'no due date':
    case 'not yet due':
    case 'before joining':
    case 'not assigned':
    case 'submitted':
      return pickedFor(`selected at ${title}`, 'other', id);
  }
}
