'use client';
import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { useContext } from 'react';
import { withScope } from '../ribbon/withScope';
import { classes, finger } from './classes';
import { ListOrder } from './ListOrder';
import { rememberList } from './studentList';

/** A student's name; opens the brief, which then knows the list one came from. */
export function StudentLink({
  code,
  id,
  from,
  list,
  children,
}: {
  readonly code: string;
  readonly id: number;
  /** The view to go back to from there. */
  readonly from: string;
  /** The students to step through, where not all of their links stand on the page. */
  readonly list?: () => readonly number[];
  readonly children: string;
}) {
  const query = useSearchParams();
  const order = useContext(ListOrder);
  return (
    <Link
      href={withScope(`/c/${code}/students/${id}?from=${from}`, query)}
      prefetch={false}
      data-student={id}
      onClick={() => rememberList(code, from, (list ?? order)?.())}
      className={classes('font-semibold hover:underline', finger)}
    >
      {children}
    </Link>
  );
}
