import * as yup from 'yup';
import { idNumber, words } from './rules';

/** A student's answer to a message; the key is the page's own, so that nothing is sent twice. */
export const answerForm = yup.object({
  recipient: idNumber,
  key: yup
    .string()
    .matches(/^[0-9a-f-]{36}$/i)
    .required(),
  text: words('Write a word or two.', 10_000, 'Keep an answer under 10,000 characters.'),
});
export type AnswerForm = yup.InferType<typeof answerForm>;
