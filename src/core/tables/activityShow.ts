import type { ActivityRow } from '../views/activity';

/** What the activity of students can be narrowed to. */
export const ACTIVITY_SHOWS = ['all', 'away', 'quiet', 'opened'] as const;
export type ActivityShow = (typeof ACTIVITY_SHOWS)[number];
export const isActivityShow = (text: string | null | undefined): text is ActivityShow =>
  ACTIVITY_SHOWS.some((s) => s === text);

/** A silence is longer than usual from twice the usual gap on. */
export const isQuiet = (r: Pick<ActivityRow, 'silence' | 'usualGap'>): boolean =>
  r.usualGap != null && r.silence > 2 * Math.max(1, r.usualGap);

export const activityShows: Readonly<Record<ActivityShow, (r: ActivityRow) => boolean>> = {
  all: () => true,
  away: (r) => r.days === 0,
  quiet: (r) => r.days > 0 && isQuiet(r),
  opened: (r) => r.opened > 0,
};
