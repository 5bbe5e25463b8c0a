import type { SinceTalk } from '@/core/views/brief';
import { counted, minutesText, percentText, weekdayDay } from '@/core/format';

const list = (items: readonly string[]) => items.join(', ');

/** Everything since the last talk, as sentences. */
export function Since({ since }: { readonly since: SinceTalk | null }) {
  if (!since)
    return (
      <p className="text-muted">
        No talk is on record yet. Save one as a note, and what has happened since then appears here.
      </p>
    );
  const lines = [
    `${counted(since.days, 'day')} with a login, ${minutesText(since.minutes)} on task.`,
    since.handedIn.length > 0 ? `Handed in: ${list(since.handedIn)}.` : 'Handed in nothing.',
    since.returned.length > 0
      ? `Got back: ${list(since.returned.map((r) => `${r.title} ${percentText(r.percent)}`))}.`
      : '',
    since.ticked > 0 ? `Ticked off ${counted(since.ticked, 'step')} of the plan.` : '',
    since.opened.length > 0 ? `New: ${list(since.opened)}` : '',
    since.closed.length > 0 ? `No longer: ${list(since.closed)}.` : '',
  ].filter(Boolean);
  return (
    <>
      <p className="text-muted text-[13px]">
        Since {weekdayDay(since.on)}, with {since.by}
      </p>
      <ul className="list-disc pl-4">
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </>
  );
}
