import * as yup from 'yup';
import { EVENT_KINDS } from '@/core/course/kinds';
import type { StatementRecord } from '@/core/formats/xapi/records';
import { maybeText, maybeNumber, textFields, textField } from './kinds/fields';

const absentColumns = yup.object({ absent: textFields() });

/** A record that waited, and the columns that its source did not have: they stand beside it where there are any. */
export function waitingRecord(kept: unknown): {
  readonly record: unknown;
  readonly absent: readonly string[];
} {
  if (!absentColumns.isValidSync(kept, { strict: true })) return { record: kept, absent: [] };
  const { absent, ...record } = kept;
  return { record, absent };
}

/** What a statement said of somebody unknown. */
export const statementRecord = yup.object({
  eventId: textField(),
  ownId: maybeText().default(null),
  person: textField(),
  name: maybeText(),
  at: yup.number().required(),
  kind: yup
    .string()
    .oneOf([...EVENT_KINDS])
    .required(),
  activity: maybeText(),
  duration: maybeNumber(),
  handedIn: yup.object({ points: maybeNumber() }).nullable().defined().default(null),
  answered: yup
    .object({
      item: textField(),
      answer: yup.string().defined(),
      score: maybeNumber(),
      seconds: maybeNumber(),
      hints: yup.number().required(),
      told: yup
        .object({
          stem: maybeText(),
          options: yup
            .array(yup.object({ option: textField(), text: yup.string().defined() }).required())
            .required(),
          keys: textFields(),
        })
        .required(),
    })
    .nullable()
    .defined()
    .default(null),
}) satisfies yup.ISchema<StatementRecord>;
