import type { Asked, Subject } from '../measures/measure';
import { matching, type Condition } from '../rules/condition';

/**
 * Students that somebody looks at, filters by or writes to: named one by one, or by what is true of them. The selection,
 * sections, groups, filters of Rounds and recipients are all such.
 */
export type Audience = { readonly people: readonly number[] } | { readonly condition: Condition };

export const EVERYONE: Audience = { condition: { all: [] } };

/** Who of some students is meant, and of whom it is not known. */
export function membersOf(
  audience: Audience,
  students: readonly Subject[],
  scope?: Pick<Asked, 'window' | 'kind'>,
): { readonly match: number[]; readonly unknown: number[] } {
  if ('condition' in audience) return matching(audience.condition, students, scope);
  const meant = new Set(audience.people);
  return { match: students.map((s) => s.id).filter((id) => meant.has(id)), unknown: [] };
}

/** Those of some things about students, one for each, whose student is meant. Who is not known is not. */
export function meantBy<T>(audience: Audience, items: readonly T[], subjectOf: (item: T) => Subject): T[] {
  const students = items.map(subjectOf);
  const meant = new Set(membersOf(audience, students).match);
  return items.filter((_, i) => meant.has(students[i]!.id));
}

/** A student of whom only the name counts, for audiences that are lists. */
export const byName = ({ enrolmentId }: { readonly enrolmentId: number }): Subject => ({
  id: enrolmentId,
  measured: null,
});
