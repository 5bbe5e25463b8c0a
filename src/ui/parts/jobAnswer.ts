import * as yup from 'yup';

/** What the server answers when it is asked for a job. */
export const jobSchema = yup.object({
  state: yup.string().oneOf(['running', 'done', 'failed', 'cancelled']).required(),
  step: yup.string().defined(),
  done: yup.number().required(),
  of: yup.number().required(),
  message: yup.string().nullable().defined(),
});
