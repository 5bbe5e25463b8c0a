import type { EnrolmentStatus } from '../formats/courseFiles';

export interface RosterEntry {
  readonly enrolmentId: number;
  readonly personId: number;
  readonly given: string;
  readonly family: string;
  readonly name: string;
  readonly email: string | null;
  readonly section: string | null;
  readonly status: EnrolmentStatus;
}
