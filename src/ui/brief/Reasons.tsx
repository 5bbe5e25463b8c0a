import type { ReasonView } from '@/core/views/reason';
import { shortDay } from '@/core/format';
import { LevelMark } from '../parts/Level';

/** Why somebody is in the queue, as sentences with their numbers. */
export function Reasons({ reasons }: { readonly reasons: readonly ReasonView[] }) {
  if (reasons.length === 0) {
    return (
      <p className="flex items-center gap-2">
        <LevelMark level="steady" /> Nothing is over a threshold at the moment.
      </p>
    );
  }
  return (
    <ul className="space-y-1">
      {reasons.map((reason) => (
        <li key={reason.kind} className="flex gap-2">
          <LevelMark level={reason.level} className="mt-0.5" />
          <span>
            <span className="font-semibold">{reason.head}</span>{' '}
            <span className="text-muted">{reason.rest}</span>{' '}
            <span className="text-muted text-xs whitespace-nowrap">
              since {shortDay(reason.openedOn)}
              {reason.insideSince ? `, back inside since ${shortDay(reason.insideSince)}` : ''}
            </span>
          </span>
        </li>
      ))}
    </ul>
  );
}
