import { and, eq, isNull } from 'drizzle-orm';
import { isResource } from '@/core/course/kinds';
import { secondsByActivity } from '@/core/activity/workDays';
import type { GiveForm, RemoveGivenForm } from '@/core/forms/give';
import { counted, listed } from '@/core/format';
import { granted } from '@/core/gradebook/changes';
import { isSubmitted } from '@/core/gradebook/status';
import { decideGive, sameDates, type Give, type GivenChange, type GivenDates } from '@/core/plans/given';
import { mixIn } from '@/core/plans/mixIn';
import { prerequisitesById } from '@/core/outcomes/prerequisites';
import { USUAL_MINUTES } from '@/core/plans/propose';
import { IN_FULL_SHARE } from '@/core/plans/ticks';
import type { GiveChoices, GivePreview } from '@/core/views/give';
import { audiencesOf } from '@/data/queries/audiences';
import type { Access, Database } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { idsIn } from '@/data/queries/idsIn';
import { loadScores, stateOf } from '@/data/queries/scores';
import { activities, givenBatches } from '@/data/schema';
import { requireCourse, type Viewer } from '../access/viewer';
import { undoIn, writeBatch } from './gradeChange';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { wakeRunner } from '../jobs/queue';
import { roster } from '../snapshot/roster';
import { decidedUnderLock } from '../snapshot/decidedUnderLock';
import { snapshotOf, type Snapshot } from '../snapshot/snapshot';
import { dateOf, follows, givenTo, moreTimeOf, writeGiven } from '../plans/givenRows';
import { targetMembers } from '../plans/members';
import { underLock } from '@/data/write/underLock';

type Who = Pick<GiveForm, 'target' | 'students' | 'activities'>;

/** Whom something is for, and what; refused if it is of another course, or nobody's. */
async function whomAndWhat(db: Database, course: CourseRow, viewer: Viewer, form: Who) {
  const snapshot = await snapshotOf(course);
  const model = await snapshot.model();
  const byId = new Map(model.activities.map((a) => [a.id, a]));
  const what = [...new Set(form.activities)].map((id) => byId.get(id));
  if (what.some((a) => a == null)) throw notFound('activity in this course');
  const active = (await roster(course.id)).filter((p) => p.status === 'active');
  const asked = new Set(
    form.target == null ? form.students : await targetMembers(db, course, form.target, viewer.userId),
  );
  const people = active.filter((p) => asked.has(p.enrolmentId));
  if (form.target == null && people.length < asked.size)
    throw invalid('Somebody of the selected is not (any more) in this course; nothing was changed.');
  if (people.length === 0) throw invalid('There is nobody in it to assign it to.');
  return { snapshot, model, what: what.map((a) => a!), people };
}

/** Whether a student has done an activity: handed in, or opened in full. */
async function doneBy(snapshot: Snapshot): Promise<(student: number, activity: number) => boolean> {
  const { activities: all } = await snapshot.model();
  const byId = new Map(all.map((a) => [a.id, a]));
  const scores = await snapshot.scores();
  const workDays = await snapshot.workDays();
  const at = now();
  return (student, id) => {
    const activity = byId.get(id)!;
    if (!isResource(activity.kind)) return isSubmitted(scores.get(student)?.get(String(id)), at);
    const seconds = secondsByActivity(workDays.get(student)).get(id) ?? 0;
    return seconds >= IN_FULL_SHARE * (activity.minutes ?? USUAL_MINUTES) * 60;
  };
}

async function decide(db: Database, course: CourseRow, viewer: Viewer, form: GiveForm) {
  const found = await whomAndWhat(db, course, viewer, form);
  const students = found.people.map((p) => p.enrolmentId);
  const ids = found.what.map((a) => a.id);
  const dates: GivenDates = { opensAt: form.opensAt, dueAt: form.dueAt, closesAt: form.closesAt };
  const give = decideGive({
    students,
    activities: ids,
    dates,
    again: form.again,
    now: now(),
    has: await givenTo(db, ids),
    isDone: await doneBy(found.snapshot),
    moreTime: await moreTimeOf(db, students),
  });
  return { ...found, give };
}

