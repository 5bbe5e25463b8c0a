import { randomUUID } from 'node:crypto';
import { and, count, eq, max } from 'drizzle-orm';
import { isZone } from '@/core/calendar/zone';
import { outcomeCircle } from '@/core/outcomes/prerequisites';
import { dueChange } from '@/core/setup/dueChange';
import type { Instant } from '@/core/units';
import type { ActivityForm, CategoryForm, CourseForm, OutcomeForm, SectionForm } from '@/core/forms/setup';
import type { DueEffect } from '@/core/views/setup';
import type { Access } from '@/data/database';
import {
  activities,
  activityOutcomes,
  attempts,
  categories,
  courses,
  enrolments,
  events,
  outcomes,
  persons,
  scores,
  sections,
  units,
} from '@/data/schema';
import { now } from '../../base/clock';
import { database } from '../../base/database';
import { loadScores } from '@/data/queries/scores';
import { invalid, notFound, UseCaseError } from '../../base/errors';
import { refuseStale } from '../../base/version';
import { fullName } from '../../snapshot/roster';
import {
  activityFormOf,
  categoryFormOf,
  courseFormOf,
  outcomeFormOf,
  sectionFormOf,
} from '../../snapshot/setupForms';
import { requireCourse, type Viewer } from '../../access/viewer';
import { revise } from '@/data/queries/revision';
import { keepAttemptPolicy } from '@/data/write/attemptPolicy';
import { editCourse, editCourses } from './change';

const date = (at: Instant | null) => (at == null ? null : new Date(at));

/**
 * Title, term and policy of a course; `was` here and below as in `refuseStale`. Another zone or another term cuts all days anew.
 *
 * @param alsoIn codes of other courses of the viewer that get the same term; all of them must be theirs, or nothing is
 * changed
 */
export async function saveCourse(
  viewer: Viewer,
  code: string,
  form: CourseForm,
  alsoIn: readonly string[] = [],
  was?: object | null,
): Promise<void> {
  if (!isZone(form.zone)) throw invalid(`“${form.zone}” is not a time zone like Europe/Lisbon.`);
  for (const b of form.breaks)
    if (b.to < b.from) throw invalid(`The break “${b.name}” ends before it begins.`);
  const term = {
    termName: form.termName,
    zone: form.zone,
    termStart: form.termStart,
    termWeeks: form.termWeeks,
    breaks: form.breaks.map((b) => ({ ...b })),
  };
  await editCourses(viewer, [code, ...alsoIn], async ({ tx, course, at }) => {
    const shared = { value: undefined, recut: 'everybody' as const };
    if (course.code !== code) {
      await tx.orm.update(courses).set(term).where(eq(courses.id, course.id));
      return shared;
    }
    refuseStale(was, courseFormOf(course));
    if (form.unitId != null) {
      const [unit] = await tx.orm.select().from(units).where(eq(units.id, form.unitId));
      if (!unit) throw notFound('unit');
    }
    await tx.orm
      .update(courses)
      .set({
        title: form.title,
        ...term,
        unitId: form.unitId,
        policy: { ...course.policy, missing: form.missing },
        attemptPolicy: form.attempts,
      })
      .where(eq(courses.id, course.id));
    if (form.attempts !== course.attemptPolicy) {
      const changed = await keepAttemptPolicy(tx, course.id, form.attempts ?? null, new Date(at));
      if (changed.length > 0) await revise(tx, course.id, changed);
    }
    return shared;
  });
}

/** Puts a course aside, or takes it up again; nothing is lost. */
export async function archiveCourse(viewer: Viewer, code: string, on: boolean): Promise<void> {
  await editCourse(viewer, code, async ({ tx, course, at }) => {
    await tx.orm
      .update(courses)
      .set({ archivedAt: on ? new Date(at) : null })
      .where(eq(courses.id, course.id));
    return { value: undefined };
  });
}

/** Makes a section, or changes one; the time of its students in and outside class is cut anew. */
export async function saveSection(
  viewer: Viewer,
  code: string,
  form: SectionForm,
  was?: object | null,
): Promise<number> {
  return editCourse(viewer, code, async ({ tx, course, model }) => {
    if (model.sections.some((s) => s.name === form.name && s.id !== form.id))
      throw invalid(`There is a section “${form.name}” already.`);
    const values = {
      name: form.name,
      meetings: form.meetings.map((m) => ({ ...m })),
      exceptions: form.exceptions.map((e) => ({ ...e })),
    };
    if (form.id == null) {
      const [made] = await tx.orm
        .insert(sections)
        .values({ courseId: course.id, ...values })
        .returning({ id: sections.id });
      return { value: made!.id };
    }
    const stored = model.sections.find((s) => s.id === form.id);
    if (!stored) throw notFound('section of this course');
    refuseStale(was, sectionFormOf(stored));
    await tx.orm.update(sections).set(values).where(eq(sections.id, form.id));
    const members = await tx.orm
      .select({ id: enrolments.id })
      .from(enrolments)
      .where(eq(enrolments.sectionId, form.id));
    return { value: form.id, recut: members.map((m) => m.id) };
  });
}

