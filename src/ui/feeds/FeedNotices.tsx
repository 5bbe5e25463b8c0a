import Link from 'next/link';
import { weekdayAndTime } from '@/core/format';
import type { FeedNotice } from '@/core/views/feeds';
import { Panel } from '../parts/Panel';

/** What Rounds says of files that come by themselves: one waits for a look, or nothing came. */
export function FeedNotices({
  code,
  zone,
  notices,
}: {
  readonly code: string;
  readonly zone: string;
  readonly notices: readonly FeedNotice[];
}) {
  if (notices.length === 0) return null;
  return (
    <Panel className="border-l-plum border-l-[3px] px-3 py-2">
      <ul aria-label="Files that come by themselves" className="space-y-1">
        {notices.map(({ id, name, file, cameAt, why }) => (
          <li key={id} className="break-words">
            {file ? (
              <>
                <span className="font-semibold">{name}:</span> {file.name} waits for your look.{' '}
                {file.reasons.join(' ')}{' '}
                <Link
                  href={`/c/${code}/import?file=${file.id}`}
                  className="text-teal whitespace-nowrap underline"
                >
                  Look at it
                </Link>
              </>
            ) : (
              <>
                <span className="font-semibold">{name}:</span> nothing has come{' '}
                {cameAt == null ? 'yet' : `since ${weekdayAndTime(cameAt, zone)}`}.{why ? ` ${why}` : ''}{' '}
                <Link href={`/c/${code}/import`} className="text-teal whitespace-nowrap underline">
                  See why
                </Link>
              </>
            )}
          </li>
        ))}
      </ul>
    </Panel>
  );
}
