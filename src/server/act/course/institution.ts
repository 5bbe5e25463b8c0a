import { and, eq, inArray, or } from 'drizzle-orm';
import { isZone } from '@/core/calendar/zone';
import { findCircle } from '@/core/outcomes/prerequisites';
import type { GroupForm, NewCourseForm } from '@/core/forms/setup';
import type { UnitRow } from '@/core/views/setup';
import { courses, enrolments, groupMembers, groups, groupStaff, units, user } from '@/data/schema';
import type { Access, Orm } from '@/data/database';
import { changeUnit } from '../../access/proposals';
import { database } from '../../base/database';
import { setupChanged } from '../../derive/setupChanged';
import { idsIn } from '@/data/queries/idsIn';
import { forbidden, invalid, notFound } from '../../base/errors';
import { refuseStale } from '../../base/version';
import { createCourse } from '../../snapshot/createCourse';
import { requireCourse, coursesOf, type Viewer } from '../../access/viewer';

const requireInstructor = (viewer: Viewer) => {
  if (viewer.role !== 'instructor') throw forbidden();
};

/** Makes a unit of the institution, or changes one; where courses of others belong to it, the change is proposed. */
export async function saveUnit(
  viewer: Viewer,
  unit: Omit<UnitRow, 'id'> & { id: number | null },
  was?: object | null,
): Promise<{ readonly id: number; readonly proposed: boolean }> {
  requireInstructor(viewer);
  const db = await database();
  return db.transaction(async (tx) => {
    const { orm } = tx;
    const all = await orm.select().from(units).orderBy(units.id).for('update');
    const byId = new Map(all.map((u) => [u.id, u]));
    if (unit.parentId != null && !byId.has(unit.parentId)) throw notFound('unit');
    if (unit.id == null) {
      const [made] = await orm
        .insert(units)
        .values({ name: unit.name, parentId: unit.parentId })
        .returning({ id: units.id });
      return { id: made!.id, proposed: false };
    }
    const stored = byId.get(unit.id);
    if (!stored) throw notFound('unit');
    refuseStale(was, { name: stored.name, parentId: stored.parentId });
    const parentOf = (id: string) => {
      const own = Number(id);
      const parent = own === unit.id ? unit.parentId : byId.get(own)?.parentId;
      return parent == null ? [] : [String(parent)];
    };
    const circle = findCircle(
      all.map((u) => String(u.id)),
      parentOf,
    );
    if (circle)
      throw invalid(
        `Units would go in a circle: ${circle.map((id) => byId.get(Number(id))?.name).join(' → ')}.`,
      );
    const change = await changeUnit(tx, viewer.userId, stored, {
      name: unit.name,
      parentId: unit.parentId,
    });
    return { id: unit.id, proposed: change === 'proposed' };
  });
}

/** Takes a unit away that nothing belongs to. */
export async function removeUnit(viewer: Viewer, id: number): Promise<void> {
  requireInstructor(viewer);
  const db = await database();
  await db.transaction(async ({ orm }) => {
    const held = await orm.select({ code: courses.code }).from(courses).where(eq(courses.unitId, id));
    const parts = await orm.select({ name: units.name }).from(units).where(eq(units.parentId, id));
    const rests = [...parts.map((p) => p.name), ...held.map((c) => c.code)];
    if (rests.length > 0) throw invalid(`Something belongs to this unit: ${rests.slice(0, 8).join(', ')}.`);
    const gone = await orm.delete(units).where(eq(units.id, id)).returning({ id: units.id });
    if (gone.length === 0) throw notFound('unit');
  });
}

/** Makes an empty course that the viewer teaches. */
export async function newCourse(viewer: Viewer, form: NewCourseForm): Promise<string> {
  requireInstructor(viewer);
  if (!isZone(form.zone)) throw invalid(`“${form.zone}” is not a time zone like Europe/Lisbon.`);
  const db = await database();
  const [taken] = await db.orm.select({ id: courses.id }).from(courses).where(eq(courses.code, form.code));
  if (taken) throw invalid(`The code ${form.code} is taken; choose another.`);
  await createCourse(db, {
    code: form.code,
    title: form.title,
    termName: form.termName,
    term: { zone: form.zone, start: form.termStart, weeks: form.termWeeks, breaks: form.breaks },
    policy: { missing: 'zero' },
    sections: [],
    staff: [viewer.userId],
  });
  return form.code;
}

