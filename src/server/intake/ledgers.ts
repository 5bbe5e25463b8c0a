import { eq, getTableColumns } from 'drizzle-orm';
import type { AnyPgColumn, PgTable } from 'drizzle-orm/pg-core';
import type { Objection } from '@/core/formats/classify';
import type { FileKind, RecordOf } from '@/core/course/records';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { attempts, attendance, enrolments, persons, referrals, requirements, responses } from '@/data/schema';
import { deleteMany, upsertMany } from '@/data/write/bulk';
import type { CourseModel } from '@/data/queries/courseModel';
import { ofStudents } from '@/data/queries/days';
import type { FileIds } from '@/data/queries/fileIds';

/** Kinds of records that hang on a student, each known by a few of its fields; nothing else rests on them. */
export const LEDGER_KINDS = ['attempts', 'attendance', 'referrals', 'requirements', 'responses'] as const;
export type LedgerKind = (typeof LEDGER_KINDS)[number];
export const isLedger = (kind: FileKind): kind is LedgerKind =>
  (LEDGER_KINDS as readonly string[]).includes(kind);

/** Points at most by work, as they will be once the import is taken. */
export type Maxima = ReadonlyMap<string, number | null>;

/** How records of a kind are told apart, checked, stored and read back. */
export interface Ledger<R> {
  /** What makes a record the same record, in one text. */
  readonly keyOf: (record: R) => string;
  /** The column that an error about the key names. */
  readonly keyField: string;
  readonly objection: (record: R, maxima: Maxima) => Objection;
  readonly table: PgTable & { readonly enrolmentId: AnyPgColumn };
  /** Columns that make a row the same row. */
  readonly keys: readonly AnyPgColumn[];
  readonly toRow: (record: R, ids: FileIds) => Record<string, unknown>;
  readonly fromRow: (
    row: Record<string, unknown>,
    student: string,
    activityOf: ReadonlyMap<number, string>,
  ) => R;
}

/** Parts of a key in one text. */
export const keyText = (...parts: readonly (string | number | null)[]): string => parts.join('\u0000');

const date = (at: Instant | null) => (at == null ? null : new Date(at));
const place = (ids: FileIds, student: string) => ids.enrolmentOf.get(student)!;
const work = (ids: FileIds, activity: string | null) =>
  activity == null ? null : ids.activityOf.get(activity)!;

/** Why points for an activity cannot be taken; null if they can. */
export function pointsObjection(
  g: { readonly activity: string; readonly points: number | null },
  maxima: Maxima,
): Objection {
  const maximum = maxima.get(g.activity);
  if (maximum === undefined) return { field: 'activity_id', reason: `there is no activity “${g.activity}”` };
  if (g.points == null) return null;
  if (maximum == null) return { field: 'points', reason: 'given for an activity without points' };
  return g.points > maximum
    ? { field: 'points', reason: `${g.points} is above the maximum of ${maximum}` }
    : null;
}

type AttemptRow = typeof attempts.$inferSelect;
type AttendanceRow = typeof attendance.$inferSelect;
type ReferralRow = typeof referrals.$inferSelect;
type RequirementRow = typeof requirements.$inferSelect;
type ResponseRow = typeof responses.$inferSelect;

/** Ties the types of a table's rows to the ledger; they are those that the same table was asked for. */
const ledger = <R, Row>(
  made: Omit<Ledger<R>, 'fromRow' | 'toRow'> & {
    readonly toRow: (record: R, ids: FileIds) => Row;
    readonly fromRow: (row: Row, student: string, activityOf: ReadonlyMap<number, string>) => R;
  },
): Ledger<R> => made as unknown as Ledger<R>;

