import { and, asc, eq, isNotNull } from 'drizzle-orm';
import { breakWeeks, weekOf, weekSpan } from '@/core/calendar/term';
import { activities, classWeeks } from '@/data/schema';
import { database } from '../base/database';
import { termOf, type CourseRow } from '../snapshot/courseModel';
import type { RibbonWeek } from '@/core/views/ribbon';

/** The weeks of a course's term, with the class's time on task, breaks and due dates. */
export async function termRibbon(course: CourseRow): Promise<RibbonWeek[]> {
  const { orm } = await database();
  const term = termOf(course);
  const medians = await orm.select().from(classWeeks).where(eq(classWeeks.courseId, course.id));
  const dueWorks = await orm
    .select({ title: activities.title, due: activities.dueAt })
    .from(activities)
    .where(and(eq(activities.courseId, course.id), isNotNull(activities.dueAt)))
    .orderBy(asc(activities.dueAt));
  const medianOf = new Map(medians.map((m) => [m.week, m.medianSeconds / 60]));
  const breaks = new Set(breakWeeks(term));
  const placed = dueWorks.map((w) => ({
    title: w.title,
    at: w.due!.getTime(),
    week: weekOf(term, w.due!.getTime()),
  }));
  return Array.from({ length: term.weeks }, (_, i) => {
    const week = i + 1;
    const { from, until } = weekSpan(term, week);
    const due = placed
      .filter((w) => w.week === week)
      .map((w) => ({ title: w.title, place: (w.at - from) / (until - from) }));
    return { week, medianMinutes: medianOf.get(week) ?? null, isBreak: breaks.has(week), due, from, until };
  });
}
