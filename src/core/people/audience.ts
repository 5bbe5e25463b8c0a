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
