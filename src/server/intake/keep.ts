import { and, eq, sql } from 'drizzle-orm';
import { FILE_KINDS, type FileKind, type RecordOf } from '@/core/course/records';
import { written, type Changes } from '@/core/formats/classify';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { importChanges, waiting } from '@/data/schema';
import { insertMany } from '@/data/write/bulk';
import type { CourseModel } from '@/data/queries/courseModel';
import { storedKey, type ImportPlan } from './plan';
import { keepReplaced, waitingName } from './waited';
import { ON_STUDENTS, KINDS } from './kinds';
import { type IntakeKind } from './kinds/kind';

/** What marks that a row of what an import keeps is of all records of a kind. */
export const ALL = '*';

/** Keeps what an import found and what it put there instead, so that it can be taken back. Events carry its number. */
export async function keepChanges({ orm }: Access, importId: number, plan: ImportPlan): Promise<void> {
  for (const kind of FILE_KINDS) {
    const changes: Changes<unknown> | undefined = kind === 'events' ? undefined : plan[kind];
    if (!changes || changes.added.length + changes.changed.length === 0) continue;
    await orm.insert(importChanges).values({
      importId,
      kind,
      key: ALL,
      before: [...changes.added.map(() => null), ...changes.changed.map((c) => c.before)],
      after: written(changes),
    });
  }
}

/** What marks the names of sections or categories that an import makes because its rows name them. */
export const MADE = 'made';

/** Keeps the names of the sections and categories that an import is about to make. */
export async function keepMade(
  { orm }: Access,
  importId: number,
  course: CourseModel,
  { roster, activities }: ImportPlan,
): Promise<void> {
  const fresh = (named: readonly (string | null)[], known: readonly { readonly name: string }[]) => {
    const there = new Set(known.map((k) => k.name));
    return [...new Set(named)].filter((name): name is string => name != null && !there.has(name));
  };
  const made = {
    roster: fresh(
      written(roster).map((r) => r.section),
      course.sections,
    ),
    activities: fresh(
      written(activities).map((a) => a.category),
      course.categories,
    ),
  };
  for (const kind of ['roster', 'activities'] as const) {
    if (made[kind].length === 0) continue;
    await orm.insert(importChanges).values({ importId, kind, key: MADE, before: null, after: made[kind] });
  }
}

/** Keeps the rows of people nobody knows yet. A row that waits already is replaced by the newer. */
export async function keepWaiting(
  access: Access,
  courseId: number,
  importId: number,
  plan: ImportPlan,
  now: Instant,
  absent: readonly string[],
): Promise<void> {
  const row = (kind: FileKind, person: string, key: string, record: unknown) => ({
    courseId,
    importId,
    kind,
    person,
    key,
    record,
    at: new Date(now),
  });
  const rowsOf = <K extends (typeof ON_STUDENTS)[number]>(kind: K) => {
    const { keyOf }: IntakeKind<K> = KINDS[kind];
    const changes = plan[kind] as Changes<RecordOf[K]> | undefined;
    return (changes?.waiting ?? []).map(({ value }) =>
      row(kind, value.student, storedKey(keyOf(value)), kind === 'gradebook' ? { ...value, absent } : value),
    );
  };
  const rows = [
    ...ON_STUDENTS.flatMap((kind) => rowsOf(kind)),
    ...(plan.events?.waiting ?? []).map(({ value: v }) => row('events', v.student, v.id, v)),
  ];
  if (rows.length === 0) return;
  const known = await access.orm
    .select()
    .from(waiting)
    .where(
      and(
        eq(waiting.courseId, courseId),
        sql`${waiting.key} = any(${sql.param(rows.map((r) => r.key))}::text[])`,
      ),
    );
  const fresh = new Set(rows.map(waitingName));
  await insertMany(access, waiting, rows, {
    conflict: sql`on conflict (course_id, kind, key) do update
      set record = excluded.record, import_id = excluded.import_id, person = excluded.person`,
  });
  await keepReplaced(
    access,
    importId,
    known.filter((r) => r.importId !== importId && fresh.has(waitingName(r))),
  );
}
