import type { Condition } from '../rules/condition';

/** What the activity of students can be narrowed to. */
export const ACTIVITY_SHOWS = ['all', 'away', 'quiet', 'opened'] as const;
export type ActivityShow = (typeof ACTIVITY_SHOWS)[number];
export const isActivityShow = (text: string | null | undefined): text is ActivityShow =>
  ACTIVITY_SHOWS.some((s) => s === text);

const CAME: Condition = { measure: 'days', is: '>', than: 0 };
/** A silence is longer than usual from over twice the usual gap on. */
export const QUIET: Condition = { measure: 'silenceToUsual', is: '>', than: 2 };

export const activityShows: Readonly<Record<ActivityShow, Condition>> = {
  all: { all: [] },
  away: { not: CAME },
  quiet: { all: [CAME, QUIET] },
  opened: { measure: 'opened', is: '>', than: 0 },
};
