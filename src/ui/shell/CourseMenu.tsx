'use client';
import { ChevronDown } from 'lucide-react';
import Link from 'next/link';
import { DropdownMenu } from 'radix-ui';
import type { CourseHead } from '@/core/views/courseHead';

interface Props {
  readonly course: CourseHead;
  readonly courses: readonly { readonly code: string; readonly title: string }[];
}

const box = 'border-line bg-panel w-full rounded-md border px-2.5 py-2 text-left';

/** The course one is in, and the way to another of one's own. */
export function CourseMenu({ course, courses }: Props) {
  const week =
    course.week < 1
      ? 'before week 1'
      : course.week > course.weeks
        ? 'term is over'
        : `week ${course.week} of ${course.weeks}`;
  const label = (
    <>
      <span className="flex items-center justify-between font-semibold">
        {course.code}
        {courses.length > 1 ? <ChevronDown className="text-muted size-4" aria-hidden /> : null}
      </span>
      <span className="text-muted block text-xs leading-snug">
        {course.title}
        <br />
        {course.termName}, {week}
      </span>
    </>
  );
  if (courses.length < 2) return <div className={box}>{label}</div>;
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className={`${box} hover:border-ink`}>{label}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          className="border-line bg-panel z-50 min-w-56 rounded-md border p-1 shadow-lg"
        >
          {courses.map((other) => (
            <DropdownMenu.Item key={other.code} asChild>
              <Link
                href={`/c/${other.code}/rounds`}
                className="data-highlighted:bg-amber-wash block rounded px-2.5 py-1.5 outline-none"
              >
                <span className="font-semibold">{other.code}</span>{' '}
                <span className="text-muted">{other.title}</span>
              </Link>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
