import * as yup from 'yup';
import { EVENT_KINDS } from '@/core/course/kinds';
import { type FileKind, type RecordOf } from '@/core/course/records';
import { ACTIVITY_KINDS, ENROLMENT_STATUSES } from '@/core/course/kinds';
import { ATTENDANCE, REQUIREMENT_KINDS } from '@/core/course/kinds';
import type { StatementRecord } from '@/core/formats/xapi/records';

const text = () => yup.string().required();
const maybeText = () => yup.string().nullable().defined();
const maybeNumber = () => yup.number().nullable().defined();
const texts = () => yup.array(text()).required();

/** The records of the files as they are kept in the database, checked when they are read back. */
export const RECORDS = {
  outcomes: yup.object({
    id: text(),
    title: text(),
    prerequisites: texts(),
    parent: maybeText().default(null),
  }),
  activities: yup.object({
    id: text(),
    title: text(),
    kind: yup
      .string()
      .oneOf([...ACTIVITY_KINDS])
      .required(),
    category: maybeText(),
    categoryWeight: maybeNumber(),
    dropLowest: yup.number().required(),
    points: maybeNumber(),
    opens: maybeNumber(),
    due: maybeNumber(),
    closes: maybeNumber().default(null),
    minutes: maybeNumber(),
    attempts: maybeNumber(),
    outcomes: texts(),
  }),
  roster: yup.object({
    id: text(),
    given: text(),
    family: text(),
    email: maybeText(),
    section: maybeText(),
    status: yup
      .string()
      .oneOf([...ENROLMENT_STATUSES])
      .required(),
    joined: maybeText(),
    left: maybeText(),
  }),
  gradebook: yup.object({
    student: text(),
    activity: text(),
    submitted: maybeNumber(),
    graded: maybeNumber(),
    returned: maybeNumber(),
    points: maybeNumber(),
    excused: yup.boolean().required(),
    // Records kept before these were known have neither.
    due: maybeNumber().default(null),
    extra: yup.number().required().default(0),
  }),
  attempts: yup.object({
    student: text(),
    activity: text(),
    number: yup.number().required(),
    submitted: yup.number().required(),
    points: maybeNumber(),
  }),
  attendance: yup.object({
    student: text(),
    day: text(),
    meeting: yup.string().defined(),
    attendance: yup
      .string()
      .oneOf([...ATTENDANCE])
      .required(),
    minutes: maybeNumber(),
  }),
  referrals: yup.object({ id: text(), student: text(), day: text(), reason: text(), outcome: maybeText() }),
  requirements: yup.object({
    student: text(),
    requirement: text(),
    kind: yup
      .string()
      .oneOf([...REQUIREMENT_KINDS])
      .required(),
    needed: yup.number().required(),
    earned: yup.number().required(),
    day: maybeText(),
  }),
  responses: yup.object({
    student: text(),
    activity: maybeText(),
    item: text(),
    attempt: yup.number().required(),
    answer: yup.string().defined(),
    at: maybeNumber(),
    score: maybeNumber(),
  }),
  events: yup.object({
    id: text(),
    student: text(),
    at: yup.number().required(),
    kind: yup
      .string()
      .oneOf([...EVENT_KINDS])
      .required(),
    activity: maybeText(),
    duration: maybeNumber(),
  }),
} as const satisfies { [K in FileKind]: yup.ISchema<RecordOf[K]> };

const absentColumns = yup.object({ absent: texts() });

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
  eventId: text(),
  ownId: maybeText().default(null),
  person: text(),
  name: maybeText(),
  at: yup.number().required(),
  kind: yup
    .string()
    .oneOf([...EVENT_KINDS])
    .required(),
  activity: maybeText(),
  duration: maybeNumber(),
  handedIn: yup.object({ points: maybeNumber() }).nullable().defined().default(null),
}) satisfies yup.ISchema<StatementRecord>;
