import * as yup from 'yup';
import type { CourseOutcome, FileCounts } from '@/core/views/intake';

const counts = yup
  .array(
    yup.object({
      file: yup.string().required(),
      kind: yup.string().required(),
      added: yup.number().required(),
      changed: yup.number().required(),
      unchanged: yup.number().required(),
      rejected: yup.number().required(),
      waiting: yup.number().required(),
    }),
  )
  .required();
const outcomes = yup
  .array(
    yup.object({
      code: yup.string().required(),
      title: yup.string().required(),
      made: yup.boolean().required(),
      files: counts,
      left: yup.string().nullable().defined(),
    }),
  )
  .required();

/** What a finished import answers: counts of each file. */
export const readCounts = (value: unknown): readonly FileCounts[] => counts.validateSync(value);

/** What a finished import of several courses answers. */
export const readOutcomes = (value: unknown): readonly CourseOutcome[] => outcomes.validateSync(value);
