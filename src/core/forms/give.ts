import * as yup from 'yup';
import { datesFault, type GivenTarget } from '../plans/given';
import { idNumber, maybeInstant, part } from './rules';

/** Activities given at once. */
const MOST_GIVEN = 30;

const target = yup
  .mixed<GivenTarget>((v): v is GivenTarget => typeof v === 'string' && /^(all|[ma]?\d{1,9})$/.test(v))
  .nullable()
  .defined();

const shape = {
  /** All, a section or a group; null for the selected. */
  target,
  /** The selected, where there is no target. */
  students: yup.array(idNumber).max(5000).required(),
  activities: yup
    .array(idNumber)
    .min(1, 'Choose what is to be assigned.')
    .max(MOST_GIVEN, `Assign at most ${MOST_GIVEN} at once.`)
    .required(),
};

/** What is removed again from whom. */
export const removeGivenForm = part(shape);
export type RemoveGivenForm = yup.InferType<typeof removeGivenForm>;

/** What is given to whom, with which dates. */
export const giveForm = part({
  ...shape,
  opensAt: maybeInstant,
  dueAt: maybeInstant,
  closesAt: maybeInstant,
  /** Whether it is theirs alone, so that nobody else is behind on it. */
  onlyTheirs: yup.boolean().required(),
  /** Whether those who have it, or have done it, get it again. */
  again: yup.boolean().required(),
}).test({
  name: 'dates',
  test(form) {
    const fault = datesFault({
      opensAt: form.opensAt ?? null,
      dueAt: form.dueAt ?? null,
      closesAt: form.closesAt ?? null,
    });
    return fault == null ? true : this.createError({ message: fault });
  },
});
export type GiveForm = yup.InferType<typeof giveForm>;

/** What a student gets beyond the others. */
export const accommodationForm = part({
  enrolmentId: idNumber,
  moreTime: yup
    .number()
    .integer('More time: a whole number of per cent.')
    .min(0, 'More time: from 0 per cent.')
    .max(200, 'More time: up to 200 per cent.')
    .required(),
  readAloud: yup.boolean().required(),
});
export type AccommodationForm = yup.InferType<typeof accommodationForm>;
