import { weekOf } from '@/core/calendar/term';
import type { Instant } from '@/core/units';
import { now } from './clock';
import { termOf, type CourseRow } from './derive/courseModel';

/** What stands about a course on every view of it. */
export interface CourseHead {
  readonly code: string;
  readonly title: string;
  readonly termName: string;
  readonly zone: string;
  readonly week: number;
  readonly weeks: number;
  /** Instant of the latest event, and of the evaluation shown. */
  readonly dataUntil: Instant | null;
  readonly evaluatedAt: Instant | null;
}

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
