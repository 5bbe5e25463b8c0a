import type { PlanState } from '../plans/planState';
import type { MasteryLevel } from '../outcomes/mastery';
import type { CellStatus } from '../gradebook/status';

/** How a condition says where a student's work stands. */
export const STATUS_SAYS: Readonly<Record<CellStatus, string>> = {
  missing: 'not handed in',
  'awaiting grade': 'handed in, not graded',
  late: 'handed in late, not graded',
  graded: 'graded',
  excused: 'excused',
  submitted: 'handed in',
  'not yet due': 'not due yet',
  'no due date': 'without a due date, not handed in',
  'before joining': 'due before they joined',
  'not assigned': 'not assigned to them',
};

export const LEVEL_SAYS: Readonly<Record<Exclude<MasteryLevel, 'too little data'>, string>> = {
  secure: 'secure in',
  developing: 'developing in',
  'not yet': 'not yet there in',
};

export const PLAN_SAYS: Readonly<Record<PlanState, { readonly label: string; readonly phrase: string }>> = {
  none: { label: 'none', phrase: 'without a study plan' },
  open: { label: 'open, nothing overdue', phrase: 'with a study plan that is on time' },
  overdue: { label: 'a step overdue', phrase: 'with a step of a study plan overdue' },
  finished: { label: 'finished', phrase: 'with a finished study plan' },
};

export const GROUP_SAYS = ['in it', 'not in it'] as const;
