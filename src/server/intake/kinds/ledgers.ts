import { eq, getTableColumns } from 'drizzle-orm';
import { type AnyPgColumn, type PgTable } from 'drizzle-orm/pg-core';
import * as yup from 'yup';
import { written, type Objection } from '@/core/formats/classify';
import { ATTENDANCE, REQUIREMENT_KINDS } from '@/core/course/kinds';
import { type LedgerKind, LEDGER_KINDS, type RecordOf } from '@/core/course/records';
import { sameFields } from '@/core/formats/sameRecord';
import { mapKeys } from '@/core/mapKeys';
import { type Access } from '@/data/database';
import { type CourseModel } from '@/data/queries/courseModel';
import { ofStudents } from '@/data/queries/days';
import { type FileIds } from '@/data/queries/fileIds';
import {
  attempts,
  attendance,
  referrals,
  requirements,
  responses,
  persons,
  enrolments,
  outsideResults,
} from '@/data/schema';
import { upsertMany, deleteMany } from '@/data/write/bulk';
import { sort } from '../sort';
import { maybeNumber, maybeText, textField } from './fields';
import { pointsObjection } from './gradebook';
import { type Maxima, keyText, toDate, type IntakeKind } from './kind';

/** Database ids of what records name, by the ids of the files. */
type LedgerIds = FileIds & { readonly outcomeOf: ReadonlyMap<string, number> };

/** The ids of the files by those of the database. */
interface LedgerNames {
  readonly activityOf: ReadonlyMap<number, string>;
  readonly outcomeOf: ReadonlyMap<number, string>;
}

const outcomeIds = (course: CourseModel) => new Map(course.outcomes.map((o) => [o.externalId, o.id]));

/** How records of a kind are told apart, checked, stored and read back: what its `IntakeKind` is made from. */
interface Ledger<R> {
  readonly schema: yup.Schema<R>;
  /** What makes a record the same record, in one text. */
  readonly keyOf: (record: R) => string;
  /** The column that an error about the key names. */
  readonly keyField: string;
  readonly objection: (record: R, maxima: Maxima, outcomes: ReadonlySet<string>) => Objection;
  readonly table: PgTable & { readonly enrolmentId: AnyPgColumn };
  /** Columns that make a row the same row. */
  readonly keys: readonly AnyPgColumn[];
  readonly toRow: (record: R, ids: LedgerIds) => Record<string, unknown>;
  readonly fromRow: (row: Record<string, unknown>, student: string, names: LedgerNames) => R;
}

const place = (ids: FileIds, student: string) => ids.enrolmentOf.get(student)!;
const work = (ids: FileIds, activity: string | null) =>
  activity == null ? null : ids.activityOf.get(activity)!;

type AttemptRow = typeof attempts.$inferSelect;
type AttendanceRow = typeof attendance.$inferSelect;
type ReferralRow = typeof referrals.$inferSelect;
type RequirementRow = typeof requirements.$inferSelect;
type ResponseRow = typeof responses.$inferSelect;
type ResultRow = typeof outsideResults.$inferSelect;

/** Ties the types of a table's rows to the ledger; they are those that the same table was asked for. */
const ledger = <R, Row>(
  made: Omit<Ledger<R>, 'fromRow' | 'toRow'> & {
    readonly toRow: (record: R, ids: LedgerIds) => Row;
    readonly fromRow: (row: Row, student: string, names: LedgerNames) => R;
  },
): Ledger<R> => made as unknown as Ledger<R>;

