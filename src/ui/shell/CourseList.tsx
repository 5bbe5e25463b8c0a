'use client';
import Link from 'next/link';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

/** The courses of one's own as a menu, from the box of the one that one is in. */
export default function CourseList({
  courses,
  look,
  label,
}: {
  readonly courses: readonly { readonly code: string; readonly title: string }[];
  readonly look: string;
  readonly label: ReactNode;
}) {
  return (
    <DropdownMenu.Root defaultOpen>
      <DropdownMenu.Trigger className={look}>{label}</DropdownMenu.Trigger>
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
