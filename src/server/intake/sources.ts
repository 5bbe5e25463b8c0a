import { and, eq, ne } from 'drizzle-orm';
import type { KnownCourse } from '@/core/formats/oneroster/known';
import type { Access } from '@/data/database';
import { activities, sourceIds } from '@/data/schema';
import { loadCourseModel } from '@/data/queries/courseModel';
import type { PackageAbout } from './readFiles';
import { activitiesKind } from './kinds/activities';
import { rosterKind } from './kinds/roster';

/** What earlier packages said of a course, for one that holds only what changed. */
export async function knownCourse(access: Access, courseId: number): Promise<KnownCourse> {
  const { orm } = access;
  const model = await loadCourseModel(access, courseId);
  const own = await orm.select().from(sourceIds).where(eq(sourceIds.courseId, courseId));
  const sectionName = new Map(model.sections.map((s) => [s.id, s.name]));
  const category = new Map(model.categories.map((c) => [c.id, c]));
  const otherClasses = await orm
    .select({ id: sourceIds.sourceId })
    .from(sourceIds)
    .where(and(eq(sourceIds.kind, 'class'), ne(sourceIds.courseId, courseId)));
  const otherWorks = await orm
    .select({ id: activities.externalId })
    .from(activities)
    .where(ne(activities.courseId, courseId));
  return {
    course: own.find((s) => s.kind === 'course')?.sourceId ?? null,
    classes: new Map(
      own.flatMap((s) =>
        s.kind === 'class' ? [[s.sourceId, sectionName.get(s.sectionId ?? -1) ?? null] as const] : [],
      ),
    ),
    categories: new Map(
      own.flatMap((s) => {
        const found = category.get(s.categoryId ?? -1);
        return found
          ? [[s.sourceId, { title: found.name, weight: found.weight, dropLowest: found.dropLowest }] as const]
          : [];
      }),
    ),
    people: await rosterKind.stored(access, model),
    works: await activitiesKind.stored(access, model),
    elsewhere: {
      classes: new Set(otherClasses.map((c) => c.id)),
      works: new Set(otherWorks.map((w) => w.id)),
    },
  };
}

/** Keeps the ids that packages gave to a course and its parts, once these are there. */
export async function keepSources(
  access: Access,
  courseId: number,
  packages: readonly PackageAbout[],
): Promise<void> {
  if (packages.length === 0) return;
  const { orm } = access;
  const model = await loadCourseModel(access, courseId);
  const sectionIds = new Map(model.sections.map((s) => [s.name, s.id]));
  const categoryIds = new Map(model.categories.map((c) => [c.name, c.id]));
  for (const { sources } of packages) {
    await orm.delete(sourceIds).where(and(eq(sourceIds.courseId, courseId), eq(sourceIds.kind, 'course')));
    const rows: (typeof sourceIds.$inferInsert)[] = [
      { courseId, kind: 'course', sourceId: sources.course },
      ...[...sources.classes].flatMap(([sourceId, name]) => {
        const sectionId = name == null ? null : sectionIds.get(name);
        return sectionId === undefined ? [] : [{ courseId, kind: 'class' as const, sourceId, sectionId }];
      }),
      ...[...sources.categories].flatMap(([sourceId, title]) => {
        const categoryId = categoryIds.get(title);
        return categoryId === undefined
          ? []
          : [{ courseId, kind: 'category' as const, sourceId, categoryId }];
      }),
    ];
    for (const row of rows)
      await orm
        .insert(sourceIds)
        .values(row)
        .onConflictDoUpdate({
          target: [sourceIds.courseId, sourceIds.kind, sourceIds.sourceId],
          set: { sectionId: row.sectionId ?? null, categoryId: row.categoryId ?? null },
        });
  }
}
