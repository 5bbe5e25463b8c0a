import { eq, inArray, sql } from 'drizzle-orm';
import { RULE_STARTERS, usualNumbers } from '@/core/unasked/starters';
import { FILE_KINDS } from '@/core/course/records';
import type { Database } from '@/data/database';
import { activities, courses, enrolments, scores } from '@/data/schema';
import { setDatabase } from '@/server/base/database';
import { evaluateNow } from '@/server/derive/evaluation';
import { importFiles } from '@/server/intake/intake';
import { wouldHave } from '@/server/unasked/dryRun';
import { saveRule, switchRule } from '@/server/unasked/manage';
import { passRules } from '@/server/unasked/pass';
import { benchCourse } from './course';
import { bound, median, ms, timed } from './measure';

const NOW = Date.parse('2026-11-25T10:35:00Z');
const STUDENTS = 500;
const TOUCHED = 10;
const ROUNDS = 9;

const formOf = (starter: string) => {
  const numbers = usualNumbers(starter);
  const { name, make } = RULE_STARTERS[starter]!;
  return { id: null, name, starter, numbers, parts: make(numbers) };
};

/** A quiz that was just graded for a few students, as statements bring it. */
async function grade(db: Database, courseId: number, ids: readonly number[], round: number): Promise<void> {
  await db.transaction(async ({ orm }) => {
    const [quiz] = await orm
      .insert(activities)
      .values({
        courseId,
        externalId: `bench-${round}`,
        title: 'Quiz',
        kind: 'quiz',
        points: 10,
        position: 999,
      })
      .returning();
    const [row] = await orm
      .update(courses)
      .set({ rev: sql`${courses.rev} + 1` })
      .where(eq(courses.id, courseId))
      .returning();
    await orm
      .update(enrolments)
      .set({ rev: row!.rev })
      .where(inArray(enrolments.id, [...ids]));
    const at = new Date(NOW + round * 60_000);
    const graded = { submittedAt: at, gradedAt: at, returnedAt: at, excused: false, points: 7 };
    await orm
      .insert(scores)
      .values(ids.map((enrolmentId) => ({ enrolmentId, activityId: quiz!.id, ...graded })));
  });
}

/** Gives a course nine more of each student, with the same grades. */
async function grow({ orm }: Database, courseId: number): Promise<void> {
  await orm.execute(sql`insert into persons (external_id, given, family)
    select p.external_id || '-' || k, p.given, p.family from persons p
    join enrolments e on e.person_id = p.id and e.course_id = ${courseId}, generate_series(1, 9) k`);
  await orm.execute(sql`insert into enrolments (course_id, person_id, section_id, status, joined_on)
    select e.course_id, more.id, e.section_id, e.status, e.joined_on from enrolments e
    join persons p on p.id = e.person_id
    join persons more on more.external_id like p.external_id || '-%'
    where e.course_id = ${courseId}`);
  await orm.execute(sql`insert into scores (enrolment_id, activity_id, points, submitted_at, graded_at, returned_at, excused)
    select f.id, s.activity_id, s.points, s.submitted_at, s.graded_at, s.returned_at, s.excused from scores s
    join enrolments e on e.id = s.enrolment_id
    join persons p on p.id = e.person_id
    join persons more on more.external_id like p.external_id || '-%'
    join enrolments f on f.person_id = more.id`);
}

/** How long a pass over a course of so many students takes after a few were touched, and a dry run over nine weeks. */
async function rulesOf(times10: boolean, dry: boolean): Promise<number> {
  process.env.LANTERN_NOW = new Date(NOW).toISOString();
  const made = await benchCourse({ students: STUDENTS, copies: 1, events: 50_000 });
  const { db, courseId, userId, upload, close } = made;
  setDatabase(db);
  await importFiles(db, courseId, userId, FILE_KINDS.map(upload), NOW);
  if (times10) await grow(db, courseId);
  await evaluateNow(db, courseId);
  const viewer = { userId, name: 'B', role: 'instructor' as const, personId: null };
  if (dry) {
    const [course] = await db.orm.select().from(courses).where(eq(courses.id, courseId));
    for (const starter of Object.keys(RULE_STARTERS)) {
      let found = 0;
      const took = await timed(async () => {
        found = (await wouldHave(db, course!, formOf(starter).parts)).all.length;
      });
      bound(`dry run of “${starter}” over nine weeks (${found} occasions)`, took / 1000, 3, 'at most', 's');
    }
  }
  const id = await saveRule(viewer, 'B', formOf('praise'));
  await switchRule(viewer, 'B', id, true);
  const all = await db.orm
    .select({ id: enrolments.id })
    .from(enrolments)
    .where(eq(enrolments.courseId, courseId));
  console.log(`  ${all.length} enrolments`);
  const active = all.slice(0, TOUCHED);
  const times: number[] = [];
  for (let round = 1; round <= ROUNDS; round++) {
    await grade(
      db,
      courseId,
      active.map((e) => e.id),
      round,
    );
    process.env.LANTERN_NOW = new Date(NOW + round * 60_000 + 1000).toISOString();
    times.push(await timed(() => passRules(db, courseId)));
  }
  await close();
  // The first reads the class, which is kept.
  return median(times.slice(2));
}

/** Rules after a few statements, and their dry runs. */
export async function benchRules(): Promise<void> {
  console.log(`Rules: a pass after ${TOUCHED} students were touched, and dry runs of 500 students`);
  const few = await rulesOf(false, true);
  const many = await rulesOf(true, false);
  console.log(`  of 500 in ${ms(few)}, of 5,000 in ${ms(many)}`);
  bound('cost of 10 students touched of 5,000 against 500', many / few, 1.5, 'at most');
}