export const LEDGERS: { readonly [K in LedgerKind]: Ledger<RecordOf[K]> } = {
  attempts: ledger<RecordOf['attempts'], AttemptRow>({
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
    fromRow: (r, student, activityOf) => ({
      student,
      activity: activityOf.get(r.activityId) ?? '',
      number: r.number,
      submitted: r.submittedAt.getTime(),
      points: r.points,
    }),
  }),
  attendance: ledger<RecordOf['attendance'], AttendanceRow>({
    keyOf: (a) => keyText(a.student, a.day, a.meeting),
    keyField: 'day',
    objection: () => null,
    table: attendance,
    keys: [attendance.enrolmentId, attendance.day, attendance.meeting],
    toRow: ({ student, ...a }, ids) => ({ enrolmentId: place(ids, student), ...a }),
    fromRow: ({ enrolmentId: _, ...r }, student) => ({ student, ...r }),
  }),
  referrals: ledger<RecordOf['referrals'], ReferralRow>({
    keyOf: (r) => keyText(r.student, r.id),
    keyField: 'referral_id',
    objection: () => null,
    table: referrals,
    keys: [referrals.enrolmentId, referrals.referralId],
    toRow: ({ student, id, ...r }, ids) => ({ enrolmentId: place(ids, student), referralId: id, ...r }),
    fromRow: ({ enrolmentId: _, referralId, ...r }, student) => ({ student, id: referralId, ...r }),
  }),
  requirements: ledger<RecordOf['requirements'], RequirementRow>({
    keyOf: (r) => keyText(r.student, r.requirement),
    keyField: 'requirement',
    objection: () => null,
    table: requirements,
    keys: [requirements.enrolmentId, requirements.requirement],
    toRow: ({ student, ...r }, ids) => ({ enrolmentId: place(ids, student), ...r }),
    fromRow: ({ enrolmentId: _, ...r }, student) => ({ student, ...r }),
  }),
  responses: ledger<RecordOf['responses'], ResponseRow>({
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
      at: date(at),
      ...r,
    }),
    fromRow: ({ enrolmentId: _, activityId, at, ...r }, student, activityOf) => ({
      student,
      activity: activityId == null ? null : (activityOf.get(activityId) ?? null),
      at: at?.getTime() ?? null,
      ...r,
    }),
  }),
};

/** Records of a kind, of a course or of one student, by key. */
export async function storedLedger<K extends LedgerKind>(
  { orm }: Access,
  course: CourseModel,
  kind: K,
  enrolmentId?: number,
): Promise<Map<string, RecordOf[K]>> {
  const { table, keyOf, fromRow } = LEDGERS[kind] as Ledger<RecordOf[K]>;
  const activityOf = new Map(course.activities.map((a) => [a.id, a.externalId]));
  const rows = await orm
    .select({ row: getTableColumns(table), student: persons.externalId })
    .from(table)
    .innerJoin(enrolments, eq(enrolments.id, table.enrolmentId))
    .innerJoin(persons, eq(persons.id, enrolments.personId))
    .where(ofStudents(course.row.id, enrolmentId == null ? undefined : [enrolmentId]));
  return new Map(
    rows.map(({ row, student }) => {
      const record = fromRow(row as unknown as Record<string, unknown>, student, activityOf);
      return [keyOf(record), record];
    }),
  );
}

/** Puts records in the place of those with the same key. */
export async function writeLedger<K extends LedgerKind>(
  access: Access,
  ids: FileIds,
  kind: K,
  records: readonly RecordOf[K][],
): Promise<void> {
  const { table, keys, toRow } = LEDGERS[kind] as Ledger<RecordOf[K]>;
  const rows = records.map((r) => toRow(r, ids));
  await upsertMany(access, table, keys, rows as never);
}

/** Takes records out. */
export async function removeLedger<K extends LedgerKind>(
  access: Access,
  ids: FileIds,
  kind: K,
  records: readonly RecordOf[K][],
): Promise<void> {
  const { table, keys, toRow } = LEDGERS[kind] as Ledger<RecordOf[K]>;
  await deleteMany(
    access,
    table,
    keys,
    records.map((r) => toRow(r, ids)),
  );
}
