import { and, eq, sql } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { quantile } from 'simple-statistics';
import { file, NOW, withSmallCourse } from '../../../tests/support/course';
import { LEAST_TIMES, QUICK_SHARE } from '@/core/items/effort';
import { findItemNorms, readLearning, type NormRow } from '@/data/queries/learning';
import { activities, enrolments, persons } from '@/data/schema';
import { importFiles } from '../intake/intake';

const small = withSmallCourse();
const db = () => small.test.db;
const bring = (lines: readonly string[]) =>
  importFiles(
    db(),
    small.course.courseId,
    small.course.instructor.userId,
    [
      file(
        'responses.csv',
        ['student_id,activity_id,item_id,attempt,answer,at,score,seconds,hints', ...lines].join('\n'),
      ),
    ],
    Date.parse(NOW),
  );
const idOf = async (who: string) =>
  (
    await db()
      .orm.select({ id: enrolments.id })
      .from(enrolments)
      .innerJoin(persons, eq(persons.id, enrolments.personId))
      .where(and(eq(persons.externalId, who), eq(enrolments.courseId, small.course.courseId)))
  )[0]!.id;
const quizId = async (externalId: string) =>
  (
    await db()
      .orm.select({ id: activities.id })
      .from(activities)
      .where(and(eq(activities.externalId, externalId), eq(activities.courseId, small.course.courseId)))
  )[0]!.id;
const line = (who: string, item: string, answer: string, score: number, seconds = 40, hints = 0) =>
  `${who},q1,${item},1,${answer},2026-10-20T10:00:00Z,${score},${seconds},${hints}`;

describe('what answers are evidence of', () => {
  it('leaves out what came too quickly or at random, and takes what came after a hint for half', async () => {
    const items = Array.from({ length: 10 }, (_, i) => `i${i}`);
    const letters = ['A', 'B', 'C', 'D'];
    await bring([
      // Slow and mixed: two of ten right, one after a hint, one wrong that came too quickly.
      ...items.map((item, i) =>
        line('s1', item, letters[i % 4]!, i < 2 ? 1 : 0, i === 9 ? 1 : 40, i === 0 ? 1 : 0),
      ),
      // The same answer throughout.
      ...items.map((item, i) => line('s2', item, 'B', i % 4 === 1 ? 1 : 0)),
      // In a hurry, no better with the easy ones; a long pause does not hide it.
      ...items.map((item, i) =>
        line('s3', item, letters[(i * 3) % 4]!, i === 1 || i === 6 ? 1 : 0, i === 5 ? 900 : 9),
      ),
      // In a hurry, and right.
      ...items.map((item, i) => line('s4', item, letters[i % 4]!, 1, 9)),
    ]);
    const activityId = await quizId('q1');
    const norms: NormRow[] = items.map((item, i) => ({
      activityId,
      item,
      p: 0.95 - 0.08 * i,
      least: 4,
      usual: 40,
      choices: 4,
    }));
    const { answers } = await readLearning(db(), small.course.courseId, norms);
    const of = async (who: string) => answers.get(await idOf(who)) ?? [];
    expect(await of('s1')).toMatchObject([{ responses: 9, worth: 8.5, share: 1.5 / 8.5 }]);
    expect([await of('s2'), await of('s3')]).toEqual([[], []]);
    expect(await of('s4')).toMatchObject([{ responses: 10, worth: 10, share: 1 }]);
    // Without norms nothing is known of time, and of one student alone the same is found.
    const bare = await readLearning(db(), small.course.courseId, []);
    expect(bare.answers.get(await idOf('s1'))).toMatchObject([{ responses: 10, worth: 9.5 }]);
    const alone = await readLearning(db(), small.course.courseId, norms, [await idOf('s1')]);
    expect(alone.answers.get(await idOf('s1'))).toEqual(await of('s1'));
  });

  it('measures an item by the first answers: mean, choices, and from twenty times on how long it takes', async () => {
    const { orm } = db();
    const activityId = await quizId('q2');
    await orm.execute(sql`insert into persons (external_id, given, family)
      select 'n' || k, 'Given', 'Family' from generate_series(1, ${LEAST_TIMES}::int) k`);
    await orm.execute(sql`insert into enrolments (course_id, person_id, status)
      select ${small.course.courseId}, id, 'active' from persons where external_id ~ '^n[0-9]+$'`);
    const times = Array.from({ length: LEAST_TIMES }, (_, i) => 10 + 7 * i);
    await orm.execute(sql`insert into responses (enrolment_id, activity_id, item, attempt, answer, score, seconds)
      select e.id, ${activityId}, i.item, 1, case when k % 2 = 0 then 'A' else ' ' end, k % 2,
        case when i.item = 'many' or k < ${LEAST_TIMES}::int then 10 + 7 * (k - 1) end
      from (select id, substr(external_id, 2)::int as k from persons where external_id ~ '^n[0-9]+$') p
      join enrolments e on e.person_id = p.id and e.course_id = ${small.course.courseId}
      cross join (values ('many'), ('few')) i(item)`);
    const norms = await findItemNorms(db(), small.course.courseId);
    const of = (item: string) => norms.find((n) => n.activityId === activityId && n.item === item)!;
    // The quantile of type 7 by hand: 5 % of 19 steps is 0.95 of the way to the second.
    expect(of('many').least).toBeCloseTo(QUICK_SHARE * (10 + 7 * 0.95), 9);
    expect(of('many').usual).toBeCloseTo(quantile(times, 0.5), 9);
    expect(of('many')).toMatchObject({ p: 0.5, choices: 1 });
    expect(of('few')).toMatchObject({ least: null, usual: null });
  });
});
