import { and, eq } from 'drizzle-orm';
import type { AudienceForm } from '@/core/forms/audience';
import { audiencesIn, circleOf, faultsIn } from '@/core/people/savedAudience';
import { audiencesOf, type NamedAudience } from '@/data/queries/audiences';
import { idsIn } from '@/data/queries/idsIn';
import { audiences, enrolments } from '@/data/schema';
import { nowDate } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { refuseStale } from '../base/version';
import { requireCourse, type Viewer } from '../access/viewer';
import { snapshotOf } from '../snapshot/snapshot';
import { classTraits } from '../snapshot/traits';
import { underLock } from '@/data/write/underLock';

/** Saves an audience under its name, new or changed; `was` as in `refuseStale`. Returns its id. */
export async function saveAudience(
  viewer: Viewer,
  code: string,
  form: AudienceForm,
  was?: object | null,
): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  const { about } = await classTraits(await snapshotOf(course));
  const [fault] = faultsIn(form.where, about);
  if (fault) throw invalid(fault);
  return underLock(db, course.id, async (tx) => {
    const all = await audiencesOf(tx, course.id);
    const name = form.name.trim();
    if (all.some((a) => a.name === name && a.id !== form.id))
      throw invalid(`There is an audience called “${name}” already.`);
    const stored = all.find((a) => a.id === form.id);
    if (stored) {
      const { name: title, where, added, removed } = stored;
      refuseStale(was, { name: title, where, added, removed });
    }
    refuseCircle(form, all);
    const ids = [...new Set([...form.added, ...form.removed])];
    const known = await tx.orm
      .select({ id: enrolments.id })
      .from(enrolments)
      .where(and(eq(enrolments.courseId, course.id), idsIn(enrolments.id, ids)));
    if (known.length !== ids.length) throw invalid('Somebody in the audience is not in this course.');
    const row = { name, where: form.where, added: form.added, removed: form.removed };
    if (form.id == null) {
      const [made] = await tx.orm
        .insert(audiences)
        .values({ ...row, courseId: course.id, userId: viewer.userId, at: nowDate() })
        .returning({ id: audiences.id });
      return made!.id;
    }
    const [changed] = await tx.orm
      .update(audiences)
      .set(row)
      .where(and(eq(audiences.id, form.id), eq(audiences.courseId, course.id)))
      .returning({ id: audiences.id });
    if (!changed) throw notFound('audience in this course');
    return changed.id;
  });
}

function refuseCircle({ id, name, where }: AudienceForm, all: readonly NamedAudience[]): void {
  if (id == null) return;
  const found = circleOf(id, where, (other) => all.find((a) => a.id === other)?.where);
  if (!found) return;
  const between = found.slice(1, -1).map((i) => `“${all.find((a) => a.id === i)!.name}”`);
  throw invalid(
    `“${name}” would rest on itself${between.length > 0 ? `, by way of ${between.join(' and ')}` : ''}.`,
  );
}

/** Removes a saved audience that no other rests on. Returns it, to bring it back. */
export async function removeAudience(viewer: Viewer, code: string, id: number): Promise<AudienceForm> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  return underLock(db, course.id, async (tx) => {
    const all = await audiencesOf(tx, course.id);
    const found = all.find((a) => a.id === id);
    if (!found) throw notFound('audience in this course');
    const above = all.find((a) => audiencesIn(a.where).includes(id));
    if (above) throw invalid(`“${above.name}” asks for this audience; change that one first.`);
    await tx.orm.delete(audiences).where(eq(audiences.id, id));
    const { name, where, added, removed } = found;
    return { id: null, name, where, added: [...added], removed: [...removed] };
  });
}
