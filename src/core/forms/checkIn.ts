import * as yup from 'yup';
import { HOWS, IN_THE_WAY } from '../acts/checkIn';

/** How it goes, what is in the way, and a word if one likes. */
export const checkInForm = yup.object({
  course: yup.string().max(40).required(),
  how: yup
    .string()
    .oneOf([...HOWS], 'Choose how it goes.')
    .required('Choose how it goes.'),
  inTheWay: yup
    .array(
      yup
        .string()
        .oneOf([...IN_THE_WAY])
        .required(),
    )
    .max(IN_THE_WAY.length)
    .required(),
  word: yup.string().max(500, 'Keep it under 500 characters.').defined(),
});
export type CheckInForm = yup.InferType<typeof checkInForm>;
