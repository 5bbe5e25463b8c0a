import type { Instant } from '../units';

/** What can be done to one student's work in the gradebook. */
export const GRADE_ACTIONS = [
  'grade',
  'excuse',
  'extend',
  'grant attempt',
  'paste',
  'key',
  'attempts',
] as const;
export type GradeAction = (typeof GRADE_ACTIONS)[number];

/** What stands in one cell of the gradebook. */
export interface ScoreState {
  readonly points: number | null;
  readonly excused: boolean;
  readonly submitted: Instant | null;
  readonly graded: Instant | null;
  readonly returned: Instant | null;
  readonly ownDue: Instant | null;
  readonly extraAttempts: number;
}

export const EMPTY_STATE: ScoreState = {
  points: null,
  excused: false,
  submitted: null,
  graded: null,
  returned: null,
  ownDue: null,
  extraAttempts: 0,
};

export const sameState = (a: ScoreState, b: ScoreState): boolean =>
  a.points === b.points &&
  a.excused === b.excused &&
  a.submitted === b.submitted &&
  a.graded === b.graded &&
  a.returned === b.returned &&
  a.ownDue === b.ownDue &&
  a.extraAttempts === b.extraAttempts;

/** A grade given now and returned at once, or taken away where `points` is null. Grading ends an excuse. */
export function graded(state: ScoreState, points: number | null, at: Instant): ScoreState {
  if (points == null) return { ...state, points: null, graded: null, returned: null };
  return {
    ...state,
    points,
    excused: false,
    graded: at,
    returned: state.returned ?? at,
  };
}

export const excused = (state: ScoreState, on: boolean): ScoreState => ({ ...state, excused: on });
export const extended = (state: ScoreState, due: Instant | null): ScoreState => ({ ...state, ownDue: due });
export const granted = (state: ScoreState): ScoreState => ({
  ...state,
  extraAttempts: state.extraAttempts + 1,
});
