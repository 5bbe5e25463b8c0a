import type { Instant } from '../units';

/** Who gets something: all of the course, a section, or a group; whoever joins it before it opens gets it too. */
export type GivenTarget =
  | { readonly kind: 'course' }
  | { readonly kind: 'section'; readonly id: number }
  | { readonly kind: 'group'; readonly id: number };

/** The dates of what was given to one student. */
export interface GivenDates {
  readonly opensAt: Instant | null;
  readonly dueAt: Instant | null;
  readonly closesAt: Instant | null;
}

/** What stood for a student and an activity before and after; null where it was not theirs by name. */
export interface GivenChange {
  readonly enrolmentId: number;
  readonly activityId: number;
  readonly before: GivenDates | null;
  readonly after: GivenDates | null;
}
