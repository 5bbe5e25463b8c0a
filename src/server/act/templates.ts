import { and, eq, ne } from 'drizzle-orm';
import type { TemplateForm } from '@/core/forms/message';
import { readDoc } from '@/core/messages/docSchema';
import { templates } from '@/data/schema';
import { nowDate } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { refuseStale } from '../base/version';
import { requireCourse, type Viewer } from '../access/viewer';

/** Saves a template, new or changed. Only whoever saved it first changes it. Returns its id. */
export async function saveTemplate(
  viewer: Viewer,
  code: string,
  form: TemplateForm,
  was?: object | null,
): Promise<number> {
  const course = await requireCourse(viewer, 'act', code);
  const db = await database();
  const { orm } = db;
  const { id, shared, about, subject } = form;
  const name = form.name.trim();
  const mine = and(eq(templates.courseId, course.id), eq(templates.userId, viewer.userId));
  const [taken] = await orm
    .select({ id: templates.id })
    .from(templates)
    .where(and(mine, eq(templates.name, name), id == null ? undefined : ne(templates.id, id)));
  if (taken) throw invalid(`You have a template called “${name}” already.`);
  const row = { name, shared, about, subject, doc: readDoc(form.doc) };
  if (id == null) {
    const [made] = await orm
      .insert(templates)
      .values({ ...row, courseId: course.id, userId: viewer.userId, at: nowDate() })
      .returning({ id: templates.id });
    return made!.id;
  }
  return db.transaction(async (tx) => {
    const own = and(mine, eq(templates.id, id));
    const [before] = await tx.orm.select().from(templates).where(own).for('update');
    if (!before) throw notFound('template of yours');
    refuseStale(was, {
      name: before.name,
      shared: before.shared,
      about: before.about,
      subject: before.subject,
      doc: before.doc,
    });
    await tx.orm.update(templates).set(row).where(own);
    return id;
  });
}

/** Removes a template of one's own. */
export async function removeTemplate(viewer: Viewer, code: string, id: number): Promise<void> {
  const course = await requireCourse(viewer, 'act', code);
  const { orm } = await database();
  const [gone] = await orm
    .delete(templates)
    .where(and(eq(templates.courseId, course.id), eq(templates.userId, viewer.userId), eq(templates.id, id)))
    .returning({ id: templates.id });
  if (!gone) throw notFound('template of yours');
}
