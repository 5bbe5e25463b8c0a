import type { CheckPiece, OwnCheck } from '@/core/views/session';
import { counted, minutesText } from '@/core/format';

const progress = (p: CheckPiece): string =>
  p.handedIn ? 'handed in' : p.contributions > 0 ? `${counted(p.contributions, 'part')} done` : 'open';

/** "29 min (planned 15)", or "for 29 min" of what was only open. */
const time = (p: CheckPiece): string =>
  `${p.handedIn || p.contributions > 0 ? '' : 'for '}${minutesText(p.minutes)}${
    p.planned == null ? '' : ` (planned ${p.planned})`
  }`;

/** What somebody did in a period: how much of it, and how far each activity got by what was contributed. */
export function Pieces({ check }: { readonly check: OwnCheck }) {
  return (
    <>
      <span className="text-muted text-[13px]">
        {minutesText(check.minutes)}; {counted(check.pieces.length, 'activity', 'activities')}, about{' '}
        {check.fit} {check.fit === 1 ? 'fits' : 'fit'}
      </span>
      <ul className="flex flex-wrap gap-x-4">
        {check.pieces.map((p) => (
          <li key={p.activityId}>
            {p.title}{' '}
            <span className={p.handedIn || p.contributions > 0 ? 'text-teal font-semibold' : 'text-muted'}>
              {progress(p)}
            </span>{' '}
            <span className="text-muted text-[13px]">{time(p)}</span>
          </li>
        ))}
      </ul>
    </>
  );
}
