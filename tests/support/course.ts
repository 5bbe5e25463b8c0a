import { eq, like, notExists } from 'drizzle-orm';
import { afterAll, beforeAll } from 'vitest';
import type { Term } from '@/core/calendar/term';
import type { Database } from '@/data/database';
import { courses, enrolments, persons, user } from '@/data/schema';
import { importFiles, type ImportOptions } from '@/server/intake/intake';
import { createAccounts, createCourse } from '@/server/snapshot/createCourse';
import type { Viewer } from '@/server/access/viewer';
import { testDatabase, type TestDatabase } from './database';

/** The instant at which the small course stands: Wednesday of its fifth week. */
export const NOW = '2026-10-28T12:00:00Z';

export const TERM: Term = { zone: 'Europe/Lisbon', start: '2026-09-28', weeks: 15, breaks: [] };

export const file = (name: string, text: string) => ({ name, bytes: new TextEncoder().encode(text) });

export const FILES = {
  outcomes: 'outcome_id,title,prerequisites\nfix,Position fixing,\nheights,Tidal heights,fix\n',
  activities: [
    'activity_id,title,kind,category,category_weight,drop_lowest,points,opens,due,estimated_minutes,outcomes',
    'w1,Chart exercise 1,assignment,Chart work,60,0,20,,2026-10-04T22:00:00Z,40,fix',
    'w2,Chart exercise 2,assignment,Chart work,60,0,20,,2026-10-11T22:00:00Z,40,fix',
    'w3,Chart exercise 3,assignment,Chart work,60,0,20,,2026-10-18T22:00:00Z,40,heights',
    'q1,Tides quiz,quiz,Quizzes,40,0,10,,2026-10-21T22:00:00Z,15,heights',
    'q2,Final quiz,quiz,Quizzes,40,0,10,,2026-12-21T22:00:00Z,15,heights',
    'r1,Fixing in four pages,page,,,,,,,12,fix',
    'r2,Heights on film,video,,,,,,,18,heights',
  ].join('\n'),
  roster: [
    'student_id,given_name,family_name,email,section,status,joined,left',
    's1,Łucja,Wójcik,lucja@students.example,Monday,active,2026-09-28,',
    's2,Ömer,Yıldız,omer@gone.students.example,Monday,active,2026-09-28,',
    's3,Bo,Li,bo@students.example,Online,active,2026-09-28,',
    's4,Ida,Wren,,Online,active,2026-09-28,',
    's5,Gone,Away,away@students.example,Online,withdrawn,2026-09-28,2026-10-10',
  ].join('\n'),
  gradebook: [
    'student_id,activity_id,submitted,graded,returned,points,excused',
    // s1 is fine; s2 is behind by three; s3 has marks that fall; s4 was excused once.
    's1,w1,2026-10-03T10:00:00Z,2026-10-05T10:00:00Z,2026-10-05T12:00:00Z,17,no',
    's1,w2,2026-10-10T10:00:00Z,2026-10-12T10:00:00Z,2026-10-12T12:00:00Z,18,no',
    's1,w3,2026-10-17T10:00:00Z,2026-10-19T10:00:00Z,2026-10-19T12:00:00Z,16,no',
    's1,q1,2026-10-20T10:00:00Z,2026-10-22T10:00:00Z,2026-10-22T12:00:00Z,9,no',
    's2,w1,2026-10-03T10:00:00Z,2026-10-05T10:00:00Z,2026-10-05T12:00:00Z,14,no',
    's3,w1,2026-10-03T10:00:00Z,2026-10-05T10:00:00Z,2026-10-05T12:00:00Z,15,no',
    's3,w2,2026-10-10T10:00:00Z,2026-10-12T10:00:00Z,2026-10-12T12:00:00Z,14,no',
    's3,w3,2026-10-19T10:00:00Z,2026-10-20T10:00:00Z,2026-10-20T12:00:00Z,13,no',
    's3,q1,2026-10-20T10:00:00Z,,,,no',
    's4,w1,,,,,yes',
    's4,w2,2026-10-10T10:00:00Z,2026-10-12T10:00:00Z,2026-10-12T12:00:00Z,15,no',
    's4,w3,2026-10-17T10:00:00Z,2026-10-19T10:00:00Z,2026-10-19T12:00:00Z,14,no',
    's4,q1,2026-10-20T10:00:00Z,2026-10-22T10:00:00Z,2026-10-22T12:00:00Z,7,no',
  ].join('\n'),
  events: events(),
};

