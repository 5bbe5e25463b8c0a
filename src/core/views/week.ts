import type { Answer } from '../weekly/answers';
import type { CourseHead } from './courseHead';
import type { RibbonWeek } from './ribbon';
import type { ScopeView } from './scope';

export interface WeekView {
  readonly course: CourseHead;
  readonly scope: ScopeView;
  readonly ribbon: readonly RibbonWeek[];
  readonly students: number;
  readonly answers: readonly Answer[];
  readonly tray: readonly number[];
}
