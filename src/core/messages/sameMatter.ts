import type { Picked } from '../acts/pick';

/**
 * Whether two messages are about the same, so that a cool-down lies between them: the same matter and assignment. What is
 * about nothing in particular is the same only where its reason is.
 */
export const isSameMatter = (a: Picked, b: Picked): boolean =>
  a.about === b.about && a.activityId === b.activityId && (a.about !== 'other' || a.reason === b.reason);
