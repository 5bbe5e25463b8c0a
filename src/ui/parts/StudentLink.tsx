'use client';
import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { withScope } from '../ribbon/useQuery';

/** A student's name; opens the brief, which knows the list one came from. */
export function StudentLink({
  code,
  id,
  from,
  children,
}: {
  readonly code: string;
  readonly id: number;
  /** The list to step through from there. */
  readonly from: string;
  readonly children: string;
}) {
  const query = useSearchParams();
  return (
    <Link
      href={withScope(`/c/${code}/students/${id}?from=${from}`, query)}
      prefetch={false}
      className="font-semibold hover:underline"
    >
      {children}
    </Link>
  );
}
