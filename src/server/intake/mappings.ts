import { and, desc, eq, or } from 'drizzle-orm';
import { isZone } from '@/core/calendar/zone';
import type { Mapping } from '@/core/course/mapping';
import { mappingSchema } from '@/core/formats/mapping/schema';
import type { Access } from '@/data/database';
import { mappings } from '@/data/schema';
import { nowDate } from '../base/clock';
import { database } from '../base/database';
import { invalid, notFound } from '../base/errors';
import { requireCourse, type Viewer } from '../access/viewer';

export interface SavedMapping {
  readonly id: number;
  readonly name: string;
  readonly mapping: Mapping;
}

/** The mappings of a course, the newest first, and after them those that the same person saved in other courses. */
export async function savedMappings(
  { orm }: Access,
  courseId: number,
  userId: string | null,
): Promise<SavedMapping[]> {
  const rows = await orm
    .select()
    .from(mappings)
    .where(
      userId
        ? or(eq(mappings.courseId, courseId), eq(mappings.userId, userId))
        : eq(mappings.courseId, courseId),
    )
    .orderBy(desc(mappings.id));
  const own = rows.filter((r) => r.courseId === courseId);
  // Works go by other ids in another course: a table with a column a work is told anew there.
  const others = rows.filter((r) => r.courseId !== courseId && r.mapping.spread.length === 0);
  return [...own, ...others].flatMap(({ id, name, mapping }) =>
    mappingSchema.isValidSync(mapping, { strict: true }) ? [{ id, name, mapping }] : [],
  );
}

/** Saves a mapping under a name; one of that name in the course is replaced. */
export async function saveMapping(
  { orm }: Access,
  courseId: number,
  userId: string,
  name: string,
  mapping: Mapping,
): Promise<void> {
  const text = name.trim();
  if (text === '' || text.length > 100) throw invalid('A mapping needs a name of at most 100 characters.');
  if (!isZone(mapping.zone)) throw invalid(`“${mapping.zone}” is not a time zone.`);
  await orm
    .insert(mappings)
    .values({ courseId, userId, name: text, mapping, createdAt: nowDate() })
    .onConflictDoUpdate({
      target: [mappings.courseId, mappings.name],
      set: { mapping, userId, createdAt: nowDate() },
    });
}

/** Takes a mapping of a course away; files are then asked about again. */
export async function removeMapping(viewer: Viewer, code: string, id: number): Promise<void> {
  const course = await requireCourse(viewer, 'import', code);
  const { orm } = await database();
  const gone = await orm
    .delete(mappings)
    .where(and(eq(mappings.id, id), eq(mappings.courseId, course.id)))
    .returning({ id: mappings.id });
  if (gone.length === 0) throw notFound('mapping of this course');
}

/** Names of the mappings of a course, for the list of them. */
export async function mappingNames(viewer: Viewer, code: string): Promise<{ id: number; name: string }[]> {
  const course = await requireCourse(viewer, 'import', code);
  const { orm } = await database();
  return orm
    .select({ id: mappings.id, name: mappings.name })
    .from(mappings)
    .where(eq(mappings.courseId, course.id))
    .orderBy(mappings.name);
}
