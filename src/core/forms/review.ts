import * as yup from 'yup';
import { whole } from './rules';

/** The weekly time for a course. */
export const reviewForm = yup.object({
  weekday: whole('The weekday', 1, 7),
  minute: whole('The time', 0, 24 * 60 - 1),
});
export type ReviewForm = yup.InferType<typeof reviewForm>;
