import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { eq, inArray, like } from 'drizzle-orm';
import { FILE_KINDS } from '@/core/course/records';
import type { Instant } from '@/core/units';
import type { Database } from '@/data/database';
import { tidy } from '@/data/tidy';
import { courses, enrolments, persons, units, user } from '@/data/schema';
import { importFiles } from '@/server/intake/intake';
import { createAccounts, createCourse } from '@/server/snapshot/createCourse';
import { seedActs } from './acts';
import { demoTerm, SECTIONS, termName } from './course';
import { seedFeed } from './feed';
import { scenarioFiles } from './files';
import { demoStudents } from './people';
import { seedLearning } from './learning';
import { seedPlans } from './plans';
import { seedRules } from './rules';
import { scenario } from './scenario';

export const DEMO_PASSWORD = 'saltmarsh-lantern';
export const DEMO_INSTRUCTORS = [
  { name: 'Ines Calloway', email: 'ines.calloway@saltmarsh.example' },
  { name: 'Teodor Marsh', email: 'teodor.marsh@saltmarsh.example' },
] as const;

const INSTITUTE = 'Saltmarsh Maritime Institute';
const SCHOOLS = ['School of Navigation', 'School of Ship Handling'] as const;

/** Who can sign in to look at the demo, all with the same password. The student is one who is behind. */
export function demoSignIns(now: Instant): { instructor: string; student: string; password: string } {
  const student = demoStudents(demoTerm(now))[1]!.roster.email!;
  return { instructor: DEMO_INSTRUCTORS[0].email, student, password: DEMO_PASSWORD };
}

/** The course that is made last: where it is, the demo is whole. */
const LAST_MADE = 'STB-210';
const DEMO_COURSES = ['NAV-110', 'MET-120', LAST_MADE];

/**
 * Makes the demo institution, unless the database holds courses already. The main course goes in through the same
 * import as anybody's files; the files stay in `examples/` of the data folder.
 *
 * @param students how many, if not as many as the demo has
 */
export async function seedDemo(
  db: Database,
  now: Instant,
  dataFolder: string,
  say: (line: string) => void,
  students?: number,
): Promise<void> {
  if (await isMade(db)) return;
  say('Making the demo course …');
  const made = scenario({ now, students });
  const { term } = made;
  const [ines, teodor] = await createAccounts(
    db,
    DEMO_INSTRUCTORS.map((i) => ({ ...i, role: 'instructor' as const })),
    DEMO_PASSWORD,
  );
  const base = { term, termName: termName(term), policy: { missing: 'zero' as const }, sections: SECTIONS };
  const [institute] = await db.orm.insert(units).values({ name: INSTITUTE }).returning({ id: units.id });
  const schools = await db.orm
    .insert(units)
    .values(SCHOOLS.map((name) => ({ name, parentId: institute!.id })))
    .returning({ id: units.id });
  const [navigation, handling] = schools.map((s) => s.id);
  const courseId = await createCourse(db, {
    ...base,
    unitId: navigation,
    code: 'NAV-110',
    title: 'Coastal Navigation',
    staff: [ines!],
  });

  const files = scenarioFiles(made);
  const folder = join(dataFolder, 'examples');
  await mkdir(folder, { recursive: true });
  for (const kind of FILE_KINDS) await writeFile(join(folder, `${kind}.csv`), files[kind]);
  say(`Importing ${made.events.length.toLocaleString('en')} events of ${made.students.length} students …`);
  const uploads = FILE_KINDS.map((kind) => ({
    name: `${kind}.csv`,
    bytes: new TextEncoder().encode(files[kind]),
  }));
  const counts = await importFiles(db, courseId, ines!, uploads, now);
  const rejected = counts.reduce((sum, c) => sum + c.rejected, 0);
  if (rejected > 0) throw new Error(`the demo's own files had ${rejected} rejected rows`);

  say('Making sign-ins …');
  const active = made.students.filter((s) => s.roster.status === 'active' && s.roster.email);
  await createAccounts(
    db,
    active.map(({ roster }) => ({
      name: `${roster.given} ${roster.family}`,
      email: roster.email!,
      role: 'student' as const,
      studentId: roster.id,
    })),
    DEMO_PASSWORD,
  );
  await seedActs(db, { courseId, userId: ines!, term, now });
  const viewer = {
    userId: ines!,
    name: DEMO_INSTRUCTORS[0].name,
    role: 'instructor' as const,
    personId: null,
  };
  await seedLearning(db, { courseId, userId: ines!, now });
  await seedPlans(db, { courseId, code: DEMO_COURSES[0]!, viewer, now });
  await seedRules(db, { courseId, code: DEMO_COURSES[0]!, viewer, now });
  await seedFeed(db, { code: DEMO_COURSES[0]!, viewer, now, zone: term.zone, gradebook: files.gradebook });
  await createCourse(db, {
    ...base,
    unitId: navigation,
    code: 'MET-120',
    title: 'Marine Weather',
    staff: [ines!],
  });
  await createCourse(db, {
    ...base,
    unitId: handling,
    code: LAST_MADE,
    title: 'Vessel Stability',
    staff: [teodor!],
  });
  await tidy(db);
}

/**
 * Whether there is nothing to make: the demo is whole, or the courses are somebody's own. What is left of a demo that
 * was stopped while it was made is cleared away first.
 */
async function isMade(db: Database): Promise<boolean> {
  const present = await db.orm.select({ id: courses.id, code: courses.code }).from(courses);
  if (present.some((c) => c.code === LAST_MADE || !DEMO_COURSES.includes(c.code))) return true;
  await db.transaction(async ({ orm }) => {
    for (const { id } of present) {
      const enrolled = await orm
        .select({ id: enrolments.personId })
        .from(enrolments)
        .where(eq(enrolments.courseId, id));
      await orm.delete(courses).where(eq(courses.id, id));
      const people = enrolled.map((e) => e.id);
      if (people.length > 0) await orm.delete(persons).where(inArray(persons.id, people));
    }
    await orm.delete(units).where(inArray(units.name, [...SCHOOLS]));
    await orm.delete(units).where(eq(units.name, INSTITUTE));
    await orm.delete(user).where(like(user.email, '%@%saltmarsh.example'));
  });
  return false;
}
