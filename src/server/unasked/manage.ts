import { and, asc, eq, inArray, max } from 'drizzle-orm';
import { readParts, ruleForm, type RuleForm } from '@/core/forms/rule';
import { goesAt, type Guards } from '@/core/unasked/guards';
import { RULE_STARTERS } from '@/core/unasked/starters';
import type { Database } from '@/data/database';
import type { CourseRow } from '@/data/queries/courseModel';
import { ruleCourseOf, rulesOf } from '@/data/queries/rules';
import { courses, occasions, ruleCourses, rules } from '@/data/schema';
import type { DryRun } from '@/core/views/rules';
import { requireCourse, type Viewer } from '../access/viewer';
import { now, nowDate } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { refuseStale } from '../base/version';
import { ensureEvaluated } from '../derive/evaluation';
import { queueRules } from '../derive/outdated';
import { enqueue, wakeRunner, type Payload } from '../jobs/queue';
import type { Working } from '../jobs/runner';
import { snapshotOf } from '../snapshot/snapshot';
import { classTraits } from '../snapshot/traits';
import { dryRunView } from './dryRun';
import { ruleFault } from './faults';
import { ownerOf } from '../access/owner';
import { settle } from './send';
import { dropReady, forgetHolds } from './switches';
import { underLock } from '@/data/write/underLock';
import { noteInCourse } from '@/data/queries/courseLog';
import { guardsWords } from '@/core/unasked/guards';

/** Most rules of a course: more nobody keeps in mind. */
const MOST_RULES = 40;

/** A form with what its starter and numbers make of it. */
function wholeForm(form: RuleForm): RuleForm {
  const starter = form.starter == null ? undefined : RULE_STARTERS[form.starter];
  if (!starter) return form;
  const made = starter.make(form.numbers);
  return { ...form, parts: { ...made, then: form.parts.then } };
}

async function checkedForm(course: CourseRow, form: RuleForm): Promise<RuleForm> {
  const whole = wholeForm(form);
  const { about } = await classTraits(await snapshotOf(course), { only: [] });
  const fault = ruleFault(readParts(whole.parts), about);
  if (fault) throw invalid(fault);
  return whole;
}

/**
 * Saves a rule, new (switched off) or changed. One that is on goes on by the new words from now: nothing from before makes
 * it act, and what it had ready does not go. `was` as in `refuseStale`. Returns its id.
 */
export async function saveRule(
  viewer: Viewer,
  code: string,
  form: RuleForm,
  was?: object | null,
): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  const { id, name, starter, numbers, parts } = await checkedForm(course, form);
  const db = await database();
  return underLock(db, course.id, async (tx) => {
    const row = { name: name.trim(), starter, numbers, parts, about: parts.about, changedAt: nowDate() };
    if (id != null) {
      const before = await ownRule(tx, viewer, course, id);
      refuseStale(was, storedForm(before));
      await tx.orm
        .update(rules)
        .set({ ...row, since: before.state === 'on' ? nowDate() : null, judgedOn: null, staleAt: null })
        .where(eq(rules.id, id));
      await forgetHolds(tx, id);
      await dropReady(tx, id, 'the rule was changed');
      return id;
    }
    const all = await rulesOf(tx, course.id);
    if (all.length >= MOST_RULES) throw invalid(`A course has at most ${MOST_RULES} rules. End one first.`);
    if (starter != null && all.some((r) => r.starter === starter && r.userId === viewer.userId))
      throw invalid('You have this rule already. Change it in its place.');
    const [last] = await tx.orm
      .select({ at: max(rules.position) })
      .from(rules)
      .where(eq(rules.courseId, course.id));
    const [made] = await tx.orm
      .insert(rules)
      .values({
        ...row,
        courseId: course.id,
        userId: viewer.userId,
        position: (last?.at ?? 0) + 1,
        state: 'off',
      })
      .returning({ id: rules.id });
    return made!.id;
  });
}

/** What the form of a rule holds. */
const storedForm = ({ name, starter, numbers, parts }: typeof rules.$inferSelect) => ({
  name,
  starter,
  numbers,
  parts: readParts(parts),
});

/** A rule of a course that its viewer may change: whoever it writes for. */
async function ownRule(
  { orm }: Pick<Database, 'orm'>,
  viewer: Viewer,
  course: CourseRow,
  id: number,
): Promise<typeof rules.$inferSelect> {
  const [row] = await orm
    .select()
    .from(rules)
    .where(and(eq(rules.id, id), eq(rules.courseId, course.id)))
    .for('update');
  if (!row || row.state === 'ended') throw notFound('rule in this course');
  if (row.userId !== viewer.userId) throw invalid('Only whoever a rule writes for changes it.');
  return row;
}

/** Switches a rule on or off. On, it looks from now; off, what it had ready does not go. */
export async function switchRule(viewer: Viewer, code: string, id: number, on: boolean): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  if (on && course.archivedAt != null) throw invalid('This course is archived: its rules stay off.');
  const db = await database();
  const { about } = await classTraits(await snapshotOf(course), { only: [] });
  await db.transaction(async (tx) => {
    const rule = await ownRule(tx, viewer, course, id);
    if (on === (rule.state === 'on')) return;
    if (on) {
      const fault = ruleFault(readParts(rule.parts), about);
      if (fault) throw invalid(fault);
      await tx.orm
        .insert(ruleCourses)
        .values({ courseId: course.id, lookedAt: nowDate(), rev: course.rev })
        .onConflictDoNothing({ target: ruleCourses.courseId });
      // With no rule on nobody has looked for a while: what came meanwhile is past.
      const others = await rulesOf(tx, course.id);
      if (!others.some((r) => r.state === 'on'))
        await tx.orm
          .update(ruleCourses)
          .set({ lookedAt: nowDate() })
          .where(eq(ruleCourses.courseId, course.id));
    } else await dropReady(tx, id, 'the rule was switched off');
    await forgetHolds(tx, id);
    await tx.orm
      .update(rules)
      .set({
        state: on ? 'on' : 'off',
        why: null,
        since: on ? nowDate() : null,
        judgedOn: null,
        staleAt: null,
        changedAt: nowDate(),
      })
      .where(eq(rules.id, id));
    await queueRules(tx, course.id);
  });
  wakeRunner();
}

