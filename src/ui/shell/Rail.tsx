'use client';
import Link from 'next/link';
import type { ReactNode } from 'react';
import { usePathname, useSearchParams } from 'next/navigation';
import type { CourseHead } from '@/core/views/courseHead';
import { classes } from '../parts/classes';
import { dayAndTime } from '@/core/format';
import { Wordmark } from '../parts/Wordmark';
import { withScope } from '../ribbon/useQuery';
import { CourseMenu } from './CourseMenu';
import { Live } from './Live';
import { SignOut } from './SignOut';
import { ThemeSwitch } from './ThemeSwitch';

export interface RailProps {
  readonly course: CourseHead;
  readonly courses: readonly { readonly code: string; readonly title: string }[];
  readonly waiting: number;
  readonly toGrade: number;
  readonly viewerName: string;
  /** The way to find a student or command. */
  readonly finder: ReactNode;
}

/** The narrow rail on the left: the course, its views, and from when the data is. */
export function Rail({ course, courses, waiting, toGrade, viewerName, finder }: RailProps) {
  const path = usePathname();
  const query = useSearchParams();
  const base = `/c/${course.code}`;
  const views = [
    { href: `${base}/rounds`, label: 'Rounds', count: waiting, counts: 'wait in Rounds' },
    { href: `${base}/week`, label: 'Weekly look' },
    { href: `${base}/activity`, label: 'Activity' },
    { href: `${base}/session`, label: 'Session check' },
    { href: `${base}/gradebook`, label: 'Gradebook', count: toGrade, counts: 'wait for a grade' },
    { href: `${base}/trends`, label: 'Trends' },
    { href: `${base}/lists`, label: 'Lists' },
    { href: `${base}/plans`, label: 'Plans' },
    { href: `${base}/messages`, label: 'Messages' },
    { href: `${base}/import`, label: 'Import' },
    { href: `${base}/indicators`, label: 'Indicators' },
    { href: `${base}/setup`, label: 'Course setup' },
  ];
  return (
    <nav
      aria-label="Views of the course"
      className="border-line no-print sticky top-0 flex h-screen w-[172px] shrink-0 flex-col border-r px-3 py-4"
    >
      <Link href={`${base}/rounds`} className="mb-3 flex items-center gap-1.5 px-1">
        <Wordmark />
      </Link>
      <CourseMenu course={course} courses={courses} />
      <div className="mt-2">{finder}</div>
      <ul className="mt-3 space-y-0.5">
        {views.map((view) => {
          const here = path.startsWith(view.href);
          return (
            <li key={view.href}>
              <Link
                href={withScope(view.href, query)}
                // A dozen views fetched ahead with every page would cost more than they save.
                prefetch={false}
                aria-current={here ? 'page' : undefined}
                className={classes(
                  'flex items-center justify-between rounded-md border-l-[3px] px-2 py-1.5',
                  here
                    ? 'border-amber bg-amber-wash text-ink font-semibold'
                    : 'text-muted hover:text-ink hover:bg-amber-wash/50 border-transparent',
                )}
              >
                {view.label}
                {view.count ? (
                  <span className="font-semibold" title={`${view.count} ${view.counts}`}>
                    {view.count}
                  </span>
                ) : null}
              </Link>
            </li>
          );
        })}
      </ul>
      <div className="text-muted mt-auto space-y-2 px-1.5 text-xs">
        <p>
          {course.dataUntil == null
            ? 'No data yet'
            : `Data up to ${dayAndTime(course.dataUntil, course.zone)}`}
          <br />
          Times in {course.zone.split('/').at(-1)!.replaceAll('_', ' ')}
        </p>
        <Live code={course.code} />
        <div className="flex items-center justify-between">
          <span className="text-ink truncate">{viewerName}</span>
          <span className="flex">
            <ThemeSwitch />
            <SignOut />
          </span>
        </div>
      </div>
    </nav>
  );
}
