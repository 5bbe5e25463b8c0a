import type { CourseHead } from './courseHead';
import type { RibbonWeek } from './ribbon';
import type { ScopeView } from './scope';

/** What every view of a course holds. */
export interface ViewFrame {
  readonly course: CourseHead;
  readonly scope: ScopeView;
  readonly ribbon: readonly RibbonWeek[];
  /** Students in the selection. */
  readonly tray: readonly number[];
  /** The view in which the latest of them was selected; null with nobody selected. */
  readonly trayFrom: string | null;
}
