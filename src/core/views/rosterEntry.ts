import type { EnrolmentStatus } from '../course/kinds';
import type { LocalDate } from '../units';

export interface RosterEntry {
  readonly enrolmentId: number;
  readonly personId: number;
  /** As the institution knows them: the id of every file. */
  readonly studentId: string;
  readonly given: string;
  readonly family: string;
  readonly name: string;
  readonly email: string | null;
  readonly section: string | null;
  readonly sectionId: number | null;
  readonly status: EnrolmentStatus;
  /** First day of the enrolment, where it is known. */
  readonly joined: LocalDate | null;
  /** First day on which they were no longer in it. */
  readonly left: LocalDate | null;
}

/** Whom a row of a table is about. */
export type RowPerson = Pick<RosterEntry, 'enrolmentId' | 'studentId' | 'given' | 'family' | 'section'>;

/** The beginning of a row about a student. */
export const rowPerson = ({ enrolmentId, studentId, given, family, section }: RowPerson): RowPerson => ({
  enrolmentId,
  studentId,
  given,
  family,
  section,
});
