import { and, eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { file, NOW, withSmallCourse } from '../../../tests/support/course';
import { activities, scores } from '@/data/schema';
import { askWhy } from '../act/askWhy';
import { DAY_MS } from '@/core/units';
import { extend } from '../act/grade';
import { handleQuestions, setKeyShown } from '../act/items';
import { setupChanged } from '../derive/setupChanged';
import { importFiles } from '../intake/intake';
import { itemsView, questionsOpen } from './items';
import { ownAnswers } from './ownLearning';
import { studentHome } from './student';

const small = withSmallCourse();
const me = () => small.course.instructor;
const orm = () => small.test.db.orm;
const bring = (name: string, lines: readonly string[]) =>
  importFiles(
    small.test.db,
    small.course.courseId,
    me().userId,
    [file(name, lines.join('\n'))],
    Date.parse(NOW),
  );
const work = async (externalId: string) =>
  (
    await orm()
      .select()
      .from(activities)
      .where(and(eq(activities.courseId, small.course.courseId), eq(activities.externalId, externalId)))
  )[0]!;

/** A cell in which nothing stands. */
const UNSEEN = { points: null, excused: false };

describe('a student’s own learning', () => {
  it('is in words with what would move it, and names nobody else', async () => {
    await bring('items.csv', [
      'activity_id,item_id,key,stem,options,explanation',
      'q1,i1,A,Which way?,A=ebb|B=flood,<b>See</b> the atlas.',
      'q2,i1,B,Later?,A=yes|B=no,',
    ]);
    await bring('responses.csv', [
      'student_id,activity_id,item_id,attempt,answer,at,score',
      's1,q1,i1,1,B,2026-10-20T10:00:00Z,0',
      's1,q2,i1,1,A,2026-10-20T11:00:00Z,0',
      's3,q1,i1,1,A,2026-10-20T10:00:00Z,1',
      's4,q1,i1,1,B,2026-10-20T10:00:00Z,0',
    ]);
    const { viewer } = await small.course.student('s4');
    const [course] = (await studentHome(viewer)).courses;
    const heights = course!.outcomes.find((o) => o.title === 'Tidal heights')!;
    expect(heights.rests.map((r) => r.title)).toEqual(['Chart exercise 3', 'Tides quiz']);
    expect(heights.movers).toEqual(
      expect.arrayContaining(['hand in Final quiz', 'watch Heights on film']) as string[],
    );
    expect(course!.next).toMatch(/^For .+: (hand in|try|watch|read) /);
    const text = JSON.stringify(course);
    for (const other of ['Łucja', 'Wójcik', 'Ömer', 'Bo Li']) expect(text).not.toContain(other);
  });

  it('shows the key and why once the quiz is over, and never before', async () => {
    const { viewer } = await small.course.student('s1');
    const [over, open] = [await work('q1'), await work('q2')];
    const shown = async () => (await studentHome(viewer)).courses[0]!.disclosed.map((q) => q.title);
    // Due a week ago, but late work is taken: somebody can still submit it until it closes.
    expect(await shown()).toEqual([]);
    await orm().update(activities).set({ closesAt: over.dueAt }).where(eq(activities.id, over.id));
    await setupChanged(small.test.db, small.course.courseId);
    const [course] = (await studentHome(viewer)).courses;
    expect(course!.disclosed.map((q) => q.title)).toEqual(['Tides quiz']);
    // An extension of one student holds it back from all.
    const late = await small.course.student('s3');
    const cell = { enrolmentId: late.enrolmentId, activityId: over.id, seen: UNSEEN };
    await extend(me(), 'NAV', [cell], Date.parse(NOW) + DAY_MS);
    expect(await shown()).toEqual([]);
    await expect(ownAnswers(viewer, over.id)).rejects.toThrow('whose answers are open yet');
    await extend(me(), 'NAV', [cell], null);
    expect(JSON.stringify(course)).not.toContain('See</b>');
    expect(await ownAnswers(viewer, over.id)).toMatchObject([
      {
        item: 'i1',
        stem: 'Which way?',
        answer: 'B',
        answerText: 'flood',
        score: 0,
        right: [{ option: 'A', text: 'ebb' }],
        explanation: '<b>See</b> the atlas.',
      },
    ]);
    await expect(ownAnswers(viewer, open.id)).rejects.toThrow('whose answers are open yet');
    // One's own last attempt does not end it for the others; the instructor can say so.
    await orm().update(activities).set({ attemptsAllowed: 1 }).where(eq(activities.id, open.id));
    await expect(ownAnswers(viewer, open.id)).rejects.toThrow('whose answers are open yet');
    await orm().update(activities).set({ attemptsAllowed: null }).where(eq(activities.id, open.id));
    await expect(
      setKeyShown(small.course.stranger, 'NAV', { activityId: open.id, shown: 'now' }),
    ).rejects.toThrow();
    const before = await setKeyShown(me(), 'NAV', { activityId: open.id, shown: 'attempt' });
    expect(await ownAnswers(viewer, open.id)).toHaveLength(1);
    await setKeyShown(me(), 'NAV', { activityId: open.id, shown: before });
    await expect(ownAnswers(viewer, open.id)).rejects.toThrow('whose answers are open yet');
  });

  it('holds back what is not returned, and what is of others', async () => {
    const { viewer, enrolmentId } = await small.course.student('s4');
    const quiz = await work('q1');
    const cell = and(eq(scores.enrolmentId, enrolmentId), eq(scores.activityId, quiz.id));
    const [before] = await orm().select().from(scores).where(cell);
    await orm().update(scores).set({ returnedAt: null }).where(cell);
    await expect(ownAnswers(viewer, quiz.id)).rejects.toThrow('open yet');
    await orm().update(scores).set({ returnedAt: before!.returnedAt }).where(cell);
    const { viewer: away } = await small.course.student('s2');
    await expect(askWhy(away, quiz.id, 'i1', true)).rejects.toThrow();
    await expect(ownAnswers(me(), quiz.id)).rejects.toThrow();
  });

  it('lets them say that they do not see why: the instructor is told, and says that it is handled', async () => {
    const { viewer, enrolmentId } = await small.course.student('s1');
    const quiz = await work('q1');
    const count = () => questionsOpen({ id: small.course.courseId });
    await askWhy(viewer, quiz.id, 'i1', true);
    await askWhy(viewer, quiz.id, 'i1', true);
    expect(await count()).toBe(1);
    const view = await itemsView(me(), 'NAV', { work: quiz.id });
    expect(view.asks).toEqual([{ item: 'i1', students: [enrolmentId] }]);
    expect((await ownAnswers(viewer, quiz.id))[0]!.asked).toBe(true);
    await askWhy(viewer, quiz.id, 'i1', false);
    expect(await count()).toBe(0);
    await askWhy(viewer, quiz.id, 'i1', true);
    await expect(handleQuestions(small.course.stranger, 'NAV', quiz.id, 'i1')).rejects.toThrow();
    expect(await handleQuestions(me(), 'NAV', quiz.id, 'i1')).toBe(1);
    await expect(handleQuestions(me(), 'NAV', quiz.id, 'i1')).rejects.toThrow('no such open question');
    expect(await count()).toBe(0);
    await expect(askWhy(viewer, quiz.id, 'i9', true)).rejects.toThrow('answer of yours');
  });
});