/** Takes an empty section away. */
export async function removeSection(viewer: Viewer, code: string, id: number): Promise<void> {
  await editCourse(viewer, code, async ({ tx, model }) => {
    if (!model.sections.some((s) => s.id === id)) throw notFound('section of this course');
    const [held] = await tx.orm.select({ n: count() }).from(enrolments).where(eq(enrolments.sectionId, id));
    if (held!.n > 0) throw invalid(`${held!.n} students are in this section; move them first.`);
    await tx.orm.delete(sections).where(eq(sections.id, id));
    return { value: undefined };
  });
}

export async function saveCategory(
  viewer: Viewer,
  code: string,
  form: CategoryForm,
  was?: object | null,
): Promise<number> {
  return editCourse(viewer, code, async ({ tx, course, model }) => {
    if (model.categories.some((c) => c.name === form.name && c.id !== form.id))
      throw invalid(`There is a category “${form.name}” already.`);
    const values = { name: form.name, weight: form.weight, dropLowest: form.dropLowest };
    if (form.id == null) {
      const [made] = await tx.orm
        .insert(categories)
        .values({ courseId: course.id, ...values })
        .returning({ id: categories.id });
      return { value: made!.id };
    }
    const stored = model.categories.find((c) => c.id === form.id);
    if (!stored) throw notFound('category of this course');
    refuseStale(was, categoryFormOf(stored));
    await tx.orm.update(categories).set(values).where(eq(categories.id, form.id));
    return { value: form.id };
  });
}

/** Takes a category without works away. */
export async function removeCategory(viewer: Viewer, code: string, id: number): Promise<void> {
  await editCourse(viewer, code, async ({ tx, model }) => {
    if (!model.categories.some((c) => c.id === id)) throw notFound('category of this course');
    const held = model.activities.filter((a) => a.categoryId === id).length;
    if (held > 0) throw invalid(`${held} assignments are in this category; move them first.`);
    await tx.orm.delete(categories).where(eq(categories.id, id));
    return { value: undefined };
  });
}

function checkActivity(form: ActivityForm): void {
  const { opens, due, closes } = form;
  if (opens != null && due != null && due < opens) throw invalid('It is due before it opens.');
  if (due != null && closes != null && closes < due) throw invalid('It closes before it is due.');
  if (opens != null && closes != null && closes < opens) throw invalid('It closes before it opens.');
  if (form.points != null && form.categoryId == null)
    throw invalid('An assignment with points needs a category; without one it counts for no grade.');
}

/** Makes an activity, or changes one. */
export async function saveActivity(
  viewer: Viewer,
  code: string,
  form: ActivityForm,
  was?: object | null,
): Promise<number> {
  checkActivity(form);
  return editCourse(viewer, code, async ({ tx, course, model }) => {
    if (form.categoryId != null && !model.categories.some((c) => c.id === form.categoryId))
      throw notFound('category of this course');
    const own = new Set(model.outcomes.map((o) => o.id));
    if (form.outcomeIds.some((id) => !own.has(id))) throw notFound('outcome of this course');
    const known = form.id == null ? null : model.activities.find((a) => a.id === form.id);
    if (form.id != null && !known) throw notFound('activity of this course');
    if (known) refuseStale(was, activityFormOf(model, known));
    if (known && form.points != null) await checkMaximum(tx, known.id, form.points);
    const values = {
      title: form.title,
      kind: form.kind,
      categoryId: form.categoryId,
      points: form.points,
      opensAt: date(form.opens),
      dueAt: date(form.due),
      closesAt: date(form.closes),
      attemptsAllowed: form.attempts,
      minutes: form.minutes,
    };
    let id = form.id;
    if (id == null) {
      const [last] = await tx.orm
        .select({ at: max(activities.position) })
        .from(activities)
        .where(eq(activities.courseId, course.id));
      const [made] = await tx.orm
        .insert(activities)
        .values({
          courseId: course.id,
          externalId: `a-${randomUUID().slice(0, 8)}`,
          position: (last?.at ?? -1) + 1,
          ...values,
        })
        .returning({ id: activities.id });
      id = made!.id;
    } else {
      await tx.orm.update(activities).set(values).where(eq(activities.id, id));
      await tx.orm.delete(activityOutcomes).where(eq(activityOutcomes.activityId, id));
    }
    const links = [...new Set(form.outcomeIds)].map((outcomeId) => ({ activityId: id, outcomeId }));
    if (links.length > 0) await tx.orm.insert(activityOutcomes).values(links);
    // Another kind has other typical dwells.
    return { value: id, recut: known && known.kind !== form.kind ? 'everybody' : null };
  });
}

async function checkMaximum({ orm }: Access, activityId: number, points: number): Promise<void> {
  const [most] = await orm
    .select({ points: max(scores.points) })
    .from(scores)
    .where(eq(scores.activityId, activityId));
  if (most?.points != null && most.points > points)
    throw invalid(`Somebody has ${most.points} points already; the maximum cannot be less.`);
}

