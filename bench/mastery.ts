import { sql } from 'drizzle-orm';
import type { ClassRecord } from '@/core/course/record';
import { classMastery, type AnsweredAttempt } from '@/core/outcomes/evidence';
import { finish } from '@/core/steps';
import type { Database } from '@/data/database';
import { loadCourseModel } from '@/data/queries/courseModel';
import { setDatabase } from '@/server/base/database';
import { refreshMasteries } from '@/server/derive/masteries';
import { benchCourse } from './course';
import { bound, median, ms, timed } from './measure';

const NOW = Date.parse('2026-11-25T10:35:00Z');
const STUDENTS = 5000;
const OUTCOMES = 60;
const QUIZZES = 40;
const ITEMS = 10;
const ROUNDS = 15;
/** Answers of each student: those of the others grow. */
const OWN = 100;

/** A class of which nothing but answers is known: each quiz covers three outcomes. */
function bigClass() {
  const quizzes = Array.from({ length: QUIZZES }, (_, i) => `q${i}`);
  const record: ClassRecord = {
    term: { zone: 'Europe/Lisbon', start: '2026-09-28', weeks: 15, breaks: [] },
    book: { policy: { missing: 'zero' }, zone: 'Europe/Lisbon', categories: [], activities: [] },
    works: [],
    students: Array.from({ length: STUDENTS }, (_, id) => ({
      id,
      joined: '2026-09-28',
      days: [],
      scores: new Map(),
    })),
  };
  const covers = new Map(
    quizzes.map((q, i) => [q, [0, 20, 40].map((shift) => `o${(i + shift) % OUTCOMES}`)]),
  );
  const outcomes = Array.from({ length: OUTCOMES }, (_, i) => ({ id: `o${i}` }));
  const scores = new Uint8Array(STUDENTS * QUIZZES * ITEMS);
  let state = 7;
  for (let i = 0; i < scores.length; i++) {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    scores[i] = state < 1_400_000_000 ? 1 : 0;
  }
  return { record, covers, outcomes, quizzes, scores };
}

/** Levels and means of a class from its single answers: what they come to by attempt, then each student and outcome. */
function levels({ record, covers, outcomes, quizzes, scores }: ReturnType<typeof bigClass>): number {
  const answers = new Map<number, AnsweredAttempt[]>();
  for (let s = 0; s < STUDENTS; s++) {
    answers.set(
      s,
      quizzes.map((activity, q) => {
        let sum = 0;
        const at = (s * QUIZZES + q) * ITEMS;
        for (let i = 0; i < ITEMS; i++) sum += scores[at + i]!;
        return {
          activity,
          responses: ITEMS,
          worth: ITEMS,
          share: sum / ITEMS,
          at: NOW - q * 86_400_000,
        };
      }),
    );
  }
  const { students } = finish(classMastery(record, outcomes, covers, { answers, outside: new Map() }, NOW));
  let secure = 0;
  for (const of of students.values()) for (const m of of.values()) if (m.level === 'secure') secure++;
  return secure;
}

/** Gives a course so many answers, a hundred of each student, and some outcomes. */
async function fill({ orm }: Database, courseId: number, answers: number): Promise<void> {
  await orm.execute(sql`insert into persons (external_id, given, family)
    select 'bench-' || n, 'Given', 'Family' from generate_series(1, ${answers / OWN}::int) n`);
  await orm.execute(sql`insert into enrolments (course_id, person_id, status)
    select ${courseId}, id, 'active' from persons where external_id like 'bench-%'`);
  await orm.execute(sql`insert into activities (course_id, external_id, title, kind, points, position)
    select ${courseId}, 'bench-q' || q, 'Quiz ' || q, 'quiz', 10, 900 + q from generate_series(1, 5) q`);
  await orm.execute(sql`insert into outcomes (course_id, external_id, title, prerequisites, position)
    select ${courseId}, 'bench-o' || o, 'Outcome ' || o, '[]', 900 + o from generate_series(1, ${OUTCOMES - 10}::int) o`);
  await orm.execute(sql`insert into activity_outcomes (activity_id, outcome_id)
    select a.id, o.id from activities a join outcomes o on o.course_id = a.course_id
    where a.course_id = ${courseId} and a.external_id like 'bench-q%' and o.external_id like 'bench-o%' and (a.id + o.id) % 5 = 0`);
  await orm.execute(sql`insert into responses (enrolment_id, activity_id, item, attempt, answer, at, score)
    select e.id, a.id, 'item ' || i, 1, 'A', '2026-11-01T10:00:00Z', (e.id + a.id + i) % 3 / 2.0
    from (select id from activities where course_id = ${courseId} and external_id like 'bench-q%') a
    cross join (select id from enrolments where course_id = ${courseId}) e
    cross join generate_series(1, ${OWN / 5}::int) i`);
  await orm.execute(
    sql`insert into outcome_priors select id, 1, 1 from outcomes where course_id = ${courseId}`,
  );
  await orm.execute(sql`analyze responses`);
}

/** What it takes to bring a student up to date after one answer, in a course with so many answers. */
async function afterOne(answers: number): Promise<number> {
  process.env.LANTERN_NOW = new Date(NOW).toISOString();
  const { db, courseId, close } = await benchCourse({ students: 1, events: 0 });
  setDatabase(db);
  await fill(db, courseId, answers);
  await db.orm.execute(sql`update courses set evaluated_at = now() where id = ${courseId}`);
  const course = await loadCourseModel(db, courseId);
  const { rows } = (await db.orm.execute(
    sql`select id from enrolments where course_id = ${courseId} order by id limit ${ROUNDS}`,
  )) as unknown as { rows: { id: number }[] };
  const times: number[] = [];
  // The first reads the plans in.
  await refreshMasteries(db, course, [rows[0]!.id], NOW);
  for (const { id } of rows) times.push(await timed(() => refreshMasteries(db, course, [id], NOW)));
  await close();
  return median(times);
}

/** Mastery of a large class, what one answer costs, and the view. */
export async function benchMastery(): Promise<void> {
  console.log(
    `Mastery of ${STUDENTS.toLocaleString('en')} students by ${OUTCOMES} outcomes from ${(STUDENTS * QUIZZES * ITEMS).toLocaleString('en')} answers`,
  );
  const big = bigClass();
  levels(big);
  const whole = await timed(() => levels(big));
  bound('levels and means', whole / 1000, 3, 'at most', 'seconds');
  const few = await afterOne(50_000);
  const many = await afterOne(2_000_000);
  console.log(`  after one answer: ${ms(few)} of 50,000, ${ms(many)} of 2,000,000`);
  bound('one answer of 2,000,000 against one of 50,000', many / few, 1.5, 'at most');
}
