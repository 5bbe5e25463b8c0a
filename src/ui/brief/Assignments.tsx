'use client';
import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { weekdayAndTime, shortDay } from '@/core/format';
import { localDate } from '@/core/calendar/zone';
import type { OwnAssignment } from '@/core/views/assignment';
import { classes } from '../parts/classes';
import { Wide } from '../parts/Wide';
import { withScope } from '../ribbon/withScope';

const points = (a: OwnAssignment): string =>
  a.points == null ? '' : a.maximum == null ? String(a.points) : `${a.points} of ${a.maximum}`;

/** "3: 4, 6, 7", the points of each attempt. */
const tries = ({ attempts }: OwnAssignment): string =>
  attempts.length < 2
    ? String(attempts.length || '')
    : `${attempts.length}: ${attempts.map((p) => p ?? 'to grade').join(', ')}`;

/**
 * All assignments of a student with status, points, attempts and feedback.
 *
 * @param code of the course, where each title leads to its page; left out on the student's own page
 */
export function Assignments({
  list,
  zone,
  code,
}: {
  readonly list: readonly OwnAssignment[];
  readonly zone: string;
  readonly code?: string;
}) {
  const query = useSearchParams();
  if (list.length === 0) return <p className="text-muted">There are no assignments yet.</p>;
  const day = (at: number | null) => (at == null ? '' : shortDay(localDate(at, zone)));
  return (
    <Wide label="Assignments">
      <table className="w-full text-[13px]">
        <thead className="text-muted text-left">
          <tr>
            <th className="pr-3 font-normal">Assignment</th>
            <th className="pr-3 font-normal">Due</th>
            <th className="pr-3 font-normal">Status</th>
            <th className="pr-3 text-right font-normal">Points</th>
            <th className="pr-3 font-normal">Attempts</th>
            <th className="pr-3 font-normal">Feedback</th>
            <th className="font-normal">Outcomes</th>
          </tr>
        </thead>
        <tbody>
          {list.map((a) => (
            <tr
              key={a.id}
              id={`assignment-${a.id}`}
              className="border-line/60 target:bg-amber-wash border-t align-top"
            >
              <th className="py-1 pr-3 text-left font-semibold">
                {code ? (
                  <Link
                    href={withScope(`/c/${code}/work/${a.id}`, query)}
                    prefetch={false}
                    className="hover:underline"
                  >
                    {a.title}
                  </Link>
                ) : (
                  a.title
                )}
              </th>
              <td className="py-1 pr-3 whitespace-nowrap">
                {a.due == null ? 'no date' : weekdayAndTime(a.due, zone)}
              </td>
              <td className={classes('py-1 pr-3', a.status === 'missing' && 'text-plum font-semibold')}>
                {a.status}
                {a.late && a.status !== 'late' ? ', late' : ''}
              </td>
              <td className="py-1 pr-3 text-right whitespace-nowrap">{points(a)}</td>
              <td className="py-1 pr-3">{tries(a)}</td>
              <td className="py-1 pr-3 whitespace-nowrap">{day(a.feedbackAt)}</td>
              <td className="text-muted py-1">{a.outcomes.join(', ')}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Wide>
  );
}
