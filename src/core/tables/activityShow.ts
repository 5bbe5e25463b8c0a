import type { Condition } from '../rules/condition';
import { type ActivityShow } from '../views/activity';

const CAME: Condition = { measure: 'days', is: '>', than: 0 };
/** A silence is longer than usual from over twice the usual gap on. */
export const QUIET: Condition = { measure: 'silenceToUsual', is: '>', than: 2 };

export const activityShows: Readonly<Record<ActivityShow, Condition>> = {
  all: { all: [] },
  away: { not: CAME },
  quiet: { all: [CAME, QUIET] },
  opened: { measure: 'opened', is: '>', than: 0 },
};
