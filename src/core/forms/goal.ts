import * as yup from 'yup';
import { dayText, idNumber, maybeId, part } from './rules';

/** Outcomes that are to be secure by a day, for everybody or one student. */
export const goalForm = part({
  outcomes: yup.array(idNumber).min(1, 'Choose at least one outcome.').max(200).required(),
  by: dayText,
  student: maybeId.defined(),
});
export type GoalForm = yup.InferType<typeof goalForm>;
