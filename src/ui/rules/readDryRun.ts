import * as yup from 'yup';
import type { DryRun } from '@/core/views/rules';

const n = yup.number().required();
const dryRun = yup.object({
  from: yup.string().required(),
  to: yup.string().required(),
  weeks: yup.array(yup.object({ week: n, messages: n, students: n, held: n })).required(),
  messages: n,
  students: n,
  held: n,
  lines: yup
    .array(
      yup.object({
        enrolmentId: n,
        studentId: yup.string().defined(),
        name: yup.string().defined(),
        at: n,
        held: yup.string().nullable().defined(),
        facts: yup.array(yup.string().required()).required(),
        subject: yup.string().defined(),
        text: yup.string().defined(),
      }),
    )
    .required(),
  more: n,
});

/** Reads what a dry run found, as the server says it. */
export const readDryRun = (value: unknown): DryRun => dryRun.validateSync(value, { strict: true });
