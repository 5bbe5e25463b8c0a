import * as yup from 'yup';
import { TREATMENTS } from '../items/treatment';
import { idNumber, part } from './rules';

const answers = yup.array(yup.string().max(4000).required()).max(100);
const treatment = yup
  .string()
  .oneOf([...TREATMENTS])
  .required();

/** The key of an item as it is kept. */
export const itemKey = yup.object({
  keys: answers.nullable().defined(),
  keysCame: answers.nullable().defined(),
  treatment,
});

/** How an item shall count. */
export const itemChangeForm = part({
  activityId: idNumber,
  item: yup.string().max(200).required(),
  keys: answers.required(),
  treatment,
  /** The changes that whoever asks has seen of it. */
  rev: yup.number().integer().min(0).required(),
});
