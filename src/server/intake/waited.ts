import { and, eq, isNotNull } from 'drizzle-orm';
import * as yup from 'yup';
import { FILE_KINDS } from '@/core/formats/courseFiles';
import type { Access } from '@/data/database';
import { aliases, importChanges, imports, waiting } from '@/data/schema';

/** What marks, among what an import keeps, who the rows were that had waited. */
const MATCH = 'match';

const rowSchema = yup
  .object({
    importId: yup.number().nullable().defined(),
    kind: yup
      .string()
      .oneOf([...FILE_KINDS])
      .required(),
    key: yup.string().required(),
    record: yup.mixed<object>().required(),
    at: yup.number().required(),
  })
  .required();
const matchSchema = yup
  .object({
    student: yup.string().required(),
    person: yup.string().required(),
    name: yup.string().nullable().defined(),
    byHand: yup.boolean().required(),
    rows: yup.array(rowSchema).required(),
  })
  .required();

/** Somebody who was found, by hand or by a rule, and the rows of files that had waited for them. */
export type Match = yup.InferType<typeof matchSchema>;

/** Keeps who somebody was said to be, and what had waited, so that both can be taken back. */
export async function keepMatch({ orm }: Access, importId: number, match: Match): Promise<void> {
  await orm
    .insert(importChanges)
    .values({ importId, kind: 'events', key: MATCH, before: null, after: [match] });
}

/** The match that an import came from; null if it came from files. */
export async function matchOf({ orm }: Access, importId: number): Promise<Match | null> {
  const [row] = await orm
    .select({ after: importChanges.after })
    .from(importChanges)
    .where(and(eq(importChanges.importId, importId), eq(importChanges.key, MATCH)));
  const [match] = Array.isArray(row?.after) ? (row.after as unknown[]) : [];
  return match == null ? null : matchSchema.validateSync(match, { strict: true });
}

/**
 * Forgets the name of a match and lets its rows wait again, but for those of an import that was taken back meanwhile.
 */
export async function waitAgain({ orm }: Access, courseId: number, match: Match): Promise<void> {
  if (match.byHand)
    await orm.delete(aliases).where(and(eq(aliases.courseId, courseId), eq(aliases.value, match.person)));
  const undone = await orm
    .select({ id: imports.id })
    .from(imports)
    .where(and(eq(imports.courseId, courseId), isNotNull(imports.undoneAt)));
  const gone = new Set(undone.map((i) => i.id));
  for (const { at, ...row } of match.rows) {
    if (row.importId != null && gone.has(row.importId)) continue;
    await orm
      .insert(waiting)
      .values({ ...row, courseId, person: match.person, name: match.name, at: new Date(at) })
      .onConflictDoNothing();
  }
}
