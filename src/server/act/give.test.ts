import { eq, sql } from 'drizzle-orm';
import { afterEach, describe, expect, it } from 'vitest';
import { NOW, withSmallCourse } from '../../../tests/support/course';
import type { GiveForm } from '@/core/forms/give';
import {
  activities,
  assignedActivities,
  courses,
  enrolments,
  givenBatches,
  scores,
  sections,
} from '@/data/schema';
import { gradebookView } from '../look/gradebook';
import { studentHome } from '../look/student';
import { workView } from '../look/work';
import { evaluateNow } from '../derive/evaluation';
import { bringPlans } from '../plans/bring';
import { snapshotOf } from '../snapshot/snapshot';
import { saveAccommodation } from './accommodations';
import { undoBatch } from './gradeChange';
import { giveChoices, giveTo, previewGive, removeGiven, undoGiven } from './give';

const small = withSmallCourse();
const me = () => small.course.instructor;
const db = () => small.test.db;
const orm = () => db().orm;
const AT = Date.parse(NOW);
const DAY = 86_400_000;
const clock = (days: number) => void (process.env.LANTERN_NOW = new Date(AT + days * DAY).toISOString());

const idOf = async (externalId: string) =>
  (await orm().select().from(activities).where(eq(activities.externalId, externalId)))[0]!.id;
const placeOf = async (student: string) => (await small.course.student(student)).enrolmentId;
const form = async (
  works: readonly string[],
  who: readonly string[],
  over: Partial<GiveForm> = {},
): Promise<GiveForm> => ({
  target: null,
  students: await Promise.all(who.map(placeOf)),
  activities: await Promise.all(works.map(idOf)),
  opensAt: null,
  dueAt: AT + 4 * DAY,
  closesAt: null,
  onlyTheirs: false,
  again: false,
  ...over,
});
/** What is missing of each student, by their measures. */
async function missing(student: string): Promise<readonly string[]> {
  await evaluateNow(db(), small.course.courseId);
  const [row] = await orm().select().from(courses).where(eq(courses.id, small.course.courseId));
  const snapshot = await snapshotOf(row!);
  const measured = (await snapshot.measures()).get(await placeOf(student))!;
  const { activities: all } = await snapshot.model();
  return measured.completion.missing.map((id) => all.find((a) => String(a.id) === id)!.externalId);
}

afterEach(async () => {
  clock(0);
  await orm().delete(assignedActivities);
  await orm().update(activities).set({ forSome: false });
  await orm()
    .update(courses)
    .set({ setupRev: sql`${courses.setupRev} + 1`, rev: sql`${courses.rev} + 1` });
  await orm().update(enrolments).set({ rev: 1_000_000 });
});

