import Link from 'next/link';
import type { ReactNode } from 'react';
import type { CourseHead } from '@/core/views/courseHead';
import { dayAndTime } from '@/core/format';
import { Lantern } from '../parts/Lantern';
import { Wordmark } from '../parts/Wordmark';
import { CourseMenu } from './CourseMenu';
import { Live } from './Live';
import { RailList, type RailCounts } from './RailList';
import { RailMenu } from './RailMenu';
import { AccountLink } from './AccountLink';
import { SignOut } from './SignOut';
import { ThemeSwitch } from './ThemeSwitch';

export interface RailProps {
  readonly course: CourseHead;
  readonly courses: readonly { readonly code: string; readonly title: string }[];
  /** Counted while the rail is drawn already. */
  readonly counts: Promise<RailCounts>;
  readonly viewerName: string;
  /** The way to find a student or command. */
  readonly finder: ReactNode;
}

/**
 * The narrow rail on the left: the course, its views in four groups, and from when the data is. It folds to signs where
 * the window is narrow, and to a menu on a phone.
 */
export function Rail({ course, courses, counts, viewerName, finder }: RailProps) {
  const { code } = course;
  const data = (
    <>
      {course.dataUntil == null ? 'No data yet' : `Data up to ${dayAndTime(course.dataUntil, course.zone)}`}
      <br />
      Times in {course.zone.split('/').at(-1)!.replaceAll('_', ' ')}
    </>
  );
  return (
    <>
      <header className="border-line no-print bg-paper sticky top-0 z-30 flex items-center gap-2 border-b px-2 min-[700px]:hidden">
        <RailMenu code={code} counts={counts}>
          <div className="text-muted space-y-2 text-xs">
            <CourseMenu course={course} courses={courses} />
            <p>{data}</p>
            <div className="flex items-center justify-between">
              <span className="text-ink">{viewerName}</span>
              <span className="flex">
                <ThemeSwitch />
                <AccountLink />
                <SignOut />
              </span>
            </div>
          </div>
        </RailMenu>
        <span className="flex-1 truncate font-semibold">{course.title}</span>
        <Link href={`/c/${code}/rounds`} aria-label="Rounds" className="grid size-11 place-items-center">
          <Lantern className="size-5" />
        </Link>
      </header>
      <nav
        aria-label="Views of the course"
        className="border-line no-print sticky top-0 hidden h-screen w-[172px] shrink-0 flex-col overflow-y-auto border-r px-3 py-3 max-[1099px]:w-14 max-[1099px]:px-1.5 min-[700px]:flex"
      >
        <Link href={`/c/${code}/rounds`} className="mb-2.5 flex items-center gap-1.5 px-1">
          <span className="max-[1099px]:hidden">
            <Wordmark />
          </span>
          <Lantern className="mx-auto size-5 min-[1100px]:hidden" />
          <span className="sr-only min-[1100px]:hidden">Ready Lantern</span>
        </Link>
        <CourseMenu course={course} courses={courses} folds />
        <div className="mt-2">{finder}</div>
        <div className="mt-3 mb-3">
          <RailList code={code} counts={counts} folds />
        </div>
        <div className="text-muted mt-auto space-y-1.5 px-1.5 text-xs max-[1099px]:px-0">
          <p className="max-[1099px]:sr-only">{data}</p>
          <div className="max-[1099px]:sr-only">
            <Live code={code} />
          </div>
          <div className="flex items-center justify-between max-[1099px]:flex-col">
            <span className="text-ink truncate max-[1099px]:sr-only">{viewerName}</span>
            <span className="flex max-[1099px]:flex-col">
              <ThemeSwitch />
              <AccountLink />
              <SignOut />
            </span>
          </div>
        </div>
      </nav>
    </>
  );
}
