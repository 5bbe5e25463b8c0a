import type { Minutes, Percent } from '../units';

/** One student between effort and progress. */
export interface EffortPoint {
  readonly id: number;
  readonly minutes: Minutes;
  readonly progress: Percent;
}

export interface Cuts {
  readonly minutes: Minutes;
  readonly progress: Percent;
}

export const CORNERS = [
  'much time, little progress',
  'little time, little progress',
  'little time, much progress',
  'much time, much progress',
] as const;
export type Corner = (typeof CORNERS)[number];

/** Which corner a student stands in; on a line counts as the upper or right side. */
export function cornerOf(point: EffortPoint, cuts: Cuts): Corner {
  const time = point.minutes >= cuts.minutes;
  const progress = point.progress >= cuts.progress;
  if (progress) return time ? 'much time, much progress' : 'little time, much progress';
  return time ? 'much time, little progress' : 'little time, little progress';
}

/**
 * What a corner means, and what to do about it. Much time with little to show asks for another way of learning, little
 * time for a reason to begin: the two need different help (common practice: "skill or will").
 */
export const CORNER_WORDS: Readonly<Record<Corner, string>> = {
  'much time, little progress':
    'They work at least as long as half the class and little comes of it: look at how they work, and go back to what comes before.',
  'little time, little progress':
    'They do little and it shows: find out what keeps them away before giving more to do.',
  'little time, much progress': 'They need little time: something harder, or let them help others.',
  'much time, much progress': 'What they do works. Say so.',
};
