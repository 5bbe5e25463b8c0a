import { and, eq } from 'drizzle-orm';
import type { WhoReads } from '@/core/unasked/guards';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { writtenToPersons } from '@/data/queries/rules';
import { pausesOf } from '@/data/queries/support';
import { idsIn } from '@/data/queries/idsIn';
import { enrolments } from '@/data/schema';

/**
 * What is known of students whom a rule would write to: what they were written in all their courses, and whether they
 * asked for a pause.
 *
 * @returns a reader by enrolment; `but` leaves one occasion out, which is the one that is asked about
 */
export async function readersOf(
  access: Access,
  courseId: number,
  ids: readonly number[],
  at: Instant,
): Promise<(enrolmentId: number, but?: number) => WhoReads> {
  const people = await access.orm
    .select({ enrolmentId: enrolments.id, personId: enrolments.personId, status: enrolments.status })
    .from(enrolments)
    .where(and(eq(enrolments.courseId, courseId), idsIn(enrolments.id, ids)));
  const persons = [...new Set(people.map((p) => p.personId))];
  const written = await writtenToPersons(access, persons, at);
  const pauses = await pausesOf(access, persons);
  const of = new Map(people.map((p) => [p.enrolmentId, p]));
  return (enrolmentId, but) => {
    const person = of.get(enrolmentId);
    const list = person ? (written.get(person.personId) ?? []) : [];
    return {
      active: person?.status === 'active',
      pausedUntil: person ? (pauses.get(person.personId) ?? null) : null,
      written: but == null ? list : list.filter((w) => w.occasion !== but),
    };
  };
}
