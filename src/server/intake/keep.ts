import { FILE_KINDS, type FileKind, type RecordOf } from '@/core/formats/courseFiles';
import type { Changes } from '@/core/formats/classify';
import type { Instant } from '@/core/units';
import type { Access } from '@/data/database';
import { importChanges, waiting } from '@/data/schema';
import { LEDGER_KINDS, LEDGERS, type Ledger, type LedgerKind } from './ledgers';
import { scoreKey, storedKey, type ImportPlan } from './plan';

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
      after: [...changes.added, ...changes.changed].map((c) => c.value),
    });
  }
}

/** Rows a statement. */
const CHUNK = 1000;

/** Keeps the rows of people nobody knows yet. A row that waits already is replaced by the newer. */
export async function keepWaiting(
  { orm }: Access,
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
  const ledgerRows = <K extends LedgerKind>(kind: K) => {
    const { keyOf } = LEDGERS[kind] as Ledger<RecordOf[K]>;
    const changes = plan[kind] as Changes<RecordOf[K]> | undefined;
    return (changes?.waiting ?? []).map(({ value }) =>
      row(kind, value.student, storedKey(keyOf(value)), value),
    );
  };
  const rows = [
    ...(plan.gradebook?.waiting ?? []).map(({ value: v }) =>
      row('gradebook', v.student, storedKey(scoreKey(v.student, v.activity)), { ...v, absent }),
    ),
    ...LEDGER_KINDS.flatMap((kind) => ledgerRows(kind)),
    ...(plan.events?.waiting ?? []).map(({ value: v }) => row('events', v.student, v.id, v)),
  ];
  for (let i = 0; i < rows.length; i += CHUNK) {
    for (const values of rows.slice(i, i + CHUNK)) {
      await orm
        .insert(waiting)
        .values(values)
        .onConflictDoUpdate({
          target: [waiting.courseId, waiting.kind, waiting.key],
          set: { record: values.record, importId, person: values.person },
        });
    }
  }
}