/** What the sheet that assigns is filled from. */
export async function giveChoices(viewer: Viewer, code: string): Promise<GiveChoices> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  const { activities: all, sections } = await (await snapshotOf(course)).model();
  const saved = await audiencesOf(db, course.id);
  return {
    activities: all.map(({ id, title, kind }) => ({ id, title, resource: isResource(kind) })),
    targets: [
      { value: 'all', label: 'everybody in the course' },
      ...sections.map((s) => ({ value: String(s.id), label: `section ${s.name}` })),
      ...saved.map((a) => ({ value: `a${a.id}`, label: a.name })),
    ],
    zone: course.zone,
  };
}

/** What assigning something would do, before it is done. */
export async function previewGive(viewer: Viewer, code: string, form: GiveForm): Promise<GivePreview> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  const { people, what, model, give } = await decide(db, course, viewer, form);
  const nameOf = new Map(people.map((p) => [p.enrolmentId, p.name]));
  const names = (ids: readonly number[]) => ids.flatMap((id) => nameOf.get(id) ?? []);
  return {
    students: people.length,
    gives: new Set(give.changes.map((c) => c.enrolmentId)).size,
    have: names(give.have),
    done: names(give.done),
    later: names(give.later),
    narrows: form.onlyTheirs ? what.filter((a) => !a.forSome).map((a) => a.title) : [],
    mixIn: mixIn(
      model.activities,
      form.activities,
      prerequisitesById(model.outcomes),
      (id) => model.covers.get(String(id)) ?? [],
    ).map(({ activity, outcome }) => ({
      id: activity.id,
      title: activity.title,
      outcome: model.outcomes.find((o) => String(o.id) === outcome)?.title ?? '',
    })),
  };
}

/** Assigns activities to students with their own dates; returns what undoes it, and what it did in words. */
export async function giveTo(
  viewer: Viewer,
  code: string,
  form: GiveForm,
): Promise<{ readonly batch: number; readonly words: string }> {
  const allowed = await requireCourse(viewer, 'act', code);
  const db = await database();
  const done = await decidedUnderLock(
    db,
    allowed.id,
    async (course) => {
      const { what, give } = await decide(db, course, viewer, form);
      if (give.changes.length === 0)
        throw invalid('Everybody has it, or has done it. Choose to assign it again if they are to.');
      // Another attempt is a matter of grades.
      if (give.again.length > 0) await requireCourse(viewer, 'grade', code);
      return { course, what, give, everybody: (await roster(course.id)).map((p) => p.enrolmentId) };
    },
    async (tx, { course, what, give, everybody }) => {
      const narrowed = form.onlyTheirs ? what.filter((a) => !a.forSome).map((a) => a.id) : [];
      const students = [...new Set(give.changes.map((c) => c.enrolmentId))];
      const words = `${listed(what.map((a) => a.title))} assigned to ${counted(students.length, 'student')}`;
      await setForSome(tx, narrowed, true);
      const batch = await record(tx, course, viewer, {
        words,
        target: form.target,
        opensAt: dateOf(form.opensAt),
        dueAt: dateOf(form.dueAt),
        closesAt: dateOf(form.closesAt),
        activityIds: what.map((a) => a.id),
        changes: [...give.changes],
        narrowed,
        gradeBatch: await grantAgain(tx, course, viewer, give),
      });
      // Where it is theirs alone now, it is expected of all the others no more.
      const touched = narrowed.length > 0 ? everybody : students;
      await follows(tx, course.id, touched, narrowed.length > 0);
      return { batch, words };
    },
  );
  wakeRunner();
  return done;
}

