import type { WorkStatus } from '../gradebook/status';
import type { Instant, LocalDate, Percent } from '../units';
import type { StripWeek } from './brief';
import type { CourseHead } from './courseHead';
import type { PlanView } from './plan';

export interface OwnMessage {
  readonly recipientId: number;
  readonly subject: string;
  readonly body: string;
  readonly from: string;
  /** The sender's account: a display name is their own choice. */
  readonly address: string;
  readonly at: Instant;
  readonly readAt: Instant | null;
}

export interface OwnWork {
  readonly title: string;
  readonly due: Instant | null;
  readonly status: WorkStatus;
}

export interface OwnCourse {
  readonly head: CourseHead;
  readonly today: LocalDate;
  readonly weeks: readonly StripWeek[];
  readonly standing: Percent | null;
  readonly messages: readonly OwnMessage[];
  readonly plans: readonly PlanView[];
  /** Missing, and due in the next two weeks. */
  readonly open: readonly OwnWork[];
}

export interface StudentHome {
  readonly givenName: string;
  readonly courses: readonly OwnCourse[];
}
