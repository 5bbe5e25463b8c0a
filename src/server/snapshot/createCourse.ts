import { randomUUID } from 'node:crypto';
import { hashPassword } from 'better-auth/crypto';
import { eq } from 'drizzle-orm';
import { GAP_MINUTES } from '@/core/activity/dwell';
import type { Meeting, MeetingException } from '@/core/calendar/meetings';
import { isZone } from '@/core/calendar/zone';
import type { Term } from '@/core/calendar/term';
import type { GradePolicy } from '@/core/course/gradebook';
import { DEFAULT_INDICATORS } from '@/core/flags/indicators';
import { CODE_RULE, isCourseCode } from '@/core/setup/courseCode';
import type { Access, Database } from '@/data/database';
import { account, courses, courseStaff, persons, sections, user } from '@/data/schema';
import type { Role } from '@/data/schema/auth';
import { invalid } from '../base/errors';

export interface NewCourse {
  readonly code: string;
  readonly title: string;
  readonly termName: string;
  readonly term: Term;
  readonly policy: GradePolicy;
  /** The unit of the institution that it belongs to, if any. */
  readonly unitId?: number;
  readonly sections: readonly {
    readonly name: string;
    readonly meetings: readonly Meeting[];
    readonly exceptions?: readonly MeetingException[];
  }[];
  /** User ids of those who teach it. */
  readonly staff: readonly string[];
}

/** Makes a course with its term, sections and staff, and nobody in it yet. Returns its id. */
export const createCourse = (db: Database, course: NewCourse): Promise<number> =>
  db.transaction((tx) => makeCourse(tx, course));

/** The same inside a transaction that is open. */
export async function makeCourse({ orm }: Access, course: NewCourse): Promise<number> {
  if (!isCourseCode(course.code))
    throw invalid(`“${course.code}” cannot be the code of a course. ${CODE_RULE}`);
  if (!isZone(course.term.zone)) throw invalid(`“${course.term.zone}” is not a time zone.`);
  const [row] = await orm
    .insert(courses)
    .values({
      code: course.code,
      title: course.title,
      termName: course.termName,
      zone: course.term.zone,
      termStart: course.term.start,
      termWeeks: course.term.weeks,
      breaks: [...course.term.breaks],
      policy: course.policy,
      unitId: course.unitId,
      indicators: DEFAULT_INDICATORS,
      sessionGapMinutes: GAP_MINUTES.usual,
    })
    .returning({ id: courses.id });
  const courseId = row!.id;
  for (const section of course.sections) {
    const { name, meetings, exceptions = [] } = section;
    await orm
      .insert(sections)
      .values({ courseId, name, meetings: [...meetings], exceptions: [...exceptions] });
  }
  for (const userId of course.staff) await orm.insert(courseStaff).values({ courseId, userId });
  return courseId;
}

export interface NewAccount {
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  /** The `student_id` of the person a student account shows. */
  readonly studentId?: string;
}

/** Makes sign-in accounts with one password, hashed for each of them. Returns user ids in the same order. */
export async function createAccounts(
  db: Database,
  accounts: readonly NewAccount[],
  password: string,
): Promise<string[]> {
  const ids: string[] = [];
  // Side by side: hashing is slow on purpose.
  const hashes = await Promise.all(accounts.map(() => hashPassword(password)));
  for (const [i, one] of accounts.entries()) {
    const id = randomUUID();
    await db.transaction(async ({ orm }) => {
      const [person] = one.studentId
        ? await orm.select({ id: persons.id }).from(persons).where(eq(persons.externalId, one.studentId))
        : [];
      await orm.insert(user).values({
        id,
        name: one.name,
        email: one.email.toLowerCase(),
        emailVerified: true,
        role: one.role,
        personId: person?.id ?? null,
      });
      await orm.insert(account).values({
        id: randomUUID(),
        accountId: id,
        providerId: 'credential',
        userId: id,
        password: hashes[i],
      });
    });
    ids.push(id);
  }
  return ids;
}
