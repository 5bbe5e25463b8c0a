import type { Term } from '../calendar/term';
import type { DueWork, Gradebook, ScoresByActivity } from './gradebook';
import type { LocalDate, Seconds } from '../units';
import type { PartOfClass } from './parts';

/** One day of a student: time on task, of it in class. */
export interface DayRecord {
  readonly date: LocalDate;
  readonly seconds: Seconds;
  readonly inClassSeconds: Seconds;
}

/** What is on record of one student of a class. */
export interface StudentRecord {
  readonly id: number;
  /** First day of the enrolment. */
  readonly joined: LocalDate;
  /** Days with anything recorded, ascending. */
  readonly days: readonly DayRecord[];
  readonly scores: ScoresByActivity;
  /** The section and the groups they are in. */
  readonly parts?: readonly PartOfClass[];
}

/** How a course is set up, as far as figures rest on it. */
export interface CourseSetup {
  readonly term: Term;
  readonly book: Gradebook;
  /** Everything that is handed in, graded or not. */
  readonly works: readonly DueWork[];
}

/** What is on record of a class: the input of every measure. Only active students. */
export interface ClassRecord extends CourseSetup {
  readonly students: readonly StudentRecord[];
}

/** Works that concern a student: those due after the day they joined, or without a date. */
export function worksSince(record: CourseSetup, joinedAt: number): readonly DueWork[] {
  return record.works.every((w) => w.due == null || w.due >= joinedAt)
    ? record.works
    : record.works.filter((w) => w.due == null || w.due >= joinedAt);
}