/** One more attempt for whoever has done what is given again; the name of that change in the gradebook's history. */
async function grantAgain(
  tx: Access,
  course: CourseRow,
  viewer: Viewer,
  { again }: Give,
): Promise<string | null> {
  if (again.length === 0) return null;
  const stored = await loadScores(tx, course.id, [...new Set(again.map((c) => c.enrolmentId))]);
  return writeBatch(
    tx,
    course,
    viewer,
    'grant attempt',
    again.map((cell) => {
      const before = stateOf(stored.get(cell.enrolmentId)?.get(String(cell.activityId)));
      return { ...cell, before, after: granted(before) };
    }),
  );
}

const setForSome = async ({ orm }: Access, ids: readonly number[], forSome: boolean): Promise<void> => {
  if (ids.length > 0) await orm.update(activities).set({ forSome }).where(idsIn(activities.id, ids));
};

/** Writes what is given and removed, and keeps it so that it can be undone; returns its number. */
async function record(
  tx: Access,
  course: CourseRow,
  viewer: Viewer,
  batch: Omit<typeof givenBatches.$inferInsert, 'courseId' | 'userId' | 'at'>,
): Promise<number> {
  await writeGiven(tx, batch.changes, 'after');
  const [made] = await tx.orm
    .insert(givenBatches)
    .values({ ...batch, courseId: course.id, userId: viewer.userId, at: nowDate() })
    .returning({ id: givenBatches.id });
  return made!.id;
}

/** Removes activities from students that they were given to; returns what undoes it. */
export async function removeGiven(
  viewer: Viewer,
  code: string,
  form: RemoveGivenForm,
): Promise<{ readonly batch: number; readonly words: string }> {
  const allowed = await requireCourse(viewer, 'act', code);
  const db = await database();
  const done = await decidedUnderLock(
    db,
    allowed.id,
    async (course) => {
      const { people, what } = await whomAndWhat(db, course, viewer, form);
      const has = await givenTo(
        db,
        what.map((a) => a.id),
      );
      const changes = people.flatMap(({ enrolmentId }) =>
        what.flatMap(({ id: activityId }): GivenChange[] => {
          const before = has(enrolmentId, activityId);
          return before ? [{ enrolmentId, activityId, before, after: null }] : [];
        }),
      );
      if (changes.length === 0) throw invalid('None of them was assigned any of it.');
      return { course, what, changes };
    },
    async (tx, { course, what, changes }) => {
      const students = [...new Set(changes.map((c) => c.enrolmentId))];
      const words = `${listed(what.map((a) => a.title))} removed from ${counted(students.length, 'student')}`;
      const batch = await record(tx, course, viewer, {
        words,
        activityIds: what.map((a) => a.id),
        changes,
        narrowed: [],
      });
      await follows(tx, course.id, students, false);
      return { batch, words };
    },
  );
  wakeRunner();
  return done;
}

/** Undoes an assigning or a removing. What was changed since keeps what it holds. */
export async function undoGiven(viewer: Viewer, code: string, batch: number): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  const everybody = (await roster(course.id)).map((p) => p.enrolmentId);
  const undone = await underLock(db, course.id, async (tx) => {
    const [row] = await tx.orm
      .select()
      .from(givenBatches)
      .where(
        and(eq(givenBatches.id, batch), eq(givenBatches.courseId, course.id), isNull(givenBatches.undoneAt)),
      );
    if (!row) throw notFound('assigning to undo');
    const has = await givenTo(tx, row.activityIds);
    // Who has been erased since has nothing to get back.
    const there = new Set(everybody);
    const still = row.changes.filter(
      (c) => there.has(c.enrolmentId) && sameDates(has(c.enrolmentId, c.activityId), c.after),
    );
    await writeGiven(tx, still, 'before');
    await setForSome(tx, row.narrowed, false);
    // The attempts may have been taken back in the gradebook by now.
    if (row.gradeBatch) await undoIn(tx, course, row.gradeBatch);
    await tx.orm.update(givenBatches).set({ undoneAt: nowDate() }).where(eq(givenBatches.id, batch));
    const students = row.narrowed.length > 0 ? everybody : still.map((c) => c.enrolmentId);
    await follows(tx, course.id, students, row.narrowed.length > 0);
    return still.length;
  });
  wakeRunner();
  return undone;
}
