import * as yup from 'yup';
import { NOTE_KINDS } from '../acts/act';
import { PASSING_RESULTS } from '../acts/passing';
import { dayText, idNumber, maybeDay, words } from './rules';

/** A note about a student, or word of a talk or call. */
export const noteForm = yup.object({
  kind: yup
    .string()
    .oneOf([...NOTE_KINDS])
    .required(),
  on: dayText,
  text: words('Write a word or two.', 4000, 'Keep a note under 4,000 characters.'),
  /** The day to look again; none if there is nothing to look at. */
  followUpOn: maybeDay,
});
export type NoteForm = yup.InferType<typeof noteForm>;

/** Why nothing more is needed for a student now. */
export const seenForm = yup.object({
  reason: words('Say in a word why.', 500, 'Keep the reason under 500 characters.'),
});

/** A word in passing: with whom, how it went, and a line if one likes. */
export const passingForm = yup.object({
  /** Made where it was written: what is sent twice is there once. */
  key: yup.string().uuid('Write it once more.').required(),
  student: idNumber,
  result: yup
    .string()
    .oneOf([...PASSING_RESULTS], 'Choose how it went.')
    .required('Choose how it went.'),
  text: yup.string().max(500, 'Keep it under 500 characters.').defined(),
  on: dayText,
});
export type PassingForm = yup.InferType<typeof passingForm>;
