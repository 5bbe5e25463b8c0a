import { counted, listed } from '@/core/format';
import type { FollowUpLine } from '@/core/views/followUp';
import { minutesText, whole } from '@/core/format';

/** Titles that are named; the others are counted. */
const NAMED = 2;
const some = (titles: readonly string[]): string =>
  titles.length > NAMED + 1
    ? listed([...titles.slice(0, NAMED), `${titles.length - NAMED} more`])
    : listed(titles);

/** What has happened since an act, in one line; that nothing did is said too. */
export function happenedWords({
  happened: h,
  answered,
}: Pick<FollowUpLine, 'happened' | 'answered'>): string {
  const parts = [
    ...(answered == null ? [] : ['answered']),
    ...(h.days > 0 ? [`here on ${counted(h.days, 'day')}, ${minutesText(h.minutes)}`] : []),
    ...(h.handedIn.length > 0 ? [`handed in ${some(h.handedIn)}`] : []),
    ...(h.returned.length > 0
      ? [listed(h.returned.slice(0, 2).map((r) => `${whole(r.percent)} % in ${r.title}`))]
      : []),
    ...(h.ticked > 0 ? [`${counted(h.ticked, 'step')} ticked off`] : []),
    ...(h.closed.length > 0 ? [`no longer ${listed(h.closed)}`] : []),
  ];
  return parts.length === 0 ? 'Nothing recorded since.' : `Since then: ${parts.join('; ')}.`;
}
