import type { Instant } from '../units';

/** What somebody can be in a course. */
export const ROLES = ['instructor', 'lead', 'administrator', 'student'] as const;
export type Role = (typeof ROLES)[number];

/** What can be asked of a course: each use case asks for one of them. */
export const RIGHTS = ['look', 'act', 'grade', 'import', 'export', 'set up', 'own'] as const;
export type Right = (typeof RIGHTS)[number];

/**
 * What each role may do. A lead looks and takes figures along, and leaves the students to who teaches them; an
 * administrator keeps a course running and sees nobody in it; a student sees themselves.
 */
const MAY: Readonly<Record<Role, readonly Right[]>> = {
  instructor: ['look', 'act', 'grade', 'import', 'export', 'set up'],
  lead: ['look', 'export'],
  administrator: ['import', 'set up'],
  student: ['own'],
};

/** A role that somebody has in a course, until an instant or for good. */
export interface Grant {
  readonly role: Role;
  readonly course: number;
  readonly until: Instant | null;
}

/** Whether grants let somebody do something in a course at an instant; one that ends holds until just before its end. */
export const may = (grants: readonly Grant[], right: Right, course: number, at: Instant): boolean =>
  grants.some((g) => g.course === course && (g.until == null || at < g.until) && MAY[g.role].includes(right));
