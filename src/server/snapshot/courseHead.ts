import { database } from '../base/database';
import { figuresFail } from '../jobs/view';
import { weekOf } from '@/core/calendar/term';
import { now } from '../base/clock';
import { termOf, type CourseRow } from '@/data/queries/courseModel';
import type { CourseHead } from '@/core/views/courseHead';

export function courseHead(course: CourseRow): CourseHead {
  return {
    code: course.code,
    title: course.title,
    termName: course.termName,
    zone: course.zone,
    week: weekOf(termOf(course), now()),
    weeks: course.termWeeks,
    dataUntil: course.dataUntil?.getTime() ?? null,
    evaluatedAt: course.evaluatedAt?.getTime() ?? null,
  };
}

/** Whether what a course shows is behind because the work on it fails again and again. */
export const figuresBehind = async (courseId: number): Promise<boolean> =>
  figuresFail(await database(), courseId);
