import type { CourseModel } from '@/data/queries/courseModel';

/** Titles of the outcomes that an activity covers. */
export function outcomeTitles(course: CourseModel, activityId: number): string[] {
  const titles = new Map(course.outcomes.map((o) => [String(o.id), o.title]));
  return (course.covers.get(String(activityId)) ?? []).flatMap((id) => titles.get(id) ?? []);
}
