import { weekdayAndTime } from '@/core/format';
import type { OwnAssigned, OwnReview } from '@/core/views/student';
import { Panel } from '../parts/Panel';

/** What was assigned to a student by name and is not done, and what is due for review. */
export function AssignedCard({
  assigned,
  reviews,
  zone,
}: {
  readonly assigned: readonly OwnAssigned[];
  readonly reviews: readonly OwnReview[];
  readonly zone: string;
}) {
  if (assigned.length === 0 && reviews.length === 0) return null;
  return (
    <Panel className="space-y-3 p-5">
      {assigned.length > 0 ? (
        <section aria-label="Assigned to you">
          <h3 className="mb-1 font-serif text-lg font-semibold">Assigned to you</h3>
          <ul className="divide-line divide-y">
            {assigned.map((a) => (
              <li key={a.id} className="flex flex-wrap justify-between gap-x-4 py-1.5">
                <span className="font-semibold">{a.title}</span>
                <span className="text-muted">
                  {a.opens == null ? '' : `opens ${weekdayAndTime(a.opens, zone)}; `}
                  {a.due == null ? 'no date' : `due ${weekdayAndTime(a.due, zone)}`}
                </span>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      {reviews.length > 0 ? (
        <section aria-label="Due for review">
          <h3 className="mb-1 font-serif text-lg font-semibold">Due for review</h3>
          <p className="text-muted text-[13px]">
            What was right once is forgotten bit by bit; a few minutes bring it back.
          </p>
          <ul>
            {reviews.map((r) => (
              <li key={r.id}>
                {r.title} <span className="text-muted">{r.asked.toLowerCase()}</span>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
    </Panel>
  );
}