/** Ends a rule for good; what it did stays in the log. */
export async function endRule(viewer: Viewer, code: string, id: number): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  await db.transaction(async (tx) => {
    await ownRule(tx, viewer, course, id);
    await dropReady(tx, id, 'the rule was ended');
    await forgetHolds(tx, id);
    await tx.orm
      .update(rules)
      .set({ state: 'ended', why: null, since: null, changedAt: nowDate() })
      .where(eq(rules.id, id));
  });
}

/** Puts a rule one place higher in the list, or lower: the higher one writes first. */
export async function moveRule(viewer: Viewer, code: string, id: number, up: boolean): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  await underLock(db, course.id, async (tx) => {
    const rows = await tx.orm
      .select({ id: rules.id, state: rules.state, name: rules.name })
      .from(rules)
      .where(eq(rules.courseId, course.id))
      .orderBy(asc(rules.position), asc(rules.id));
    const order = rows.filter((r) => r.state !== 'ended').map((r) => r.id);
    const at = order.indexOf(id);
    if (at < 0) throw notFound('rule in this course');
    const to = up ? at - 1 : at + 1;
    if (to < 0 || to >= order.length) return;
    [order[at], order[to]] = [order[to]!, order[at]!];
    for (const [position, rule] of order.entries())
      await tx.orm.update(rules).set({ position }).where(eq(rules.id, rule));
    const name = rows.find((r) => r.id === id)!.name;
    await noteInCourse(tx, {
      courseId: course.id,
      userId: viewer.userId,
      at: nowDate(),
      what: `moved the rule “${name}” ${up ? 'up' : 'down'}`,
    });
  });
}

/** Says yes or no to messages that wait for it. Returns how many go. */
export async function answerWaiting(
  viewer: Viewer,
  code: string,
  ids: readonly number[],
  yes: boolean,
): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  const n = await db.transaction(async (tx) => {
    const rows = await tx.orm
      .select({ id: occasions.id })
      .from(occasions)
      .where(
        and(
          eq(occasions.courseId, course.id),
          inArray(occasions.id, [...ids]),
          eq(occasions.state, 'waiting'),
        ),
      )
      .for('update');
    if (rows.length === 0) throw invalid('None of these waits any more.');
    const { guards } = await ruleCourseOf(tx, course.id);
    await settle(
      tx,
      rows.map((r) => r.id),
      {
        state: yes ? 'to go' : 'declined',
        goesAt: yes ? new Date(goesAt(now(), guards, course.zone)) : null,
        settledBy: viewer.userId,
      },
    );
    await queueRules(tx, course.id);
    return rows.length;
  });
  wakeRunner();
  return n;
}

/** Closes a word to the instructor, or opens it again. */
export async function closeWord(viewer: Viewer, code: string, id: number, done: boolean): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const [row] = await orm
    .update(occasions)
    .set({
      state: done ? 'done' : 'word',
      settledAt: done ? nowDate() : null,
      settledBy: done ? viewer.userId : null,
    })
    .where(
      and(
        eq(occasions.courseId, course.id),
        eq(occasions.id, id),
        eq(occasions.state, done ? 'word' : 'done'),
      ),
    )
    .returning({ id: occasions.id });
  if (!row) throw notFound(done ? 'open word of a rule' : 'word that was closed');
}

/** Stores what keeps the rules of a course from writing too often. Returns what held before. */
export async function saveGuards(
  viewer: Viewer,
  code: string,
  guards: Guards,
  was?: object | null,
): Promise<Guards> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  return underLock(db, course.id, async (tx) => {
    const before = await ruleCourseOf(tx, course.id);
    refuseStale(was, before.guards);
    await tx.orm
      .insert(ruleCourses)
      .values({ courseId: course.id, guards })
      .onConflictDoUpdate({ target: ruleCourses.courseId, set: { guards } });
    await noteInCourse(tx, {
      courseId: course.id,
      userId: viewer.userId,
      at: nowDate(),
      what: `changed the limits: ${guardsWords(guards)}`,
    });
    return before.guards;
  });
}

/** Has the weeks gone by gone through for a rule; the job is followed by its id. */
export async function beginDryRun(viewer: Viewer, code: string, form: RuleForm): Promise<string> {
  const course = await ensureEvaluated(await requireCourse(viewer, 'act', code));
  const rule = await checkedForm(course, form);
  const id = await enqueue(await database(), {
    kind: 'dry run',
    payload: { courseId: course.id, userId: viewer.userId, rule },
    userId: viewer.userId,
    step: 'Waiting',
  });
  wakeRunner();
  return id;
}

/** Does a dry run that was asked for. */
export async function runDryRun(
  db: Database,
  { courseId, userId, rule }: Payload<'dry run'>,
  { progress }: Working,
): Promise<DryRun> {
  const viewer = await ownerOf(db, userId, courseId);
  const [course] = await db.orm.select().from(courses).where(eq(courses.id, courseId));
  if (!viewer || !course) throw notFound('course of yours');
  const form = ruleForm.validateSync(rule, { strict: true }) as unknown as RuleForm;
  return dryRunView(db, viewer, course, form, progress);
}
