import type { EnrolmentStatus } from '../course/kinds';
import type { LocalDate } from '../units';

export interface RosterEntry {
  readonly enrolmentId: number;
  readonly personId: number;
  readonly given: string;
  readonly family: string;
  readonly name: string;
  readonly email: string | null;
  readonly section: string | null;
  readonly sectionId: number | null;
  readonly status: EnrolmentStatus;
  /** First day of the enrolment, where it is known. */
  readonly joined: LocalDate | null;
}
