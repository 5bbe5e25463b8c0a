import { asc, desc, eq } from 'drizzle-orm';
import { ATTENDANCE, type Attendance } from '@/core/course/kinds';
import type { BesideView } from '@/core/views/brief';
import { attendance, referrals, requirements } from '@/data/schema';
import type { Access } from '../database';

/** Attendance, referrals, credits and exams of one student of a course that the caller may see. */
export async function besideOf({ orm }: Access, enrolmentId: number): Promise<BesideView> {
  const register = await orm
    .select()
    .from(attendance)
    .where(eq(attendance.enrolmentId, enrolmentId))
    .orderBy(desc(attendance.day));
  const counts = Object.fromEntries(
    ATTENDANCE.map((word) => [word, register.filter((r) => r.attendance === word).length]),
  ) as Record<Attendance, number>;
  return {
    attendance:
      register.length === 0
        ? null
        : {
            counts,
            exceptions: register
              .filter((r) => r.attendance !== 'present')
              .map((r) => ({ day: r.day, attendance: r.attendance })),
          },
    referrals: await orm
      .select({ day: referrals.day, reason: referrals.reason, outcome: referrals.outcome })
      .from(referrals)
      .where(eq(referrals.enrolmentId, enrolmentId))
      .orderBy(desc(referrals.day)),
    requirements: await orm
      .select({
        requirement: requirements.requirement,
        kind: requirements.kind,
        needed: requirements.needed,
        earned: requirements.earned,
      })
      .from(requirements)
      .where(eq(requirements.enrolmentId, enrolmentId))
      .orderBy(asc(requirements.requirement)),
  };
}