/** Each student comes every other day; s2 stopped on 16 October. */
function events(): string {
  const lines = ['event_id,student_id,at,kind,activity_id,duration_s'];
  ['s1', 's2', 's3', 's4'].forEach((student, i) => {
    for (let day = 0; day <= 29; day += 2) {
      if (student === 's2' && day > 18) break;
      const start = Date.UTC(2026, 8, 28 + day, 17, i * 5);
      for (let e = 0; e < 8; e++) {
        const at = new Date(start + e * 150_000).toISOString();
        lines.push(
          `${student}-${day}-${e},${student},${at},${e === 0 ? 'login' : 'view'},${e === 0 ? '' : 'r1'},`,
        );
      }
    }
  });
  return lines.join('\n');
}

export interface SmallCourse {
  readonly courseId: number;
  readonly code: string;
  readonly instructor: Viewer;
  /** Teaches another course only. */
  readonly stranger: Viewer;
  readonly student: (externalId: string) => Promise<{ viewer: Viewer; enrolmentId: number }>;
}

/** Makes the small course in a database of its own before the tests of a file, and takes it away after. */
export function withSmallCourse(): { readonly test: TestDatabase; readonly course: SmallCourse } {
  let test: TestDatabase | null = null;
  let course: SmallCourse | null = null;
  beforeAll(async () => {
    test = await testDatabase();
    course = await smallCourse(test.db);
  });
  afterAll(() => test?.close());
  return {
    get test() {
      return test!;
    },
    get course() {
      return course!;
    },
  };
}

const BASE = {
  termName: 'Autumn',
  term: TERM,
  policy: { missing: 'zero' as const },
  sections: [{ name: 'Monday', meetings: [{ weekday: 1, startMinute: 18 * 60, minutes: 120 }] }],
};

/** A course of the files of the small one, under a code of its own. Returns its id. */
export async function courseOfFiles(
  db: Database,
  code: string,
  userId: string,
  options: ImportOptions = {},
): Promise<number> {
  const courseId = await createCourse(db, { ...BASE, code, title: 'Navigation', staff: [userId] });
  const uploads = Object.entries(FILES).map(([name, text]) => file(`${name}.csv`, text));
  await importFiles(db, courseId, userId, uploads, Date.parse(NOW), options);
  return courseId;
}

/** Takes the courses away whose code begins so, with people who are in no other. */
export async function forgetCourses({ orm }: Database, beginning: string): Promise<void> {
  await orm.delete(courses).where(like(courses.code, `${beginning}%`));
  const places = orm.select().from(enrolments).where(eq(enrolments.personId, persons.id));
  await orm.delete(persons).where(notExists(places));
}

/** A course of four students and one who left, imported from its files as any other. */
export async function smallCourse(db: Database): Promise<SmallCourse> {
  process.env.LANTERN_NOW = NOW;
  const [ines, teodor] = await createAccounts(
    db,
    [
      { name: 'Ines Calloway', email: 'ines@example.org', role: 'instructor' },
      { name: 'Teodor Marsh', email: 'teodor@example.org', role: 'instructor' },
    ],
    'a password for tests',
  );
  const courseId = await courseOfFiles(db, 'NAV', ines!);
  await createCourse(db, { ...BASE, code: 'OTHER', title: 'Another', staff: [teodor!] });
  const viewer = (userId: string, name: string): Viewer => ({
    userId,
    name,
    role: 'instructor',
    personId: null,
  });
  return {
    courseId,
    code: 'NAV',
    instructor: viewer(ines!, 'Ines Calloway'),
    stranger: viewer(teodor!, 'Teodor Marsh'),
    student: async (externalId) => {
      const [row] = await db.orm
        .select({ enrolmentId: enrolments.id, personId: persons.id })
        .from(enrolments)
        .innerJoin(persons, eq(persons.id, enrolments.personId))
        .where(eq(persons.externalId, externalId));
      const email = `${externalId}@accounts.example`;
      const [known] = await db.orm.select().from(user).where(eq(user.email, email));
      const userId =
        known?.id ??
        (
          await createAccounts(
            db,
            [{ name: externalId, email, role: 'student', studentId: externalId }],
            'a password for tests',
          )
        )[0]!;
      return {
        enrolmentId: row!.enrolmentId,
        viewer: { userId, name: externalId, role: 'student', personId: row!.personId },
      };
    },
  };
}
