import { eq, inArray } from 'drizzle-orm';
import type { Access } from '@/data/database';
import { enrolments, persons, recipients } from '@/data/schema';
import { nowDate } from '../base/clock';

/** Longest reason that is kept of why mail does not arrive. */
const MOST = 240;

/** Notes of whom a copy was for that mail to their address does not arrive, and why. */
export async function noteMailFault({ orm }: Access, recipientId: number, why: string): Promise<void> {
  const whose = orm
    .select({ id: enrolments.personId })
    .from(enrolments)
    .innerJoin(recipients, eq(recipients.enrolmentId, enrolments.id))
    .where(eq(recipients.id, recipientId));
  await orm
    .update(persons)
    .set({ mailFault: why.slice(0, MOST), mailFaultAt: nowDate() })
    .where(inArray(persons.id, whose));
}
