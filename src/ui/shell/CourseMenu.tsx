'use client';
import { ChevronDown } from 'lucide-react';
import { classes } from '../parts/classes';
import { useLater } from '../parts/useLater';
import type { CourseHead } from '@/core/views/courseHead';

interface Props {
  readonly course: CourseHead;
  readonly courses: readonly { readonly code: string; readonly title: string }[];
  /** Whether only the code stays where the window is narrow. */
  readonly folds?: boolean;
}

const loadList = () => import('./CourseList');

const box = 'border-line bg-panel w-full rounded-md border text-left text-ink';

/** The course one is in, and the way to another of one's own. */
export function CourseMenu({ course, courses, folds = false }: Props) {
  const { Part, ask } = useLater(loadList);
  const week =
    course.week < 1
      ? 'before week 1'
      : course.week > course.weeks
        ? 'term is over'
        : `week ${course.week} of ${course.weeks}`;
  const label = (
    <>
      <span
        className={classes(
          'flex items-center justify-between text-sm font-semibold',
          folds && 'max-[1099px]:text-[10px] max-[1099px]:break-all',
        )}
      >
        {course.code}
        {courses.length > 1 ? (
          <ChevronDown className={classes('text-muted size-4', folds && 'max-[1099px]:hidden')} aria-hidden />
        ) : null}
      </span>
      <span className={classes('text-muted block text-xs leading-snug', folds && 'max-[1099px]:sr-only')}>
        {course.title}
        <br />
        {course.termName}, {week}
      </span>
    </>
  );
  const look = classes(box, 'px-2.5 py-1.5', folds && 'max-[1099px]:px-1');
  if (courses.length < 2) return <div className={look}>{label}</div>;
  const looks = classes(look, 'hover:border-ink');
  if (Part) return <Part courses={courses} look={looks} label={label} />;
  return (
    <button type="button" aria-haspopup="menu" aria-expanded={false} onClick={ask} className={looks}>
      {label}
    </button>
  );
}
