import { and, asc, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import * as yup from 'yup';
import { FILE_KINDS } from '@/core/course/records';
import type { Access } from '@/data/database';
import { aliases, importChanges, imports, waiting } from '@/data/schema';
import { insertMany } from '@/data/write/bulk';

/** What marks, among what an import keeps, who the rows were that had waited. */
const MATCH = 'match';
/** The same of rows that waited already and were replaced by newer ones. */
const REPLACED = 'replaced';

const rowSchema = yup
  .object({
    importId: yup.number().nullable().defined(),
    kind: yup
      .string()
      .oneOf([...FILE_KINDS])
      .required(),
    person: yup.string().required(),
    name: yup.string().nullable().defined(),
    key: yup.string().required(),
    record: yup.mixed<object>().required(),
    at: yup.number().required(),
  })
  .required();
const rowsSchema = yup.array(rowSchema).required();
const matchSchema = yup
  .object({
    student: yup.string().required(),
    person: yup.string().required(),
    name: yup.string().nullable().defined(),
    byHand: yup.boolean().required(),
    rows: rowsSchema,
  })
  .required();

/** A row that waited, as it is kept. */
type WaitedRow = yup.InferType<typeof rowSchema>;
/** Somebody who was found, by hand or by a rule, and the rows of files that had waited for them. */
export type Match = yup.InferType<typeof matchSchema>;

/** A row that waits, as it is kept for waiting again. */
export const asWaited = (row: typeof waiting.$inferSelect): WaitedRow => ({
  importId: row.importId,
  kind: row.kind,
  person: row.person,
  name: row.name,
  key: row.key,
  // What waits was read by us, from a file or a statement.
  record: row.record as object,
  at: row.at.getTime(),
});

/** What tells rows that wait in a course apart. */
export const waitingName = ({ kind, key }: { readonly kind: string; readonly key: string }): string =>
  `${kind} ${key}`;

/** What an import is listed as that came of rows which waited. */
export const whatWaitedOf = (name: string): string => `what waited of ${name.slice(0, 80)}`;

/** Keeps who somebody was said to be, and what had waited, so that both can be taken back. */
export async function keepMatch({ orm }: Access, importId: number, match: Match): Promise<void> {
  await orm
    .insert(importChanges)
    .values({ importId, kind: 'events', key: MATCH, before: null, after: [match] });
}

/** Keeps rows that an import replaces by newer ones while they wait. */
export async function keepReplaced(
  { orm }: Access,
  importId: number,
  rows: readonly (typeof waiting.$inferSelect)[],
): Promise<void> {
  if (rows.length === 0) return;
  await orm
    .insert(importChanges)
    .values({ importId, kind: 'events', key: REPLACED, before: null, after: rows.map(asWaited) });
}

/** What an import keeps under a mark; undefined if nothing. */
async function keptOf({ orm }: Access, importId: number, mark: string): Promise<unknown> {
  const [row] = await orm
    .select({ after: importChanges.after })
    .from(importChanges)
    .where(and(eq(importChanges.importId, importId), eq(importChanges.key, mark)));
  return row?.after;
}

/** The match that an import came from; null if it came from files. */
export const matchOf = async (access: Access, importId: number): Promise<Match | null> =>
  readMatch(await keptOf(access, importId, MATCH));

function readMatch(after: unknown): Match | null {
  const [match] = Array.isArray(after) ? (after as unknown[]) : [];
  return match == null ? null : matchSchema.validateSync(match, { strict: true });
}

/** The matches that hold, with rows that an import had left waiting. */
export async function matchesOfRows(
  { orm }: Access,
  courseId: number,
  importId: number,
): Promise<{ readonly importId: number; readonly match: Match }[]> {
  const rows = await orm
    .select({ importId: importChanges.importId, after: importChanges.after })
    .from(importChanges)
    .innerJoin(imports, eq(imports.id, importChanges.importId))
    .where(and(eq(imports.courseId, courseId), isNull(imports.undoneAt), eq(importChanges.key, MATCH)))
    .orderBy(asc(importChanges.importId));
  return rows.flatMap((row) => {
    const match = readMatch(row.after);
    return match?.rows.some((r) => r.importId === importId) ? [{ importId: row.importId, match }] : [];
  });
}

/** Takes the rows that wait since an import out again; what they had replaced waits instead. */
export async function dropWaitingOf(access: Access, courseId: number, importId: number): Promise<void> {
  const gone = await access.orm.delete(waiting).where(eq(waiting.importId, importId)).returning();
  const replaced = await keptOf(access, importId, REPLACED);
  if (replaced === undefined) return;
  const free = new Set(gone.map(waitingName));
  const before = rowsSchema.validateSync(replaced, { strict: true });
  await letRowsWait(
    access,
    courseId,
    before.filter((r) => free.has(waitingName(r))),
  );
}

/** Forgets the name of a match and lets its rows wait again. */
export async function waitAgain(access: Access, courseId: number, match: Match): Promise<void> {
  if (match.byHand)
    await access.orm
      .delete(aliases)
      .where(and(eq(aliases.courseId, courseId), eq(aliases.value, match.person)));
  await letRowsWait(access, courseId, match.rows);
}

/** Lets rows wait, but for those of an import that was taken back meanwhile. */
async function letRowsWait(access: Access, courseId: number, rows: readonly WaitedRow[]): Promise<void> {
  const undone = await access.orm
    .select({ id: imports.id })
    .from(imports)
    .where(and(eq(imports.courseId, courseId), isNotNull(imports.undoneAt)));
  const gone = new Set(undone.map((i) => i.id));
  const left = rows.filter((row) => row.importId == null || !gone.has(row.importId));
  await insertMany(
    access,
    waiting,
    left.map(({ importId, kind, person, name, key, record, at }) => ({
      courseId,
      importId,
      kind,
      person,
      name,
      key,
      record,
      at: new Date(at),
    })),
    { conflict: sql`on conflict do nothing` },
  );
}
