import * as yup from 'yup';
import { part, whole } from './rules';

/** When a student learns: minutes a day, and weekdays off. */
export const studyTimesForm = part({
  minutesPerDay: whole('Minutes a day', 5, 600),
  weekdaysOff: yup
    .array(yup.number().integer().min(1).max(7).required())
    .max(6, 'Leave at least one day of the week to learn.')
    .test('distinct', 'A weekday is named twice.', (days) => new Set(days).size === (days?.length ?? 0))
    .required(),
});
export type StudyTimesForm = yup.InferType<typeof studyTimesForm>;
