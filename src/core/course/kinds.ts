/** Kinds of what can be done in a course, each with what it is for. */
export const ACTIVITY_KINDS = [
  'assignment',
  'quiz',
  'discussion',
  'exam',
  'practice',
  'page',
  'video',
  'article',
] as const;
export type ActivityKind = (typeof ACTIVITY_KINDS)[number];
/** Kinds that are read or watched, and never handed in. */
export const RESOURCE_KINDS: readonly ActivityKind[] = ['page', 'video', 'article'];
export const isResource = (kind: ActivityKind): boolean => RESOURCE_KINDS.includes(kind);

/** Whether somebody is in a course: withdrawn have left it, archived are in none that runs. */
export const ENROLMENT_STATUSES = ['active', 'withdrawn', 'archived'] as const;
export type EnrolmentStatus = (typeof ENROLMENT_STATUSES)[number];

/** What a student did, in our own words; every source is translated to these. */
export const EVENT_KINDS = [
  'login',
  'view',
  'watch',
  'practise',
  'attempt',
  'submit',
  'post',
  'other',
] as const;
export type EventKind = (typeof EVENT_KINDS)[number];

/** Kinds by which a student contributes something, rather than only looks. */
export const CONTRIBUTIONS: readonly EventKind[] = ['practise', 'attempt', 'submit', 'post'];

/** What an event counts as. */
export const ROLE = { none: 0, view: 1, contribution: 2 } as const;

/** A login counts as neither; practising, attempting, handing in and posting contribute; all else is looking. */
export const roleOf = (kind: EventKind): number =>
  kind === 'login' ? ROLE.none : CONTRIBUTIONS.includes(kind) ? ROLE.contribution : ROLE.view;

/** What a register says of a student on a day. */
export const ATTENDANCE = ['present', 'late', 'absent', 'excused'] as const;
export type Attendance = (typeof ATTENDANCE)[number];

/** What has to be earned or passed beside the course. */
export const REQUIREMENT_KINDS = ['credits', 'exam'] as const;
export type RequirementKind = (typeof REQUIREMENT_KINDS)[number];