/** Makes a monitoring group across the viewer's courses, or changes one that the viewer answers for. */
export async function saveGroup(
  viewer: Viewer,
  code: string,
  form: GroupForm,
  was?: object | null,
): Promise<number> {
  await requireCourse(viewer, 'set up', code);
  const db = await database();
  const taught = (await coursesOf(viewer)).map((c) => c.id);
  return db.transaction(async (tx) => {
    const { orm } = tx;
    // Whom a colleague put in stays in; to put somebody in, one must teach them.
    const inIt =
      form.id == null
        ? []
        : await orm
            .select({ id: groupMembers.enrolmentId })
            .from(groupMembers)
            .where(eq(groupMembers.groupId, form.id));
    const found = await orm
      .select({ id: enrolments.id })
      .from(enrolments)
      .where(
        and(
          idsIn(enrolments.id, form.memberIds),
          or(
            inArray(enrolments.courseId, taught),
            idsIn(
              enrolments.id,
              inIt.map((m) => m.id),
            ),
          ),
        ),
      );
    if (found.length !== new Set(form.memberIds).size) throw notFound('student of yours');
    const staffIds = [...new Set([...form.staffIds, viewer.userId])];
    const staff = await orm
      .select({ id: user.id })
      .from(user)
      .where(and(inArray(user.id, staffIds), eq(user.role, 'instructor')));
    if (staff.length !== staffIds.length) throw notFound('instructor');
    let { id } = form;
    if (id == null) {
      const [made] = await orm.insert(groups).values({ name: form.name }).returning({ id: groups.id });
      id = made!.id;
    } else {
      await requireGroup(orm, viewer, id);
      const [stored] = await orm.select().from(groups).where(eq(groups.id, id)).for('update');
      const answering = await orm
        .select({ id: groupStaff.userId })
        .from(groupStaff)
        .where(eq(groupStaff.groupId, id));
      refuseStale(sortedGroup(was), {
        name: stored!.name,
        memberIds: inIt.map((m) => m.id).sort((a, b) => a - b),
        staffIds: answering.map((s) => s.id).sort(),
      });
      await orm.update(groups).set({ name: form.name }).where(eq(groups.id, id));
      await orm.delete(groupMembers).where(eq(groupMembers.groupId, id));
      await orm.delete(groupStaff).where(eq(groupStaff.groupId, id));
    }
    const groupId = id;
    if (found.length > 0)
      await orm.insert(groupMembers).values(found.map((e) => ({ groupId, enrolmentId: e.id })));
    await orm.insert(groupStaff).values(staffIds.map((userId) => ({ groupId, userId })));
    await membersChanged(tx, [...inIt.map((m) => m.id), ...found.map((e) => e.id)]);
    return id;
  });
}

/** A group as a form holds it, its people in one order. */
const sortedGroup = (was: object | null | undefined): object | null | undefined =>
  was && {
    ...was,
    ...('memberIds' in was && Array.isArray(was.memberIds)
      ? { memberIds: was.memberIds.toSorted((a: unknown, b: unknown) => Number(a) - Number(b)) }
      : {}),
    ...('staffIds' in was && Array.isArray(was.staffIds) ? { staffIds: was.staffIds.toSorted() } : {}),
  };

/** Takes a group away; its students stay where they are. */
export async function removeGroup(viewer: Viewer, id: number): Promise<void> {
  const db = await database();
  await db.transaction(async (tx) => {
    await requireGroup(tx.orm, viewer, id);
    const inIt = await tx.orm
      .select({ id: groupMembers.enrolmentId })
      .from(groupMembers)
      .where(eq(groupMembers.groupId, id));
    await tx.orm.delete(groups).where(eq(groups.id, id));
    await membersChanged(
      tx,
      inIt.map((m) => m.id),
    );
  });
}

/** Says that somebody is in other groups: a course may have thresholds of its own for one. */
async function membersChanged(access: Access, ids: readonly number[]): Promise<void> {
  const of = await access.orm
    .selectDistinct({ id: enrolments.courseId })
    .from(enrolments)
    .where(idsIn(enrolments.id, ids));
  for (const { id } of of) await setupChanged(access, id);
}

async function requireGroup(orm: Orm, viewer: Viewer, id: number): Promise<void> {
  const found = await orm
    .select({ id: groupStaff.groupId })
    .from(groupStaff)
    .where(and(eq(groupStaff.groupId, id), eq(groupStaff.userId, viewer.userId)));
  if (found.length === 0) throw notFound('group of yours');
}