/** Whose status another due instant would change. Nothing is changed. */
export async function dueEffect(
  viewer: Viewer,
  code: string,
  activityId: number,
  due: Instant | null,
): Promise<DueEffect> {
  const course = await requireCourse(viewer, 'set up', code);
  // It names students with their status.
  await requireCourse(viewer, 'look', code);
  const db = await database();
  const [work] = await db.orm
    .select()
    .from(activities)
    .where(and(eq(activities.id, activityId), eq(activities.courseId, course.id)));
  if (!work) throw notFound('activity of this course');
  const people = await db.orm
    .select({ id: enrolments.id, given: persons.given, family: persons.family })
    .from(enrolments)
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(and(eq(enrolments.courseId, course.id), eq(enrolments.status, 'active')));
  const found = await loadScores(db, course.id);
  const nameOf = new Map(people.map((p) => [p.id, fullName(p)]));
  const changes = dueChange(
    people.map((p) => ({ id: p.id, score: found.get(p.id)?.get(String(activityId)) })),
    work.points != null,
    work.dueAt?.getTime() ?? null,
    due,
    now(),
  );
  return { changes: changes.map(({ id, from, to }) => ({ name: nameOf.get(id)!, from, to })) };
}

/** Takes away an activity that nothing rests on. */
export async function removeActivity(viewer: Viewer, code: string, id: number): Promise<void> {
  await editCourse(viewer, code, async ({ tx, model }) => {
    if (!model.activities.some((a) => a.id === id)) throw notFound('activity of this course');
    for (const [table, what] of [
      [scores, 'scores'],
      [attempts, 'attempts'],
      [events, 'events'],
    ] as const) {
      const [held] = await tx.orm.select({ n: count() }).from(table).where(eq(table.activityId, id));
      if (held!.n > 0)
        throw invalid(`${held!.n.toLocaleString('en')} ${what} rest on it; it cannot be deleted.`);
    }
    await tx.orm.delete(activities).where(eq(activities.id, id));
    return { value: undefined };
  });
}

/** Makes an outcome, or changes one. Circles are refused, and named. */
export async function saveOutcome(
  viewer: Viewer,
  code: string,
  form: OutcomeForm,
  was?: object | null,
): Promise<number> {
  return editCourse(viewer, code, async ({ tx, course, model }) => {
    const byId = new Map(model.outcomes.map((o) => [o.id, o]));
    const stored = form.id == null ? null : byId.get(form.id);
    if (stored === undefined) throw notFound('outcome of this course');
    if (stored) refuseStale(was, outcomeFormOf(model, stored));
    for (const id of [...form.before, ...(form.parentId == null ? [] : [form.parentId])])
      if (!byId.has(id)) throw notFound('outcome of this course');
    const externalId = form.id == null ? `o-${randomUUID().slice(0, 8)}` : byId.get(form.id)!.externalId;
    const prerequisites = [...new Set(form.before)].map((id) => byId.get(id)!.externalId);
    const external = (id: number | null) => (id == null ? null : (byId.get(id)?.externalId ?? null));
    const after = [
      ...model.outcomes
        .filter((o) => o.id !== form.id)
        .map((o) => ({ id: o.externalId, prerequisites: o.prerequisites, parent: external(o.parentId) })),
      { id: externalId, prerequisites, parent: external(form.parentId) },
    ];
    const circle = outcomeCircle(new Map(after.map((o) => [o.id, o])));
    if (circle) {
      const titles = new Map(model.outcomes.map((o) => [o.externalId, o.title]));
      titles.set(externalId, form.title);
      throw new UseCaseError(
        'invalid',
        `${circle.among === 'parents' ? 'What it is part of' : 'Prerequisites'} would go in a circle: ${circle.ids.map((i) => titles.get(i) ?? i).join(' → ')}.`,
      );
    }
    const values = { title: form.title, prerequisites, parentId: form.parentId };
    if (form.id != null) {
      await tx.orm.update(outcomes).set(values).where(eq(outcomes.id, form.id));
      return { value: form.id };
    }
    const [made] = await tx.orm
      .insert(outcomes)
      .values({ courseId: course.id, externalId, position: model.outcomes.length, ...values })
      .returning({ id: outcomes.id });
    return { value: made!.id };
  });
}

/** Takes an outcome away, with its links; refused while others build on it. */
export async function removeOutcome(viewer: Viewer, code: string, id: number): Promise<void> {
  await editCourse(viewer, code, async ({ tx, model }) => {
    const own = model.outcomes.find((o) => o.id === id);
    if (!own) throw notFound('outcome of this course');
    const dependent = model.outcomes.filter(
      (o) => o.prerequisites.includes(own.externalId) || o.parentId === id,
    );
    if (dependent.length > 0)
      throw invalid(`${dependent.map((o) => `“${o.title}”`).join(', ')} build on it.`);
    await tx.orm.delete(outcomes).where(eq(outcomes.id, id));
    return { value: undefined };
  });
}