describe('assigning to some', () => {
  it('says who has it and who has done it, skips them or gives it again, and is undone at once', async () => {
    // Everybody but the second has handed the first exercise in or was excused.
    const asked = await form(['w2', 'q2'], ['s1', 's2', 's4']);
    const before = await previewGive(me(), 'NAV', asked);
    expect(before).toMatchObject({ students: 3, gives: 3, have: [], narrows: [] });
    expect(before.done).toEqual(['Łucja Wójcik', 'Ida Wren']);
    const { batch, words } = await giveTo(me(), 'NAV', asked);
    expect(words).toBe('Chart exercise 2 and Final quiz assigned to 3 students');
    // The done exercise is skipped for two, the quiz is given to all three.
    expect(await orm().select().from(assignedActivities)).toHaveLength(4);
    const after = await previewGive(me(), 'NAV', asked);
    expect(after).toMatchObject({ gives: 0, done: ['Łucja Wójcik', 'Ida Wren'] });
    expect(after.have.toSorted()).toEqual(['Ida Wren', 'Ömer Yıldız', 'Łucja Wójcik'].toSorted());
    await expect(giveTo(me(), 'NAV', asked)).rejects.toThrow('Everybody has it');
    expect(await undoGiven(me(), 'NAV', batch)).toBe(4);
    expect(await orm().select().from(assignedActivities)).toHaveLength(0);
    await expect(undoGiven(me(), 'NAV', batch)).rejects.toThrow('to undo');
  });

  it('moves the due date for those alone, and grants one more attempt where it is given again', async () => {
    expect(await missing('s2')).toContain('w2');
    const asked = await form(['w2'], ['s1', 's2'], { again: true });
    const { batch } = await giveTo(me(), 'NAV', asked);
    expect(await missing('s2')).not.toContain('w2');
    const cell = async (student: string) =>
      (
        await orm()
          .select()
          .from(scores)
          .where(
            sql`${scores.enrolmentId} = ${await placeOf(student)} and ${scores.activityId} = ${await idOf('w2')}`,
          )
      )[0];
    expect((await cell('s1'))!.extraAttempts).toBe(1);
    const { viewer } = await small.course.student('s2');
    const [own] = (await studentHome(viewer)).courses;
    expect(own!.assigned.map((a) => [a.title, a.due])).toEqual([['Chart exercise 2', AT + 4 * DAY]]);
    await undoGiven(me(), 'NAV', batch);
    expect((await cell('s1'))!.extraAttempts).toBe(0);
    expect(await missing('s2')).toContain('w2');
  });

  it('is decided by what holds when it is written: twice at once gives one attempt, and undone none', async () => {
    const asked = await form(['w2'], ['s1'], { again: true });
    const extra = async () =>
      (
        await orm()
          .select()
          .from(scores)
          .where(
            sql`${scores.enrolmentId} = ${await placeOf('s1')} and ${scores.activityId} = ${await idOf('w2')}`,
          )
      )[0]!.extraAttempts;
    const both = await Promise.allSettled([giveTo(me(), 'NAV', asked), giveTo(me(), 'NAV', asked)]);
    expect(both.map((b) => b.status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(await extra()).toBe(1);
    for (const b of both) if (b.status === 'fulfilled') await undoGiven(me(), 'NAV', b.value.batch);
    expect(await extra()).toBe(0);
    // With another date it is given again; undone in turn nothing is left either.
    const later = { ...asked, dueAt: AT + 6 * DAY };
    const two = await Promise.all([giveTo(me(), 'NAV', asked), giveTo(me(), 'NAV', later)]);
    expect(await extra()).toBe(2);
    for (const { batch } of two.toSorted((a, b) => b.batch - a.batch)) await undoGiven(me(), 'NAV', batch);
    expect(await extra()).toBe(0);
    expect(await orm().select().from(assignedActivities)).toHaveLength(0);
  });

  it('can be undone after the attempts that went with it were undone in the gradebook', async () => {
    const asked = await form(['w2'], ['s1', 's2'], { again: true });
    const { batch } = await giveTo(me(), 'NAV', asked);
    const [row] = await orm().select().from(givenBatches).where(eq(givenBatches.id, batch));
    await undoBatch(me(), 'NAV', row!.gradeBatch!);
    expect(await undoGiven(me(), 'NAV', batch)).toBe(2);
    expect(await orm().select().from(assignedActivities)).toHaveLength(0);
    await expect(undoBatch(me(), 'NAV', row!.gradeBatch!)).rejects.toThrow('change to undo');
  });

  it('leaves nobody behind on what is not theirs', async () => {
    expect(await missing('s2')).toEqual(['w2', 'w3', 'q1']);
    const { batch } = await giveTo(
      me(),
      'NAV',
      await form(['w3'], ['s3'], { onlyTheirs: true, again: true }),
    );
    expect(await missing('s2')).toEqual(['w2', 'q1']);
    const row = (await gradebookView(me(), 'NAV', {})).rows.find((r) => r.family === 'Yıldız')!;
    const columns = (await gradebookView(me(), 'NAV', {})).columns.map((c) => c.title);
    expect(row.statuses[columns.indexOf('Chart exercise 3')]).toBe('o');
    // Who has done it all the same has done it; whose it is not is not counted in its list.
    const list = (await workView(me(), 'NAV', await idOf('w3'), {})).rows;
    expect(list.map((r) => r.family).sort()).toEqual(['Li', 'Wren', 'Wójcik']);
    const { viewer } = await small.course.student('s2');
    const titles = (await studentHome(viewer)).courses[0]!.assignments.map((a) => a.title);
    expect(titles).not.toContain('Chart exercise 3');
    await undoGiven(me(), 'NAV', batch);
    expect(await missing('s2')).toEqual(['w2', 'w3', 'q1']);
  });

  it('gives more time to who gets it, and resources to many, which can be removed again', async () => {
    const enrolmentId = await placeOf('s1');
    await saveAccommodation(me(), 'NAV', { enrolmentId, moreTime: 50, readAloud: true });
    const asked = await form(['r1', 'r2'], [], { target: 'all' });
    const seen = await previewGive(me(), 'NAV', asked);
    expect(seen.later).toEqual(['Łucja Wójcik']);
    await giveTo(me(), 'NAV', asked);
    const rows = await orm()
      .select()
      .from(assignedActivities)
      .where(eq(assignedActivities.enrolmentId, enrolmentId));
    expect(rows.map((r) => r.dueAt!.getTime())).toContain(AT + 6 * DAY);
    const { words, batch } = await removeGiven(me(), 'NAV', {
      target: 'all',
      students: [],
      activities: [await idOf('r2')],
    });
    expect(words).toBe('Heights on film removed from 4 students');
    await undoGiven(me(), 'NAV', batch);
    expect(
      await orm()
        .select()
        .from(assignedActivities)
        .where(eq(assignedActivities.activityId, await idOf('r2'))),
    ).toHaveLength(4);
    const { viewer } = await small.course.student('s1');
    expect((await studentHome(viewer)).courses[0]!.readAloud).toBe(true);
  });

  it('comes to whoever joins a section before it opens, and not after', async () => {
    const [monday] = await orm().select().from(sections).where(eq(sections.name, 'Monday'));
    const target = String(monday!.id) as GiveForm['target'];
    await giveTo(me(), 'NAV', await form(['q2'], [], { target, opensAt: AT + 2 * DAY, dueAt: AT + 9 * DAY }));
    const whose = async () =>
      (await orm().select().from(assignedActivities)).map((g) => g.enrolmentId).sort((a, b) => a - b);
    const [s1, s2, s3, s4] = await Promise.all(['s1', 's2', 's3', 's4'].map(placeOf));
    expect(await whose()).toEqual([s1, s2].sort((a, b) => a! - b!));
    await orm().update(enrolments).set({ sectionId: monday!.id }).where(eq(enrolments.id, s3!));
    await bringPlans(db(), small.course.courseId);
    await bringPlans(db(), small.course.courseId);
    expect(await whose()).toEqual([s1, s2, s3].sort((a, b) => a! - b!));
    clock(3);
    await orm().update(enrolments).set({ sectionId: monday!.id }).where(eq(enrolments.id, s4!));
    await bringPlans(db(), small.course.courseId);
    expect(await whose()).toEqual([s1, s2, s3].sort((a, b) => a! - b!));
  });

  it('proposes what it rests on, and refuses strangers, other courses and dates that cannot be', async () => {
    const asked = await form(['q1'], ['s2']);
    expect((await previewGive(me(), 'NAV', asked)).mixIn).toEqual([
      { id: await idOf('r1'), title: 'Fixing in four pages', outcome: 'Position fixing' },
    ]);
    await expect(previewGive(small.course.stranger, 'NAV', asked)).rejects.toThrow();
    await expect(giveTo(me(), 'NAV', { ...asked, activities: [99_999] })).rejects.toThrow(
      'activity in this course',
    );
    await expect(giveTo(me(), 'NAV', { ...asked, students: [99_999] })).rejects.toThrow(
      'Somebody of the selected',
    );
    await expect(giveTo(me(), 'NAV', { ...asked, target: 'a99' })).rejects.toThrow('nobody in it');
    expect((await giveChoices(me(), 'NAV')).targets.map((t) => t.label)).toEqual([
      'everybody in the course',
      'section Monday',
      'section Online',
    ]);
  });
});
