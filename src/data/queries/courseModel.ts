import { asc, eq, inArray } from 'drizzle-orm';
import { meetingSpans, type Span } from '@/core/calendar/meetings';
import type { Term } from '@/core/calendar/term';
import { isResource } from '@/core/course/kinds';
import type { Access } from '@/data/database';
import { activities, activityOutcomes, categories, courses, outcomes, sections } from '@/data/schema';
import { type CourseSetup } from '@/core/course/record';

export type CourseRow = typeof courses.$inferSelect;
export type ActivityRow = typeof activities.$inferSelect;

/** A course as the computations want it. Ids are those of the database, as text. */
export interface CourseModel extends CourseSetup {
  readonly row: CourseRow;
  readonly sections: readonly (typeof sections.$inferSelect)[];
  readonly activities: readonly ActivityRow[];
  readonly categories: readonly (typeof categories.$inferSelect)[];
  readonly outcomes: readonly (typeof outcomes.$inferSelect)[];
  readonly covers: ReadonlyMap<string, readonly string[]>;
  readonly meetingsOfSection: ReadonlyMap<number, readonly Span[]>;
}

export const termOf = (row: CourseRow): Term => ({
  zone: row.zone,
  start: row.termStart,
  weeks: row.termWeeks,
  breaks: row.breaks,
});

/** Reads a course with everything that describes it, and nothing about students. */
export async function loadCourseModel({ orm }: Access, courseId: number): Promise<CourseModel> {
  const [row] = await orm.select().from(courses).where(eq(courses.id, courseId));
  if (!row) throw new Error(`course ${courseId} is gone`);
  const sectionRows = await orm
    .select()
    .from(sections)
    .where(eq(sections.courseId, courseId))
    .orderBy(asc(sections.id));
  const activityRows = await orm
    .select()
    .from(activities)
    .where(eq(activities.courseId, courseId))
    .orderBy(asc(activities.position), asc(activities.id));
  const categoryRows = await orm
    .select()
    .from(categories)
    .where(eq(categories.courseId, courseId))
    .orderBy(asc(categories.id));
  const outcomeRows = await orm
    .select()
    .from(outcomes)
    .where(eq(outcomes.courseId, courseId))
    .orderBy(asc(outcomes.position), asc(outcomes.id));
  const links =
    activityRows.length === 0
      ? []
      : await orm
          .select()
          .from(activityOutcomes)
          .where(
            inArray(
              activityOutcomes.activityId,
              activityRows.map((a) => a.id),
            ),
          );
  const covers = new Map<string, string[]>();
  for (const link of links) {
    const id = String(link.activityId);
    covers.set(id, [...(covers.get(id) ?? []), String(link.outcomeId)]);
  }
  const term = termOf(row);
  const due = (a: ActivityRow) => a.dueAt?.getTime() ?? null;
  return {
    row,
    term,
    sections: sectionRows,
    activities: activityRows,
    categories: categoryRows,
    outcomes: outcomeRows,
    covers,
    book: {
      policy: row.policy,
      zone: row.zone,
      categories: categoryRows.map((c) => ({ id: String(c.id), weight: c.weight, dropLowest: c.dropLowest })),
      activities: activityRows
        .filter((a) => a.points != null && a.categoryId != null)
        .map((a) => ({
          id: String(a.id),
          category: String(a.categoryId),
          points: a.points!,
          due: due(a),
          extraCredit: a.extraCredit,
        })),
    },
    works: activityRows.filter((a) => !isResource(a.kind)).map((a) => ({ id: String(a.id), due: due(a) })),
    meetingsOfSection: new Map(sectionRows.map((s) => [s.id, meetingSpans(term, s.meetings, s.exceptions)])),
  };
}