const LEDGERS: { readonly [K in LedgerKind]: Ledger<RecordOf[K]> } = {
  attempts: ledger<RecordOf['attempts'], AttemptRow>({
    schema: yup.object({
      student: textField(),
      activity: textField(),
      number: yup.number().required(),
      submitted: yup.number().required(),
      points: maybeNumber(),
    }),
    keyOf: (a) => keyText(a.student, a.activity, a.number),
    keyField: 'attempt',
    objection: pointsObjection,
    table: attempts,
    keys: [attempts.enrolmentId, attempts.activityId, attempts.number],
    toRow: (a, ids) => ({
      enrolmentId: place(ids, a.student),
      activityId: ids.activityOf.get(a.activity)!,
      number: a.number,
      submittedAt: new Date(a.submitted),
      points: a.points,
    }),
    fromRow: (r, student, { activityOf }) => ({
      student,
      activity: activityOf.get(r.activityId) ?? '',
      number: r.number,
      submitted: r.submittedAt.getTime(),
      points: r.points,
    }),
  }),
  attendance: ledger<RecordOf['attendance'], AttendanceRow>({
    schema: yup.object({
      student: textField(),
      day: textField(),
      meeting: yup.string().defined(),
      attendance: yup
        .string()
        .oneOf([...ATTENDANCE])
        .required(),
      minutes: maybeNumber(),
    }),
    keyOf: (a) => keyText(a.student, a.day, a.meeting),
    keyField: 'day',
    objection: () => null,
    table: attendance,
    keys: [attendance.enrolmentId, attendance.day, attendance.meeting],
    toRow: ({ student, ...a }, ids) => ({ enrolmentId: place(ids, student), ...a }),
    fromRow: ({ enrolmentId: _, ...r }, student) => ({ student, ...r }),
  }),
  referrals: ledger<RecordOf['referrals'], ReferralRow>({
    schema: yup.object({
      id: textField(),
      student: textField(),
      day: textField(),
      reason: textField(),
      outcome: maybeText(),
    }),
    keyOf: (r) => keyText(r.student, r.id),
    keyField: 'referral_id',
    objection: () => null,
    table: referrals,
    keys: [referrals.enrolmentId, referrals.referralId],
    toRow: ({ student, id, ...r }, ids) => ({ enrolmentId: place(ids, student), referralId: id, ...r }),
    fromRow: ({ enrolmentId: _, referralId, ...r }, student) => ({ student, id: referralId, ...r }),
  }),
  requirements: ledger<RecordOf['requirements'], RequirementRow>({
    schema: yup.object({
      student: textField(),
      requirement: textField(),
      kind: yup
        .string()
        .oneOf([...REQUIREMENT_KINDS])
        .required(),
      needed: yup.number().required(),
      earned: yup.number().required(),
      day: maybeText(),
    }),
    keyOf: (r) => keyText(r.student, r.requirement),
    keyField: 'requirement',
    objection: () => null,
    table: requirements,
    keys: [requirements.enrolmentId, requirements.requirement],
    toRow: ({ student, ...r }, ids) => ({ enrolmentId: place(ids, student), ...r }),
    fromRow: ({ enrolmentId: _, ...r }, student) => ({ student, ...r }),
  }),
  responses: ledger<RecordOf['responses'], ResponseRow>({
    schema: yup.object({
      student: textField(),
      activity: maybeText(),
      item: textField(),
      attempt: yup.number().required(),
      answer: yup.string().defined(),
      at: maybeNumber(),
      score: maybeNumber(),
      // Kept before answers told of them.
      seconds: maybeNumber().default(null),
      hints: maybeNumber().default(null),
    }),
    keyOf: (r) => keyText(r.student, r.activity, r.item, r.attempt),
    keyField: 'item_id',
    objection: (r, maxima) =>
      r.activity != null && !maxima.has(r.activity)
        ? { field: 'activity_id', reason: `there is no activity “${r.activity}”` }
        : null,
    table: responses,
    keys: [responses.enrolmentId, responses.activityId, responses.item, responses.attempt],
    toRow: ({ student, activity, at, ...r }, ids) => ({
      enrolmentId: place(ids, student),
      activityId: work(ids, activity),
      at: toDate(at),
      ...r,
    }),
    fromRow: ({ enrolmentId: _, activityId, at, ...r }, student, { activityOf }) => ({
      student,
      activity: activityId == null ? null : (activityOf.get(activityId) ?? null),
      at: at?.getTime() ?? null,
      ...r,
    }),
  }),
  tests: ledger<RecordOf['tests'], ResultRow>({
    schema: yup.object({
      student: textField(),
      outcome: textField(),
      at: yup.number().required(),
      share: yup.number().required(),
      weight: yup.number().required(),
    }),
    keyOf: (r) => keyText(r.student, r.outcome, r.at),
    keyField: 'outcome',
    objection: (r, _, outcomes) =>
      outcomes.has(r.outcome) ? null : { field: 'outcome', reason: `there is no outcome “${r.outcome}”` },
    table: outsideResults,
    keys: [outsideResults.enrolmentId, outsideResults.outcomeId, outsideResults.at],
    toRow: ({ student, outcome, at, ...r }, ids) => ({
      enrolmentId: place(ids, student),
      outcomeId: ids.outcomeOf.get(outcome)!,
      at: new Date(at),
      ...r,
    }),
    fromRow: ({ enrolmentId: _, outcomeId, at, ...r }, student, { outcomeOf }) => ({
      student,
      outcome: outcomeOf.get(outcomeId) ?? '',
      at: at.getTime(),
      ...r,
    }),
  }),
};

/** A kind of record on students, by how its records are stored. */
function kindOf<K extends LedgerKind>(kind: K): IntakeKind<K> {
  const { schema, keyOf, keyField, objection, table, keys, toRow, fromRow } = LEDGERS[kind] as Ledger<
    RecordOf[K]
  >;
  const stored = async ({ orm }: Access, course: CourseModel, enrolmentId?: number) => {
    const names = {
      activityOf: new Map(course.activities.map((a) => [a.id, a.externalId])),
      outcomeOf: new Map(course.outcomes.map((o) => [o.id, o.externalId])),
    };
    const rows = await orm
      .select({ row: getTableColumns(table), student: persons.externalId })
      .from(table)
      .innerJoin(enrolments, eq(enrolments.id, table.enrolmentId))
      .innerJoin(persons, eq(persons.id, enrolments.personId))
      .where(ofStudents(course.row.id, enrolmentId == null ? undefined : [enrolmentId]));
    return new Map(
      rows.map(({ row, student }) => {
        const record = fromRow(row as unknown as Record<string, unknown>, student, names);
        return [keyOf(record), record];
      }),
    );
  };
  return {
    keyOf,
    schema,
    stored,
    plan: async (file, { access, course, students, maxima, outcomes, waits }) =>
      sort<RecordOf[K]>(file.rows, file.rejected, {
        keyOf,
        keyField,
        existing: await stored(access, course),
        same: sameFields,
        objection: (r) => objection(r, maxima, outcomes),
        waitsAlready: waits(kind),
        waits: (r) => !students.has(r.student),
        onDifference: 'change',
      }),
    write: (access, { ids, course }, changes) => {
      const all = { ...ids, outcomeOf: outcomeIds(course) };
      return upsertMany(access, table, keys, written(changes).map((r) => toRow(r, all)) as never);
    },
    remove: async (access, { ids, course }, records) => {
      const all = { ...ids, outcomeOf: outcomeIds(course) };
      await deleteMany(
        access,
        table,
        keys,
        records.map((r) => toRow(r, all)),
      );
      return 0;
    },
  };
}

export const ledgerKinds = mapKeys(LEDGER_KINDS, kindOf) as { readonly [K in LedgerKind]: IntakeKind<K> };
