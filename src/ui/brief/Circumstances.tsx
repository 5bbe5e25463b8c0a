import { pausedUntil } from '@/core/acts/checkIn';
import { dayAndTime, listed, shortDay, weekdayAndTime } from '@/core/format';
import type { BriefView } from '@/core/views/brief';

/** What stands between the figures and the person: what they said of themselves, the next talk, and what was agreed. */
export function Circumstances({ brief }: { readonly brief: BriefView }) {
  const { checkIn, talks, agreements, zone } = brief;
  const open = agreements.filter((a) => a.closedAs == null);
  const talk = talks[0];
  if (!checkIn && !talk && open.length === 0) return null;
  const until = checkIn ? pausedUntil(checkIn) : null;
  return (
    <ul className="border-amber space-y-1 border-l-3 pl-3 text-[13px]">
      {checkIn ? (
        <li>
          <span className="font-semibold">Says it goes {checkIn.how}</span>
          {checkIn.inTheWay.length > 0 ? `; in the way: ${listed(checkIn.inTheWay)}` : ''}
          {checkIn.word ? `. “${checkIn.word}”` : ''}{' '}
          <span className="text-muted">
            {dayAndTime(checkIn.at, zone)}
            {until == null ? '' : `; automatic messages pause until ${dayAndTime(until, zone)}`}
          </span>
        </li>
      ) : null}
      {talk ? (
        <li>
          <span className="font-semibold">Talk {weekdayAndTime(talk.startsAt, zone)}</span>{' '}
          <span className="text-muted">
            with {talk.with}, {talk.place}
          </span>
        </li>
      ) : null}
      {open.map((a) => (
        <li key={a.id}>
          <span className="font-semibold">Agreed: {a.goal}</span>. First step: {a.step}
          {a.said ? `. “${a.said}”` : ''}{' '}
          <span className="text-muted">
            to look at {shortDay(a.on)}, with {a.with}
          </span>
        </li>
      ))}
    </ul>
  );
}
