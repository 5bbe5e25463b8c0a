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

export const COUNTED = ['added', 'changed', 'unchanged', 'waiting', 'rejected'] as const;

/** Rows of some sort over all files. */
export const total = (files: readonly FileCounts[], of: (typeof COUNTED)[number]): number =>
  files.reduce((sum, c) => sum + c[of], 0);

/** Rows that an import changes. */
export const changesOf = (files: readonly FileCounts[]): number =>
  total(files, 'added') + total(files, 'changed');
