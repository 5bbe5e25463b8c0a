import { FLAG_KINDS } from '../flags/indicators';

/** What a selection is about: a flag, something good, or an assignment. It chooses the text to write with. */
export const ABOUTS = [
  ...FLAG_KINDS,
  'on time',
  'improved',
  'missing assignment',
  'late assignment',
  'low score',
  'high score',
  'due soon',
  'back again',
  'other',
] as const;
export type About = (typeof ABOUTS)[number];

/** What is good news: it asks for no plan. */
export const PRAISE: readonly About[] = ['on time', 'improved', 'high score'];

/** Why students are selected: in words, and what it is about. */
export interface Picked {
  readonly reason: string;
  readonly about: About;
  /** The assignment it is about, if it is one. */
  readonly activityId: number | null;
  /** The item of it that they answered, if it is one. */
  readonly item: string | null;
}

export const pickedFor = (
  reason: string,
  about: About = 'other',
  activityId: number | null = null,
  item: string | null = null,
): Picked => ({
  reason,
  about,
  activityId,
  item,
});
