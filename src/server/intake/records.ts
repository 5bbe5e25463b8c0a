import * as yup from 'yup';
import { EVENT_KINDS } from '@/core/activity/events';
import {
  ACTIVITY_KINDS,
  ENROLMENT_STATUSES,
  type ActivityRecord,
  type AttemptRecord,
  type EventRecord,
  type GradebookRecord,
  type OutcomeRecord,
  type RosterRecord,
} from '@/core/formats/courseFiles';
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
  }) satisfies yup.ISchema<OutcomeRecord>,
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
    minutes: maybeNumber(),
    attempts: maybeNumber(),
    outcomes: texts(),
  }) satisfies yup.ISchema<ActivityRecord>,
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
  }) satisfies yup.ISchema<RosterRecord>,
  gradebook: yup.object({
    student: text(),
    activity: text(),
    submitted: maybeNumber(),
    graded: maybeNumber(),
    returned: maybeNumber(),
    points: maybeNumber(),
    excused: yup.boolean().required(),
  }) satisfies yup.ISchema<GradebookRecord>,
  attempts: yup.object({
    student: text(),
    activity: text(),
    number: yup.number().required(),
    submitted: yup.number().required(),
    points: maybeNumber(),
  }) satisfies yup.ISchema<AttemptRecord>,
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
  }) satisfies yup.ISchema<EventRecord>,
} as const;

/** What a statement said of somebody unknown. */
export const statementRecord = yup.object({
  eventId: text(),
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
