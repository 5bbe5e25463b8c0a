import { and, eq, sql } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { NOW, withSmallCourse } from '../../../tests/support/course';
import { activities, attempts, courses, scoreChanges, scores } from '@/data/schema';
import { grade } from '@/server/act/grade';
import { undoBatch } from '@/server/act/gradeChange';
import { saveCourse } from '@/server/act/course/parts';
import { evaluateNow } from '@/server/derive/evaluation';
import { setupView } from '@/server/look/setup';

const small = withSmallCourse();
const me = () => small.course.instructor;
const orm = () => small.test.db.orm;

const quiz = async () =>
  (await orm().select().from(activities).where(eq(activities.externalId, 'q1')))[0]!.id;
const cellOf = async (student: string) => {
  const { enrolmentId } = await small.course.student(student);
  return { enrolmentId, activityId: await quiz() };
};
async function pointsOf(student: string): Promise<number | null> {
  const { enrolmentId, activityId } = await cellOf(student);
  const [row] = await orm()
    .select()
    .from(scores)
    .where(and(eq(scores.enrolmentId, enrolmentId), eq(scores.activityId, activityId)));
  return row?.points ?? null;
}
async function tries(student: string, ...points: (number | null)[]) {
  const cell = await cellOf(student);
  await orm()
    .insert(attempts)
    .values(
      points.map((p, i) => ({
        ...cell,
        number: i + 1,
        submittedAt: new Date(Date.parse(NOW) + i),
        points: p,
      })),
    );
}
const setPolicy = async (attemptsCount: 'first' | 'best' | 'last' | 'average' | null) => {
  const { form } = await setupView(me(), 'NAV');
  await saveCourse(me(), 'NAV', { ...form, attempts: attemptsCount });
};

describe('which attempt counts', () => {
  it('changes the grades of those with several, keeps what was given by hand, and gives all back', async () => {
    await tries('s1', 4, null, 9, 5);
    await tries('s4', 7);
    for (const [policy, is] of [
      ['first', 4],
      ['last', 5],
      ['average', 6],
      ['best', 9],
    ] as const) {
      await setPolicy(policy);
      expect([policy, await pointsOf('s1'), await pointsOf('s4')]).toEqual([policy, is, 7]);
    }
    await setPolicy('first');
    const cell = await cellOf('s1');
    const history = await orm()
      .select()
      .from(scoreChanges)
      .where(eq(scoreChanges.enrolmentId, cell.enrolmentId));
    expect(history.map((c) => [c.action, c.before.points, c.after.points])).toEqual([
      ['attempts', 9, 4],
      ['attempts', 4, 5],
      ['attempts', 5, 6],
      ['attempts', 6, 9],
      ['attempts', 9, 4],
    ]);
    await expect(undoBatch(me(), 'NAV', history.at(-1)!.batch)).rejects.toThrow('Course setup');
    await setPolicy(null);
    expect(await pointsOf('s1')).toBe(9);
    await grade(me(), 'NAV', [{ ...cell, seen: { points: 9, excused: false }, points: 8 }]);
    await setPolicy('first');
    expect(await pointsOf('s1')).toBe(8);
  });

  it('follows attempts that come in later, with the next evaluation', async () => {
    await setPolicy('last');
    await tries('s3', 3, 6);
    const { enrolmentId, activityId } = await cellOf('s3');
    await orm()
      .update(scores)
      .set({ points: 3, returnedAt: new Date(NOW) })
      .where(sql`${scores.enrolmentId} = ${enrolmentId} and ${scores.activityId} = ${activityId}`);
    await evaluateNow(small.test.db, small.course.courseId);
    expect(await pointsOf('s3')).toBe(6);
    const [row] = await orm().select().from(courses).where(eq(courses.id, small.course.courseId));
    expect(row!.attemptPolicy).toBe('last');
  });
});
